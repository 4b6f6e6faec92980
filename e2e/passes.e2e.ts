import type { PassState, TaskInfo } from '@corvun/contract';
import type { Page } from '@playwright/test';
import { violations } from './axe';
import { expect, said, test } from './corvun';
import { make, type Here } from './making';

const task = async (here: Here, id: string) => (await here.api<TaskInfo[]>(`/tasks?ids=${id}`))[0];
const panel = (page: Page, name: string) => page.getByRole('complementary', { name });
const at = (page: Page, title: string) => page.getByRole('heading', { name: title, level: 2 });
const item = (page: Page, title: string) => page.locator('[data-item]', { hasText: title });

test('the day is opened with the keyboard alone: thoughts, what stayed open, what matters, and it is open', async ({
  sort: page,
  corvun,
}) => {
  const count = await make(corvun, 'Count the posts 30 min', { plannedDay: '2026-07-20' });
  const shelf = await make(corvun, 'Sharpen the scythes', { plannedDay: '2026-07-21' });
  await page.keyboard.press('Shift+B');
  const open = panel(page, 'Open the day');
  await expect(at(page, 'What is on your mind?')).toBeFocused();
  expect(await violations(page)).toEqual([]);
  await page.keyboard.press('Tab');
  await page.keyboard.type('Ask Pia about the gate');
  await page.keyboard.press('Enter');
  await expect(open.getByRole('list', { name: 'In the inbox' })).toContainText('Ask Pia about the gate');
  // An empty line goes on.
  await page.keyboard.press('Enter');
  await expect(at(page, 'What is today')).toBeFocused();
  await expect(page).toHaveURL(/\/plan$/);
  await expect(open.getByRole('list', { name: 'The day in order' })).toContainText('Stand-up at the hut');
  await page.keyboard.press('.');
  await expect(at(page, 'What is at risk')).toBeFocused();
  await page.keyboard.press('.');

  await expect(at(page, 'What stayed open')).toBeFocused();
  await expect(item(page, 'Count the posts')).toBeVisible();
  await page.keyboard.press('Tab');
  while (!(await item(page, 'Count the posts').evaluate((row) => row === document.activeElement)))
    await page.keyboard.press('ArrowDown');
  await page.keyboard.press('t');
  await expect(said(page)).toContainText('“Count the posts” is on Mon 3 Aug');
  await expect(item(page, 'Count the posts')).toHaveCount(0);
  // What came into its place has the focus; the arrow keys go on from there.
  while (!(await item(page, 'Sharpen the scythes').evaluate((row) => row === document.activeElement)))
    await page.keyboard.press('ArrowUp');
  await page.keyboard.press('s');
  await expect(said(page)).toContainText('“Sharpen the scythes”');
  expect(await violations(page)).toEqual([]);
  await page.keyboard.press('.');
  await expect(at(page, 'What meetings need')).toBeFocused();
  await page.keyboard.press('.');

  await expect(at(page, 'What matters most')).toBeFocused();
  await expect(item(page, 'Count the posts')).toBeVisible();
  await page.keyboard.press('Tab');
  while (!(await item(page, 'Count the posts').evaluate((row) => row === document.activeElement)))
    await page.keyboard.press('ArrowDown');
  await page.keyboard.press('Enter');
  await expect(said(page)).toContainText('“Count the posts” matters most on Mon 3 Aug');
  await expect(open.getByRole('status')).toContainText('1 of 3 things');
  await page.keyboard.press('.');
  await expect(at(page, 'Does it fit?')).toBeFocused();
  await page.keyboard.press('.');
  await expect(said(page)).toContainText('The day is open');
  await expect(open).toHaveCount(0);
  const { today } = await corvun.api<PassState>('/passes');
  expect(today).toMatchObject({ picks: [count], closed: null });
  expect(today.opened).not.toBeNull();
  expect(await task(corvun, count)).toMatchObject({ plannedDay: '2026-08-03' });
  expect(await task(corvun, shelf)).toMatchObject({ shelved: true, plannedDay: null });
});

test('a pass goes on after a reload where it was, and is taken back as one', async ({ sort: page, corvun }) => {
  const count = await make(corvun, 'Count the posts 30 min', { plannedDay: '2026-07-20' });
  await page.getByRole('button', { name: 'Open the day' }).click();
  const go = panel(page, 'Open the day').getByRole('button', { name: /^Go on/ });
  for (const title of ['What is today', 'What is at risk', 'What stayed open']) {
    await go.click();
    await expect(at(page, title)).toBeVisible();
  }
  await item(page, 'Count the posts').click();
  await page.getByRole('button', { name: /^Today again/ }).click();
  await expect(said(page)).toContainText('“Count the posts” is on Mon 3 Aug');
  await page.reload();
  await expect(at(page, 'What stayed open')).toBeVisible();
  await page.getByRole('button', { name: /^Back/ }).click();
  await expect(at(page, 'What is at risk')).toBeVisible();
  await page.getByRole('button', { name: 'Take it all back' }).click();
  await expect(said(page)).toContainText('The pass is taken back, 1 thing in all');
  await expect(panel(page, 'Open the day')).toHaveCount(0);
  expect(await task(corvun, count)).toMatchObject({ plannedDay: '2026-07-20' });
});

