import type { NowState, TaskFull } from '@corvun/contract';
import type { Page } from '@playwright/test';
import { violations } from './axe';
import { drag, expect, said, test, type Corvun } from './corvun';
import { make } from './making';

const runs = (page: Page) => page.getByRole('region', { name: 'What runs' });
const loose = (page: Page) => page.getByRole('region', { name: 'Loose ends' });
const alone = (page: Page) => page.getByRole('region', { name: 'Heads-down' });
const full = (corvun: Corvun, id: string) => corvun.api<TaskFull>(`/tasks/${id}`);
const state = (corvun: Corvun) => corvun.api<NowState>('/now');

/** A task with time from 10:30 to 11:30: it is 10:50. */
async function underWay(corvun: Corvun, title: string, change: object = {}): Promise<{ id: string; block: string }> {
  // The demo has something that runs then, too.
  const days = await corvun.api<{ days: { entries: { id: string; kind: string }[] }[] }>('/days?from=2026-08-03&days=1');
  for (const entry of days.days[0]?.entries ?? []) if (entry.kind === 'block') await corvun.api(`/blocks/${entry.id}`, 'DELETE');
  const id = await make(corvun, title, { estimate: 60, ...change });
  const block = { taskId: id, start: '2026-08-03T10:30', minutes: 60 };
  const { made } = await corvun.api<{ made: { id: string }[] }>('/blocks', 'POST', block);
  return { id, block: made[0]?.id ?? '' };
}

test('what runs is worked with the keyboard alone: timer, longer, something that came up, and done early', async ({
  sort: page,
  corvun,
}) => {
  const { id } = await underWay(corvun, 'Count the posts', { notes: 'Both banks' });
  await corvun.api('/tasks', 'POST', { lines: ['North bank', 'South bank'], parent: id });
  const next = await make(corvun, 'Call the mill', { estimate: 30 });
  await corvun.api('/blocks', 'POST', { taskId: next, start: '2026-08-03T11:30', minutes: 30 });
  await page.keyboard.press('J');
  await expect(runs(page).getByRole('heading', { level: 1 })).toHaveText('Count the posts');
  await expect(runs(page)).toContainText(/\d+ min left, then Call the mill at once/);
  await expect(runs(page)).toContainText('Both banks');
  await expect(page).toHaveTitle('Count the posts, until 11:30 · Corvun');
  expect(await violations(page)).toEqual([]);

  await page.keyboard.press('m');
  await expect(said(page)).toContainText('The timer runs on “Count the posts”');
  await expect(runs(page)).toContainText('Timer since 10:5');
  await page.keyboard.press('r');
  await expect(page.getByRole('button', { name: '15 min' })).toBeFocused();
  await page.keyboard.press('2');
  await expect(said(page)).toContainText('“Count the posts” has 30 min more, until 12:00; 1 block moved');
  await expect(page).toHaveTitle('Count the posts, until 12:00 · Corvun');

  await page.keyboard.press('i');
  const line = page.getByRole('textbox', { name: /What came up/ });
  await expect(line).toBeFocused();
  await page.keyboard.type('Ines asks for the key');
  await page.keyboard.press('Enter');
  await expect(said(page)).toContainText('“Ines asks for the key” waits in the inbox');
  await expect(page.getByText('was left at').first()).toContainText('“Count the posts” was left at 10:5');
  expect((await state(corvun)).timer).toBeNull();
  await page.keyboard.press('m');
  await expect(said(page)).toContainText('The timer runs on “Count the posts”');

  // Steps that are open are asked about; a tick in place is one.
  await runs(page)
    .getByRole('checkbox', { name: /North bank/ })
    .press('Space');
  await expect(said(page)).toContainText('“North bank” is done');
  await page.locator('#place').focus();
  await page.keyboard.press('x');
  await expect(runs(page).getByRole('button', { name: 'Done, too' })).toBeFocused();
  await page.keyboard.press('Enter');
  await expect(said(page)).toContainText(/“Count the posts” is done.* of your time is free again/);
  await expect(runs(page)).toContainText('I have');
  await expect(runs(page)).toContainText(/minutes until 1\d:\d\d/);
  expect(await violations(page)).toEqual([]);
  expect(await full(corvun, id)).toMatchObject({ status: 'COMPLETED', time: [{ by: 'timer' }, { by: 'timer' }] });
});

