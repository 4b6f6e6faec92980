import { violations } from './axe';
import { expect, openAt, pane, said, sheet, stack, test, waitingCount } from './corvun';

interface Task {
  id: string;
  title: string;
  notes: string;
  tags: string[];
  priority: string;
  repeat: string | null;
  parentId: string | null;
  deadlineFixed: boolean;
  attachmentList: { name: string }[];
  blocks: { start: string; end: string }[];
}

test('before it goes: everything a task can carry, by keyboard, kept over a reload', async ({ sort: page, corvun }) => {
  await openAt(page, corvun, 'Gauge 14: readings for the county');
  await page.keyboard.press('b');
  const notes = pane(page).getByLabel('Notes');
  await expect(notes).toBeFocused();
  await page.keyboard.type('Ask Lea first.');
  await page.keyboard.press('Shift+Tab');
  await page.keyboard.press('Enter');
  await expect(notes).toHaveValue(/^Ask Lea first\.\n\nHello Maren,/);
  await pane(page).getByLabel('Steps, one a line').fill('Read the logger\nSend the table');
  await pane(page).getByLabel('Tags').fill('survey money');
  await pane(page).getByTitle('high priority').click();
  await pane(page).getByLabel('Repeats').fill('fortnight-ish');
  await expect(pane(page).getByText('Write it as “every month”')).toBeVisible();
  await pane(page).getByLabel('Repeats').fill('every 2 weeks');
  await pane(page).getByRole('checkbox', { name: /fixed/ }).uncheck();
  await pane(page).getByRole('checkbox', { name: 'gauge-14-form.pdf' }).uncheck();
  expect(await violations(page)).toEqual([]);
  await pane(page).getByLabel('Tags').press('Escape');
  await page.reload();
  const folded = pane(page).getByRole('button', { name: /^Before it goes/ });
  await expect(folded).toContainText('high priority · #survey · #money · notes · 2 steps · every 2 weeks · 0 of 1 file');
  await page.locator('body').press('Enter');
  await expect(said(page)).toContainText('Send the raw readings of gauge 14');
  const tasks = await corvun.api<Task[]>('/tasks');
  const task = tasks.find((one) => one.notes.startsWith('Ask Lea first.'));
  expect(task).toMatchObject({
    tags: ['survey', 'money'],
    priority: 'high',
    repeat: 'FREQ=WEEKLY;INTERVAL=2',
    deadlineFixed: false,
    attachmentList: [],
  });
  expect(tasks.filter((one) => one.parentId === task?.id).map((one) => one.title)).toEqual(['Read the logger', 'Send the table']);
  await page.goto(`${corvun.url}/lists?task=${task?.id}`);
  const rows = page.locator('[data-task]');
  await expect(rows.filter({ hasText: 'Ask Lea first.' })).toBeVisible();
  const below = (await rows.allTextContents()).findIndex((text) => text.includes('Ask Lea first.'));
  await expect(rows.nth(below + 1)).toContainText('Read the logger');
  await expect(rows.nth(below + 2)).toContainText('Send the table');
  await rows.nth(below + 1).press('e');
  await page.getByRole('menuitem', { name: 'How long it takes' }).press('ArrowRight');
  await page.getByRole('menuitem', { name: '1 h 30' }).click();
  await expect(rows.nth(below + 1)).toContainText('1 h 30');
  await rows.nth(below + 1).press('x');
  await expect(
    page.getByRole('list', { name: 'Steps', exact: true }).getByRole('checkbox', { name: /Read the logger/ }),
  ).toBeChecked();
});

