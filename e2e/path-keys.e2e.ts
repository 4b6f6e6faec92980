import { expect, openLine, pane, said, sheet, stack, test, waitingCount } from './corvun';

const TEXT =
  'Hello Maren,\n\ncould you send me the photo of gauge 9 by tomorrow? It takes half an hour.\n\nBest regards\nTomas Rieger';

test('the whole path with the keyboard only', async ({ sort: page, corvun }) => {
  const before = await waitingCount(page);
  await corvun.mail({ subject: 'Gauge 9: photo', text: TEXT });
  await expect(stack(page).getByText(`${before + 1} to decide`)).toBeVisible();

  await page.keyboard.press('End');
  await expect(sheet(page).getByRole('heading', { name: 'Gauge 9: photo' })).toBeVisible();
  await expect(sheet(page).locator('.mark-ask').first()).toContainText('could you send me the photo');
  await expect(sheet(page).locator('.mark-date')).toHaveText('tomorrow');
  await expect(sheet(page).locator('.mark-duration')).toHaveText('half an hour');
  await expect(pane(page).getByLabel('Title')).toHaveValue('Send the photo of gauge 9');
  await expect(pane(page).getByLabel('How long')).toHaveValue('30 min');

  await page.keyboard.press('t');
  await expect(page.getByRole('region', { name: 'Day strip' }).getByRole('button', { name: /^1:/ })).toBeVisible();
  await page.keyboard.press('3');
  await expect(said(page)).toContainText('“Send the photo of gauge 9” has time on Mon 3 Aug at 15:00, 30 min');
  await expect(stack(page).getByText(`${before} to decide`)).toBeVisible();

  await page.keyboard.press('Shift+P');
  const block = page.getByRole('button', { name: /^Block: Send the photo of gauge 9 15:00 – 15:30/ });
  await block.focus();
  await page.keyboard.press('m');
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('Enter');
  await expect(said(page)).toContainText('is on Tue 4 Aug at 15:00');
  const moved = page
    .getByRole('region', { name: 'Tue 4 Aug', exact: true })
    .getByRole('button', { name: /^Block: Send the photo/ });
  await expect(moved).toBeFocused();
  await page.keyboard.press('m');
  await page.keyboard.press('Shift+ArrowDown');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('button', { name: /^Block: Send the photo of gauge 9 15:00 – 15:45/ })).toBeVisible();

  const longer = page.getByRole('button', { name: /^Block: Send the photo of gauge 9/ });
  await longer.focus();
  await page.keyboard.press('o');
  await expect(sheet(page).getByRole('heading', { name: 'Gauge 9: photo' })).toBeVisible();
  await expect(sheet(page).getByText('Task: Send the photo of gauge 9')).toBeVisible();
  await page.goBack();

  await longer.focus();
  await page.keyboard.press('x');
  await expect(page.getByRole('button', { name: /^Block: Send the photo of gauge 9 15:00 – 15:45, done/ })).toBeVisible();

  await corvun.reload(page);
  await expect(page.getByRole('button', { name: /^Block: Send the photo of gauge 9 15:00 – 15:45, done/ })).toBeVisible();
  for (const sentence of ['is done', 'is on Tue 4 Aug at 15:00', 'is on Tue 4 Aug at 15:00', 'has time on Mon 3 Aug at 15:00']) {
    await page.keyboard.press('u');
    await expect(said(page)).toContainText(`Taken back: “Send the photo of gauge 9” ${sentence}`);
  }
  await page.keyboard.press('Shift+S');
  await expect(stack(page).getByText(`${before + 1} to decide`)).toBeVisible();
});

test('every destination with at most two keys, and a line that says what was done', async ({ sort: page, corvun }) => {
  const steps: [string, string[], RegExp][] = [
    ['Gauge 14: readings for the county', ['Enter'], /is on Permits/],
    ['Fen & Field Letter: a good year for bitterns', ['Enter'], /was dropped/],
    ['Question about the ditch', ['l', '2'], /is on Field season/],
    ['Board papers', ['d', '2'], /is on Tue 4 Aug/],
    ['Plugs for spring', ['d', '9'], /is in week 33/],
    ['Rehearsal moved', ['s', '3'], /is on the shelf until Mon 10 Aug/],
    ['Dog on the boardwalk', ['r', 'Enter'], /is kept for reference/],
    ['Timesheets', ['x', '3'], /is done, 5 min/],
    ['Cake|Key to gauge hut', ['Backspace'], /was dropped/],
    ['Lunch with the mayor', ['Enter'], /is an event on Tue 11 Aug at 12:30/],
  ];
  for (const [subject, keys, sentence] of steps) {
    const left = await waitingCount(page);
    const { items } = await corvun.api<{ items: { id: string; subject: string }[] }>('/incoming?limit=100');
    await page.goto(`${corvun.url}/sort/${items.find((line) => new RegExp(subject).test(line.subject))?.id}`);
    await expect(sheet(page).getByRole('heading', { name: new RegExp(subject) })).toBeVisible();
    await page.locator('body').press('Shift');
    for (const key of keys) {
      await page.keyboard.press(key);
      if (/^[ldsrx]$/.test(key)) await expect(pane(page).locator('[data-keeps-enter] button').first()).toBeVisible();
    }
    await expect(said(page)).toContainText(sentence);
    await expect(stack(page).getByText(`${left - 1} to decide`)).toBeVisible();
  }
  await page.keyboard.press('Shift+L');
  await page.getByRole('link', { name: 'Reference' }).click();
  await expect(page.getByRole('link', { name: /Dog on the boardwalk/ })).toBeVisible();
});

test('what was changed before deciding survives a reload', async ({ sort: page, corvun }) => {
  await openLine(page, 'Gatter am Nordweg');
  await page.keyboard.press('n');
  await pane(page).getByLabel('Title').fill('Look at the gate');
  await pane(page).getByLabel('How long').fill('1h30');
  await page.keyboard.press('Enter');
  await pane(page)
    .getByLabel(/^Deadline/)
    .fill('31 June');
  await expect(pane(page).getByText('Not a date')).toBeVisible();
  await pane(page)
    .getByLabel(/^Deadline/)
    .fill('Friday');
  await page.keyboard.press('Enter');
  await corvun.reload(page);
  await expect(pane(page).getByLabel('Title')).toHaveValue('Look at the gate');
  await expect(pane(page).getByLabel('How long')).toHaveValue('1 h 30');
  await expect(pane(page).getByLabel(/^Deadline/)).toHaveValue('Fri 7 Aug');
  await page.keyboard.press('Enter');
  await expect(said(page)).toContainText('“Look at the gate” is on Fri 7 Aug, Field season');
  await page.keyboard.press('u');
  await expect(said(page)).toContainText('Taken back');
});
