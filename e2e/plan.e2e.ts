import { violations } from './axe';
import { drag, expect, said, test } from './corvun';
import { block, card, day, event, middle, onPlan, pointAt, tab } from './planning';

onPlan();

test('a card is dragged onto a day with its true length, onto the head of one, and comes back with undo', async ({
  sort: page,
}) => {
  const from = await middle(card(page, 'Send photos of the staff plate'));
  const to = await pointAt(page, 'Tue 4 Aug', 13);
  await page.mouse.move(from.x, from.y);
  await page.mouse.down();
  await page.mouse.move(from.x + 10, from.y - 10, { steps: 3 });
  await page.mouse.move(to.x, to.y + 8, { steps: 8 });
  await expect(page.locator('[data-outline]')).toContainText('13:00 – 13:45');
  await expect(page.locator('[data-outline]')).toContainText('30 min of the gap stay');
  await page.mouse.move(to.x, to.y - 44, { steps: 4 });
  await expect(page.locator('[data-outline]')).toContainText('11:45');
  await expect(page.locator('[data-outline]')).toContainText('over Site walk, north bank');
  await page.mouse.move(to.x, to.y + 8, { steps: 4 });
  await page.mouse.up();
  await expect(block(page, 'Send photos of the staff plate on the lower field 13:00 – 13:45')).toBeVisible();
  await expect(card(page, 'Send photos of the staff plate')).toHaveCount(0);
  await page.keyboard.press('u');
  await expect(card(page, 'Send photos of the staff plate')).toBeVisible();

  const head = await page.locator('[data-head="2026-08-06"]').boundingBox();
  await drag(page, await middle(card(page, 'Submit the form for section B')), {
    x: (head?.x ?? 0) + 60,
    y: (head?.y ?? 0) + 70,
  });
  await expect(page.locator('[data-head="2026-08-06"]').getByRole('button', { name: /Submit the form/ })).toBeVisible();
  await expect(card(page, 'Submit the form for section B')).toBeVisible();
});

test('cards get their time by keys: a numbered gap, the arrows, several in a row, and parts of a long one', async ({
  sort: page,
  corvun,
}) => {
  await card(page, 'Ferry invoice').focus();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('status').filter({ hasText: 'Mon 3 Aug, 11:45 to 12:05' })).toBeAttached();
  await page.keyboard.press('3');
  await expect(block(page, 'Ferry invoice 15:00 – 15:20')).toBeVisible();
  await expect(page.locator('[data-card]:focus')).toHaveCount(1);

  await card(page, 'Submit the form for section B').focus();
  await page.keyboard.press('Enter');
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('Shift+ArrowUp');
  await page.keyboard.press('Shift+ArrowUp');
  await page.keyboard.press('Enter');
  await expect(
    day(page, 'Tue 4 Aug').getByRole('button', { name: /^Block: Submit the form for section B 13:15 – 13:45/ }),
  ).toBeVisible();
  await expect(card(page, 'Submit the form for section B')).toContainText('30 min of 1 h');

  await card(page, 'Find out').focus();
  await page.keyboard.press('m');
  await page.keyboard.press('Shift+ArrowRight');
  await expect(page.locator('[data-card][aria-pressed="true"]')).toHaveCount(2);
  await page.keyboard.press('Enter');
  await page.keyboard.press('1');
  await expect(said(page)).toContainText('2 blocks have time, 50 min in all, from Mon 3 Aug at 13:00 on');
  await page.keyboard.press('u');
  await expect(said(page)).toContainText('Taken back');

  await card(page, 'Find out').focus();
  await page.keyboard.press('Enter');
  await page.keyboard.press('Escape');
  await expect(page.locator('[data-gap]')).toHaveCount(0);
  const { entries } = await corvun.api<{ entries: { title: string }[] }>('/agenda?from=2026-08-03&days=5');
  expect(entries.filter((one) => one.title.startsWith('Find out'))).toEqual([]);
});