test('the best time with two keys, and several blocks with a few', async ({ sort: page, corvun }) => {
  await openAt(page, corvun, 'Question about the ditch');
  await page.keyboard.press('t');
  await expect(pane(page).getByRole('group', { name: 'Best times' }).getByRole('button').first()).toBeFocused();
  await page.keyboard.press('Enter');
  await expect(said(page)).toContainText('has time on');
  await openAt(page, corvun, 'Interim report: template and dates');
  await page.keyboard.press('t');
  await page.keyboard.press('+');
  await expect(pane(page).getByRole('button', { name: 'Choose the first gap' })).toBeFocused();
  await page.keyboard.press('1');
  await page.keyboard.press('3');
  await page.keyboard.press('3');
  await page.keyboard.press('2');
  await expect(pane(page).getByRole('list', { name: 'Chosen blocks' }).getByRole('listitem')).toHaveCount(2);
  expect(await violations(page)).toEqual([]);
  await page.keyboard.press('Enter');
  await expect(said(page)).toContainText('has 2 blocks of time');
  const title = /“(.+)” has 2 blocks/.exec((await said(page).textContent()) ?? '')?.[1];
  const task = (await corvun.api<Task[]>('/tasks')).find((one) => one.title === title);
  expect(task?.blocks.map((one) => Date.parse(one.end) - Date.parse(one.start))).toEqual([3_600_000, 3_600_000]);
  await page.keyboard.press('u');
  await expect(said(page)).toContainText('Taken back');
  expect((await corvun.api<Task[]>('/tasks')).some((one) => one.id === task?.id)).toBe(false);
});

test('nothing is said about free time, and no key is for it, before it is read', async ({ sort: page, corvun }) => {
  let release = () => {};
  const held = new Promise<void>((resolve) => (release = resolve));
  await page.route(/\/api\/days\?/, async (route) => {
    await held;
    await route.continue();
  });
  await openAt(page, corvun, 'Interim report: template and dates');
  // The numbers of days mean the same before.
  await page.keyboard.press('d');
  const numbered = pane(page).getByRole('group', { name: 'Days' }).getByRole('button');
  await expect(numbered.nth(6)).toHaveText('7Sun 9 Aug');
  await page.keyboard.press('t');
  await page.keyboard.press('+');
  await expect(pane(page).getByText('Looking for what is free …')).toBeVisible();
  await page.keyboard.press('Enter');
  await expect(pane(page).getByText(/No gap|no gap is long/)).toHaveCount(0);
  release();
  await expect(pane(page).getByRole('button', { name: 'Choose the first gap' })).toBeFocused();
  await page.keyboard.press('1');
  await expect(pane(page).getByRole('list', { name: 'Chosen blocks' }).getByRole('listitem')).toHaveCount(1);
  await expect(sheet(page).getByRole('heading', { name: 'Interim report: template and dates' })).toBeVisible();
});

test('a reference goes into a note, which opens its original and is written on', async ({ sort: page, corvun }) => {
  await openAt(page, corvun, 'Gauge 14: readings for the county');
  await page.keyboard.press('r');
  await pane(page).getByLabel('Or into the note called').fill('Gauges');
  await pane(page).getByLabel('Or into the note called').press('Enter');
  await expect(said(page)).toContainText('is in the note “Gauges”');
  await page.keyboard.press('Shift+N');
  await page.getByRole('link', { name: /^Gauges/ }).click();
  const note = page.getByRole('article', { name: 'Gauges' });
  await expect(note.getByRole('heading', { name: 'Send the raw readings of gauge 14' })).toBeVisible();
  expect(await violations(page)).toEqual([]);
  await page.keyboard.press('n');
  const text = page.getByLabel('Text, in Markdown');
  await expect(text).toBeFocused();
  await text.press('Control+Home');
  await page.keyboard.type('Logger **77**, <b>not</b> ![x](http://far.example/x.png)\n\n');
  await page.reload();
  await expect(text).toHaveValue(/^Logger \*\*77\*\*/);
  expect(await violations(page)).toEqual([]);
  await text.press('Control+Enter');
  await expect(note.getByText('Logger 77, <b>not</b>')).toBeVisible();
  await expect(note.locator('img, .page-text b')).toHaveCount(0);
  await note.getByRole('link', { name: 'the original' }).click();
  await expect(sheet(page).getByRole('heading', { name: 'Gauge 14: readings for the county' })).toBeVisible();
  await sheet(page).getByRole('link', { name: 'Gauges' }).click();
  await expect(note).toBeVisible();
  await expect(note.getByRole('link', { name: 'gauge-14-form.pdf' })).toBeVisible();
  await note.getByRole('button', { name: 'Take away' }).click();
  await expect(page.getByRole('link', { name: /^Gauges/ })).toHaveCount(0);
  await page.keyboard.press('u');
  await expect(page.getByRole('link', { name: /^Gauges/ })).toBeVisible();
});