test('with nothing planned, what fits is begun with one key; loose ends have one key each', async ({ sort: page, corvun }) => {
  const { id, block } = await underWay(corvun, 'Sign the permits');
  await corvun.api(`/blocks/${block}`, 'PATCH', { start: '2026-08-03T09:45', minutes: 30 });
  const begun = await make(corvun, 'Sort the slides', { status: 'IN-PROCESS', estimate: 20 });
  const done = await make(corvun, 'Read the offer', { estimate: 40 });
  await corvun.api('/blocks', 'POST', { taskId: done, start: '2026-08-03T10:20', minutes: 30 });
  await corvun.api(`/tasks/${done}`, 'PATCH', { status: 'COMPLETED' });
  await page.goto(`${corvun.url}/now`);
  const item = (title: string) => loose(page).getByRole('listitem').filter({ hasText: title });
  await expect(item('Sign the permits')).toContainText('its time ended 10:15, still open');
  await expect(item('Read the offer')).toContainText('how long did it take?');
  expect(await violations(page)).toEqual([]);
  const number = await item('Read the offer').locator('kbd').textContent();
  await page.keyboard.press(number ?? '');
  await expect(said(page)).toContainText('40 min on “Read the offer”');
  await expect(item('Read the offer')).toHaveCount(0);
  await page.keyboard.press('1');
  await expect(said(page)).toContainText('“Sign the permits” is done');
  expect((await full(corvun, id)).status).toBe('COMPLETED');
  await item('Sign the permits').getByRole('button', { name: 'Write it Sign the permits' }).click();
  await page.keyboard.type('lots');
  await page.keyboard.press('Enter');
  await expect(item('Sign the permits').getByRole('alert')).toHaveText('Write whole minutes, from 1 to 1440.');
  await page.keyboard.press('Control+a');
  await page.keyboard.type('25');
  await page.keyboard.press('Enter');
  await expect(said(page)).toContainText('25 min on “Sign the permits”');
  await item('Sort the slides').getByRole('button', { name: 'Not today Sort the slides' }).click();
  await expect(said(page)).toContainText('Sort the slides');
  expect((await full(corvun, begun)).plannedDay).toBe('2026-08-04');

  await page.getByRole('textbox', { name: 'I have' }).fill('15');
  await expect(page.getByRole('list', { name: 'Fits into 15 min' })).toBeVisible();
  await page.getByRole('textbox', { name: 'I have' }).press('Enter');
  const first = page.getByRole('list', { name: 'Fits into 15 min' }).getByRole('button').first();
  await expect(first).toBeFocused();
  await page.keyboard.press('Enter');
  await expect(said(page)).toContainText(/is begun, until 11:\d\d/);
  await expect(runs(page)).toContainText(/\d+ min left/);
});

test('the rest of today is moved by dragging, and a meeting shows what it needs', async ({ sort: page, corvun }) => {
  const { block } = await underWay(corvun, 'Count the posts');
  await corvun.api(`/blocks/${block}`, 'PATCH', { start: '2026-08-03T12:00', minutes: 60 });
  await page.goto(`${corvun.url}/now`);
  const slip = page.locator(`[data-entry="${block}"]`);
  const box = await slip.boundingBox();
  if (!box) throw new Error('It is not there.');
  const grip = { x: box.x + 30, y: box.y + 8 };
  await drag(page, grip, { x: grip.x, y: grip.y + 44 });
  await expect(said(page)).toContainText('“Count the posts” is on Mon 3 Aug at 13:00');
  const [calendar] = await corvun.api<{ id: string }[]>('/calendars');
  await corvun.api('/events', 'POST', {
    ...{ title: 'Crew meeting', start: '2026-08-03T10:30', minutes: 60, calendarId: calendar?.id },
    ...{
      meetingLink: 'https://meet.alderfen.example/crew',
      description: 'Boat and posts',
      guests: ['ines@aalto-timber.example'],
    },
  });
  await expect(runs(page).getByRole('heading', { level: 1 })).toHaveText('Crew meeting');
  await expect(runs(page).getByRole('link', { name: 'Join' })).toHaveAttribute('href', 'https://meet.alderfen.example/crew');
  await expect(runs(page)).toContainText('Boat and posts');
  await expect(runs(page).getByRole('region', { name: 'Guests' })).toContainText('not answered');
  expect(await violations(page)).toEqual([]);
  await page.keyboard.press('b');
  await expect(page.getByLabel('Its page, in Markdown')).toBeFocused();
  await page.keyboard.type('- Jonas brings the boat');
  await page.keyboard.press('Control+Enter');
  await expect(said(page)).toContainText('The page “Crew meeting, Mon 3 Aug 2026” is there');
  await page.reload();
  await expect(runs(page).getByRole('listitem').filter({ hasText: 'Jonas brings the boat' })).toBeVisible();
  await page.keyboard.press('e');
  const sheet = page.getByRole('complementary', { name: 'Event: Crew meeting' });
  await sheet.getByRole('link', { name: 'Its page of notes' }).click();
  const note = page.getByRole('article', { name: 'Crew meeting, Mon 3 Aug 2026' });
  await expect(note).toContainText('Jonas brings the boat');
  expect(await violations(page)).toEqual([]);
  await note.getByRole('button', { name: 'Crew meeting' }).click();
  await expect(sheet).toBeVisible();
});