test('meetings get time before them, and a day that is over-promised says what could give', async ({ sort: page, corvun }) => {
  await corvun.api('/events', 'POST', { title: 'Bridge talk', start: '2026-08-03T16:00', minutes: 30 });
  await make(corvun, 'Sort the archive', { plannedDay: '2026-08-03', estimate: 600, priority: 'low' });
  const { id } = await corvun.api<{ id: string }>('/passes', 'POST', { kind: 'open-day' });
  await corvun.api(`/passes/${id}`, 'PATCH', { step: 'around' });
  await item(page, 'Bridge talk').focus();
  await page.keyboard.press('b');
  await expect(item(page, 'Bridge talk')).toContainText('15 min before');
  await page.getByRole('button', { name: /^Go on/ }).click();
  await page.getByRole('button', { name: 'Fill the gaps of today …' }).click();
  await expect(page.getByRole('form', { name: 'A plan for these days' })).toBeVisible();
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: /^Go on/ }).click();
  await expect(page.getByText(/more than there is time for/)).toBeVisible();
  await item(page, 'Sort the archive').focus();
  await page.keyboard.press('d');
  await expect(said(page)).toContainText('“Sort the archive” is on Tue 4 Aug');
  await expect(item(page, 'Sort the archive')).toHaveCount(0);
});

test('the day is closed: ticked off, time spent, the rest moved in one step; then nothing shouts', async ({
  sort: page,
  corvun,
}) => {
  const done = await make(corvun, 'Mend the fence', { plannedDay: '2026-08-03', estimate: 45 });
  const rest = await make(corvun, 'Label the maps', { plannedDay: '2026-08-03', estimate: 20 });
  await page.getByRole('button', { name: 'Settings', exact: true }).click();
  await page.getByRole('menuitem', { name: 'Close the day' }).click();
  const close = panel(page, 'Close the day');
  await expect(at(page, 'What is done')).toBeFocused();
  await item(page, 'Mend the fence').focus();
  await page.keyboard.press('x');
  await expect(said(page)).toContainText('“Mend the fence” is done');
  await close.getByRole('button', { name: /^Move all \d+ to Tue 4 Aug/ }).click();
  await expect(close).toContainText('Everything that was for today is done.');
  // What is painted is not answered yet.
  await expect(said(page)).toContainText('on Tue 4 Aug');
  expect(await task(corvun, rest)).toMatchObject({ plannedDay: '2026-08-04' });
  await close.getByRole('button', { name: /^Go on/ }).click();
  await item(page, 'Mend the fence').focus();
  await page.keyboard.press('p');
  await expect(close.getByRole('textbox', { name: 'Minutes “Mend the fence” took' })).toHaveValue('45');
  await page.keyboard.press('m');
  await page.keyboard.type('60');
  await page.keyboard.press('Enter');
  await expect(said(page)).toContainText('1 h spent');
  expect(await task(corvun, done)).toMatchObject({ spent: 60 });
  expect(await violations(page)).toEqual([]);
  await close.getByRole('button', { name: /^Go on/ }).click();
  await expect(close.getByRole('heading', { name: 'Tue 4 Aug' })).toBeVisible();
  await expect(page).toHaveURL(/\/plan\/2026-08-04$/);
  await close.getByRole('button', { name: /^Go on/ }).click();
  await expect(close).toContainText('1 h spent on them');
  const places = page.getByRole('navigation', { name: 'Places' });
  await expect(places).toContainText(/\d+ waiting/);
  await close.getByRole('button', { name: /^Close the day/ }).click();
  await expect(said(page)).toContainText('The day is closed');
  await expect(page.getByText('Day is closed', { exact: true })).toBeVisible();
  await expect(places).not.toContainText(/waiting/);
  await page.reload();
  await expect(page.getByText('Day is closed', { exact: true })).toBeVisible();
});

test('how many things matter, when the day is closed and when its outline is mailed are settings', async ({
  sort: page,
  corvun,
}) => {
  await page.keyboard.press('E');
  await page.getByRole('textbox', { name: 'Time to close the day' }).fill('10:30');
  await page.getByRole('textbox', { name: 'Time to close the day' }).press('Enter');
  await expect(page.getByRole('button', { name: 'Close the day' })).toBeVisible();
  const mail = page.getByRole('textbox', { name: 'Time of the outline' });
  await mail.fill('half eight');
  await mail.press('Enter');
  await expect(page.getByText('Write the time as HH:MM.')).toBeVisible();
  await mail.fill('7:30');
  await mail.press('Enter');
  await expect(mail).toHaveValue('07:30');
  const friday = page.getByRole('group', { name: 'Weekdays of the outline' }).getByLabel('Fri');
  await friday.click();
  await expect(friday).not.toBeChecked();
  await expect(said(page)).toContainText('How days are opened and closed was changed');
  await expect
    .poll(async () => (await corvun.api<{ settings: { day: object } }>('/me')).settings.day)
    .toMatchObject({ most: 3, closeAt: '10:30', mailAt: '07:30', mailDays: [1, 2, 3, 4] });
});