test('thoughts are gathered one a line into the inbox, and sorted after', async ({ sort: page, corvun }) => {
  const before = await waitingCount(page);
  await page.keyboard.press('Shift+G');
  const line = page.getByLabel('A thought');
  await expect(line).toBeFocused();
  for (const thought of ['Ask Oda about the boots', 'Cake for Emil on Friday', 'Paint the sign >Boardwalk repair']) {
    await line.fill(thought);
    await line.press('Enter');
    await expect(page.getByRole('list', { name: 'Gathered' }).getByText(thought)).toBeVisible();
  }
  await line.fill('half a thou');
  expect(await violations(page)).toEqual([]);
  await page.reload();
  await expect(line).toHaveValue('half a thou');
  await expect(page.getByRole('list', { name: 'Gathered' }).getByRole('listitem')).toHaveCount(3);
  await page.getByRole('button', { name: 'Sort them now' }).click();
  await expect(stack(page).getByText(`${before + 3} to decide`)).toBeVisible();
  await expect(stack(page).getByRole('combobox', { name: 'Show' })).toHaveValue('typed');
  await expect(stack(page).getByRole('button', { name: /Cake for Emil/ })).toBeVisible();
  const { items } = await corvun.api<{ items: { subject: string; kind: string }[] }>('/incoming?limit=100&order=newest');
  expect(items.slice(0, 3).every((one) => one.kind === 'typed')).toBe(true);
});

test('what the text names is used with a click: a place, a person, a sum', async ({ sort: page, corvun }) => {
  await corvun.mail({
    subject: 'Site visit',
    text: 'Hello Maren,\n\nwe meet at the field hut on Thursday at 14:00. The crane costs 480 €. Write to Ines Aalto <ines@aalto-timber.example> for the key.\n',
  });
  await openAt(page, corvun, 'Site visit');
  await sheet(page).getByRole('button', { name: '480.00 EUR' }).click();
  await sheet(page)
    .getByRole('button', { name: /^place/ })
    .click();
  await expect(pane(page).getByLabel('Place')).toHaveValue('the field hut');
  await sheet(page)
    .getByRole('button', { name: /^person/ })
    .click();
  await expect(pane(page).getByLabel('To whom')).toHaveValue('Ines Aalto <ines@aalto-timber.example>');
  await expect(
    pane(page).locator('#known-people option[value="Tomas Rieger <tomas.rieger@county-water.example>"]'),
  ).toBeAttached();
  await pane(page).getByLabel('By when, if it matters').fill('Friday');
  await pane(page).getByLabel('By when, if it matters').press('Enter');
  await expect(said(page)).toContainText('waits on Ines Aalto <ines@aalto-timber.example>, until Fri 7 Aug');
  expect((await corvun.api<Task[]>('/tasks')).some((one) => one.notes === '480 €')).toBe(true);
});

test('what always got a time is proposed with one, and Enter takes it', async ({ sort: page, corvun }) => {
  const letter = (number: number) =>
    corvun.mail({ from: 'Noor Valk <noor@reed-count.example>', subject: `Plots ${number}`, text: 'Could you mark the plots?' });
  const incoming = () => corvun.api<{ items: { id: string; subject: string }[] }>('/incoming?limit=100&order=newest');
  for (const [number, start] of [
    [1, '2026-08-04T08:00'],
    [2, '2026-08-04T08:30'],
    [3, '2026-08-04T18:00'],
  ] as const) {
    await letter(number);
    const line = (await incoming()).items.find((one) => one.subject === `Plots ${number}`);
    await corvun.api('/decisions', 'POST', { incoming: [line?.id], to: 'time', list: 'Field season', start, minutes: 25 });
  }
  await letter(4);
  await openAt(page, corvun, 'Plots 4');
  const proposal = pane(page).getByRole('region', { name: 'Suggestion' });
  await expect(proposal).toContainText('things like this usually get the next day (median of 3)');
  await expect(proposal).toContainText(/Tue 4 Aug, \d+:\d\d/);
  const when = /Field season.*?(Tue 4 Aug, \d+:\d\d)/s.exec((await proposal.textContent()) ?? '')?.[1] ?? 'no time';
  await page.locator('body').press('Enter');
  await expect(said(page)).toContainText(`has time on ${when.replace(',', ' at')}`);
});