test('the tray: drawers, a line to find in it, groups; its height is kept, and it folds away', async ({ sort: page, corvun }) => {
  await page.getByLabel('Find in the tray').fill('form section');
  await expect(page.locator('[data-card]')).toHaveCount(1);
  await page.getByLabel('Find in the tray').fill('nothing like this');
  await expect(page.getByText('Nothing in this drawer is called so.')).toBeVisible();
  await page.getByLabel('Find in the tray').press('Escape');
  await tab(page, /^Due soon/).click();
  await expect(card(page, 'Submit the form for section B')).toHaveCount(0);
  await tab(page, /^Due soon/).press('ArrowRight');
  await expect(tab(page, /^This week/)).toHaveAttribute('aria-selected', 'true');
  await tab(page, /^By list/).click();
  const edge = page.getByRole('separator', { name: 'Height of the tray' });
  await edge.focus();
  for (let up = 0; up < 4; up += 1) await page.keyboard.press('ArrowUp');
  await expect(page.getByRole('tabpanel').getByRole('heading', { name: /^Permits/ })).toBeVisible();
  await expect(edge).toHaveAttribute('aria-valuenow', '264');
  await corvun.reload(page);
  await expect(edge).toHaveAttribute('aria-valuenow', '264');
  await expect(tab(page, /^By list/)).toHaveAttribute('aria-selected', 'true');
  await page.keyboard.press('y');
  await expect(page.getByRole('tabpanel')).toHaveCount(0);
  await page.keyboard.press('y');
  await expect(page.getByRole('tabpanel')).toBeVisible();
});

test('something new is drawn on the grid or made with N: an event, time for a task, quiet; Escape leaves nothing', async ({
  sort: page,
  corvun,
}) => {
  const from = await pointAt(page, 'Fri 7 Aug', 12);
  await drag(page, from, { x: from.x, y: from.y + 66 });
  const line = page.getByLabel('What it is', { exact: true });
  await expect(line).toBeFocused();
  await expect(page.getByText('Fri 7 Aug, 12:00 – 13:30')).toBeVisible();
  await line.fill('Reed count');
  expect(await violations(page)).toEqual([]);
  await page.reload();
  await expect(line).toHaveValue('Reed count');
  await line.press('Enter');
  await expect(event(page, 'Reed count 12:00 – 13:30')).toBeVisible();
  await expect(said(page)).toContainText('“Reed count” is on Fri 7 Aug at 12:00, in Fen');

  await page.keyboard.press('n');
  await line.fill('Jetty round every Tue at 15:30 for 30 min');
  await expect(page.getByText('Tue 4 Aug, 15:30 – 16:00')).toBeVisible();
  await line.press('Enter');
  await expect(day(page, 'Tue 4 Aug').getByRole('button', { name: /^Event: Jetty round 15:30/ })).toBeVisible();

  await page.keyboard.press('n');
  await page.getByRole('radio', { name: 'Time for a task' }).check();
  await line.fill('form section');
  await expect(page.getByRole('list', { name: 'Open tasks' }).getByRole('button')).toHaveCount(2);
  await line.press('Enter');
  await expect(block(page, 'Submit the form for section B 11:45 – 12:15')).toBeVisible();

  const quiet = await pointAt(page, 'Thu 6 Aug', 14);
  await drag(page, { x: quiet.x, y: quiet.y + 2 }, { x: quiet.x, y: quiet.y + 88 });
  await page.getByRole('radio', { name: 'Quiet time' }).check();
  await page.getByRole('button', { name: /^Make it/ }).click();
  await expect(block(page, 'Quiet time 14:00 – 16:00')).toBeVisible();

  const before = await corvun.api<{ entries: unknown[] }>('/agenda?from=2026-08-03&days=5');
  const other = await pointAt(page, 'Fri 7 Aug', 13.75);
  await page.mouse.dblclick(other.x, other.y);
  await line.fill('Never mind');
  await line.press('Escape');
  await expect(line).toHaveCount(0);
  await page.keyboard.press('n');
  await expect(line).toHaveValue('');
  await line.press('Escape');
  expect((await corvun.api<{ entries: unknown[] }>('/agenda?from=2026-08-03&days=5')).entries).toHaveLength(
    before.entries.length,
  );
});