test('heads-down is the same in every window, through a reload and a restart, and tells each turn', async ({
  sort: page,
  corvun,
}) => {
  const { id } = await underWay(corvun, 'Count the posts', { notes: 'Both banks' });
  await page.addInitScript(() => {
    const told: string[] = [];
    const Told = function (this: unknown, title: string, more: { body: string }) {
      told.push(`${title}: ${more.body}`);
    };
    Object.assign(Told, { permission: 'granted', requestPermission: () => Promise.resolve('granted') });
    Object.assign(window, { Notification: Told, told });
  });
  await page.goto(`${corvun.url}/now`);
  await expect(runs(page)).toContainText('Count the posts');
  await page.keyboard.press('h');
  await expect(alone(page).getByRole('heading', { level: 1 })).toHaveText('Count the posts');
  await expect(alone(page)).toContainText('Both banks');
  await page.keyboard.press('b');
  await expect(alone(page).getByLabel('Notes, in Markdown')).toBeFocused();
  await page.keyboard.press('Escape');
  await expect(alone(page).getByLabel('Notes, in Markdown')).toBeHidden();
  await expect(page.getByRole('navigation', { name: 'Places' })).toHaveCount(0);
  await expect(page).toHaveTitle(/^Count the posts, until 11:1\d · Corvun$/);
  expect(await violations(page)).toEqual([]);
  const other = await page.context().newPage();
  await other.goto(`${corvun.url}/now`);
  await expect(alone(other)).toContainText('Work, 1 of 4');
  await page.reload();
  await expect(alone(page)).toContainText('Work, 1 of 4');
  await corvun.mail({ subject: 'The gate is open' });
  await expect(alone(page)).toContainText('1 thing came in and waits');
  await expect(page.getByRole('timer')).toHaveText(/^2[0-5]:\d\d$/);

  // The machine was away for longer than the work lasted.
  await corvun.kill();
  corvun.more['CORVUN_NOW'] = '2026-08-03T11:17:00+02:00';
  await corvun.start();
  await expect(alone(page)).toContainText(/^Pause/);
  await expect
    .poll(() => page.evaluate(() => (window as unknown as { told: string[] }).told))
    .toEqual(['Pause: Count the posts\nA short one']);
  await expect(alone(other)).toContainText(/^Pause/);
  // Work counted until it was over, and no longer.
  expect((await full(corvun, id)).spent).toBe(25);
  await page.locator('#place').focus();
  await page.keyboard.press('Enter');
  await expect(alone(page)).toContainText('Work, 2 of 4');
  await page.keyboard.press('Escape');
  await expect(runs(page)).toContainText('Count the posts');
  await expect(page.getByRole('navigation', { name: 'Places' })).toBeVisible();
  await expect(said(page)).toContainText('on “Count the posts”');
  expect((await state(corvun)).headsDown).toBeNull();
});

test('time spent is written, corrected and taken away on the sheet', async ({ sort: page, corvun }) => {
  const { id } = await underWay(corvun, 'Count the posts');
  await page.goto(`${corvun.url}/now?task=${id}`);
  const spent = page.getByRole('region', { name: 'Time spent' });
  await spent.getByRole('button', { name: 'write how long it took' }).click();
  await page.keyboard.type('soon');
  await page.keyboard.press('Enter');
  await expect(spent.getByRole('alert')).toHaveText('Not a duration up to a day. Write “45 min” or “1 h 30”.');
  await page.keyboard.press('Control+a');
  await page.keyboard.type('1 h 30');
  await page.keyboard.press('Enter');
  await expect(said(page)).toContainText('1 h 30 on “Count the posts”');
  await spent.getByRole('button', { name: /^correct 1 h 30/ }).click();
  await page.keyboard.type('50 min');
  await page.keyboard.press('Enter');
  await expect(said(page)).toContainText('50 min on “Count the posts”');
  await page.getByRole('complementary', { name: /^Task: / }).focus();
  await page.keyboard.press('m');
  await expect(spent).toContainText('runs');
  expect((await full(corvun, id)).spent).toBe(50);
  await page.keyboard.press('m');
  await expect(spent.getByText('runs')).toHaveCount(0);
  expect(await violations(page)).toEqual([]);
  await spent.getByRole('button', { name: /^take away 50 min/ }).click();
  await expect(said(page)).toContainText('50 min on “Count the posts” is taken away');
  expect((await full(corvun, id)).spent).toBe(0);
});