test('a thought that could not be sent comes back into the line, and is sent when the server is there again', async ({
  sort: page,
  corvun,
}) => {
  await page.keyboard.press('Shift+G');
  const line = page.getByLabel('A thought');
  await expect(line).toBeFocused();
  await corvun.kill();
  await line.fill('Ask Oda about the boots');
  await line.press('Enter');
  await expect(page.getByRole('alert')).toContainText('does not answer');
  await expect(line).toHaveValue('Ask Oda about the boots');
  await corvun.start();
  await line.press('Enter');
  await expect(page.getByRole('list', { name: 'Gathered' }).getByText('Ask Oda about the boots')).toBeVisible();
});

test('a note changed meanwhile in another window is not overwritten, and what was written stays', async ({
  sort: page,
  corvun,
}) => {
  const { id } = await corvun.api<{ id: string }>('/notes', 'POST', { title: 'Field hut' });
  await page.goto(`${corvun.url}/notes/${id}`);
  await expect(page.getByRole('article', { name: 'Field hut' })).toBeVisible();
  await page.keyboard.press('n');
  const text = page.getByLabel('Text, in Markdown');
  await text.fill('The key hangs behind the barometer.');
  await corvun.api(`/notes/${id}`, 'PATCH', { text: 'The lock was changed.' });
  await expect(page.getByText('The page was changed meanwhile in another place.')).toBeVisible();
  await text.press('Control+Enter');
  await expect(page.getByRole('alert')).toContainText('changed meanwhile');
  await expect(text).toHaveValue('The key hangs behind the barometer.');
  expect((await corvun.api<{ text: string }>(`/notes/${id}`)).text).toBe('The lock was changed.');
  await page.goto(`${corvun.url}/notes/nosuchnote`);
  await expect(page.getByText('There is no note with this id here.')).toBeVisible();
  await page.getByRole('button', { name: 'Back to the notes' }).click();
  await expect(text).toHaveValue('The key hangs behind the barometer.');
  await page.getByRole('button', { name: 'Throw it away' }).click();
  await expect(page.getByRole('article', { name: 'Field hut' })).toContainText('The lock was changed.');
});

test('on a telephone a message is decided by touch, with what goes with it', async ({ sort: page, corvun }) => {
  await page.setViewportSize({ width: 390, height: 844 });
  await openAt(page, corvun, 'Question about the ditch');
  const thumb = page.getByRole('group', { name: 'Decide at hand' });
  await expect(thumb.getByRole('button')).toHaveCount(6);
  await expect(sheet(page).locator('[data-says="ask"]').first()).toBeVisible();
  expect(await violations(page)).toEqual([]);
  await thumb.getByRole('button', { name: 'More' }).click();
  await pane(page)
    .getByRole('button', { name: /^Before it goes/ })
    .click();
  await pane(page).getByLabel('Notes').fill('Bring boots.');
  await pane(page).getByRole('button', { name: /^List/ }).click();
  await pane(page)
    .getByRole('group', { name: 'Lists' })
    .getByRole('button', { name: /Field season/ })
    .click();
  await expect(said(page)).toContainText('is on Field season');
  expect((await corvun.api<Task[]>('/tasks')).some((one) => one.notes === 'Bring boots.')).toBe(true);

  await page.getByRole('button', { name: 'Stack', exact: true }).click();
  await page
    .getByRole('region', { name: 'Stack' })
    .getByRole('button', { name: /Gauge 14: readings/ })
    .click();
  await expect(sheet(page).getByRole('heading', { name: /Gauge 14/ })).toBeVisible();
  await thumb.getByRole('button', { name: 'Day', exact: true }).click();
  await page.getByRole('group', { name: 'Days' }).getByRole('button').nth(1).click();
  await expect(said(page)).toContainText('is on Tue 4 Aug');
  await openAt(page, corvun, 'Timesheets');
  await expect(page.getByRole('region', { name: 'Suggestion at hand' })).not.toContainText('Nothing is sure');
  await thumb.getByRole('button', { name: 'More' }).click();
  await expect(pane(page).getByRole('button', { name: 'Do this' })).toBeVisible();
  await expect(page.locator('kbd').filter({ visible: true })).toHaveCount(0);
  await page.getByRole('button', { name: 'Close', exact: true }).click();
  await thumb.getByRole('button', { name: 'Do this' }).click();
  await expect(page.getByText('35 to decide')).toBeVisible();
});