test('several entries are marked, moved together and taken away together', async ({ sort: page }) => {
  await event(page, 'Site walk, north bank').click({ modifiers: ['Shift'] });
  await block(page, 'Fetch hose fittings').focus();
  await page.keyboard.press('Shift+M');
  const bar = page.getByRole('toolbar', { name: 'What is marked' });
  await expect(bar).toContainText('2 entries marked');
  await bar.getByRole('button', { name: 'A day later' }).click();
  await expect(day(page, 'Wed 5 Aug').getByRole('button', { name: /^Event: Site walk, north bank 10:00/ })).toBeVisible();
  await expect(day(page, 'Wed 5 Aug').getByRole('button', { name: /^Block: Fetch hose fittings/ })).toBeVisible();
  await bar.getByRole('button', { name: 'category …' }).click();
  await page.getByLabel('Category of the marked events; empty for none').fill('bank');
  await page.keyboard.press('Enter');
  await expect(said(page)).toContainText('1 entry has the category bank; 1 other cannot be');
  await bar.getByRole('button', { name: 'Take away' }).click();
  await expect(event(page, 'Site walk, north bank')).toHaveCount(0);
  await expect(bar).toHaveCount(0);
  await page.keyboard.press('u');
  await expect(event(page, 'Site walk, north bank')).toBeVisible();
});

test('a block: another like it, not today, free to others, its time given back, done early', async ({ sort: page, corvun }) => {
  const hose = block(page, 'Fetch hose fittings');
  await hose.focus();
  await page.keyboard.press('+');
  await expect(said(page)).toContainText('“Fetch hose fittings” has time on Tue 4 Aug at');
  await expect(hose).toHaveCount(2);
  await page.keyboard.press('u');
  await expect(hose).toHaveCount(1);
  await hose.focus();
  await page.keyboard.press('b');
  await expect(said(page)).toContainText('“Fetch hose fittings” is shown as free to others');
  await hose.focus();
  await page.keyboard.press('a');
  await expect(said(page)).toContainText('“Fetch hose fittings” is on Wed 5 Aug at');
  await expect(day(page, 'Wed 5 Aug').getByRole('button', { name: /^Block: Fetch hose fittings/ })).toBeFocused();
  await page.keyboard.press('Backspace');
  await expect(hose).toHaveCount(0);
  await expect(card(page, 'Fetch hose fittings')).toBeVisible();

  const grant = block(page, 'Grant figures, section 2');
  await grant.focus();
  await page.keyboard.press('x');
  await expect(said(page)).toContainText(/“Grant figures, section 2” is done; \d+ min of your time is free again/);
  await expect(block(page, 'Grant figures, section 2 10:15 – 10:')).toBeVisible();
  const open = await corvun.api<{ entries: { title: string; status: string }[] }>('/agenda?from=2026-08-03&days=1');
  expect(open.entries.find((one) => one.title === 'Grant figures, section 2')?.status).toBe('COMPLETED');
  await expect(block(page, 'Card ready: hang the new info board')).toHaveAccessibleName(/still open/);
});

test('from Lists and Find a task is given time', async ({ sort: page, corvun }) => {
  await page.goto(`${corvun.url}/lists`);
  const row = page.locator('[data-task]', { hasText: 'Submit the form for section B' });
  await row.focus();
  await page.keyboard.press('t');
  const choice = page.getByRole('group', { name: 'Where its time could go' });
  await expect(choice.getByRole('button').first()).toBeFocused();
  await page.keyboard.press('1');
  await expect(said(page)).toContainText('“Submit the form for section B” has time on Mon 3 Aug');
  await page.goto(`${corvun.url}/find?q=peat%20paper`);
  await page.getByRole('button', { name: 'Give it time: “Read the peat paper”' }).click();
  await expect(choice).toBeVisible();
});
