import type { CheckInInfo, DayLogInfo, LedgerInfo, PassState } from '@corvun/contract';
import type { Page } from '@playwright/test';
import { readFileSync } from 'node:fs';
import { violations } from './axe';
import { expect, said, stack, test, type Corvun } from './corvun';
import { make } from './making';

const log = async (corvun: Corvun, day: string) => (await corvun.api<DayLogInfo>(`/log?day=${day}`)).entries;
const rows = (page: Page, day: string) => page.getByRole('list', { name: `What was on ${day}` });
const title = (page: Page) => page.getByRole('heading', { level: 1 });

/** What a link saves. */
async function saved(page: Page, name: string | RegExp): Promise<{ name: string; text: string }> {
  const [file] = await Promise.all([page.waitForEvent('download'), page.getByRole('link', { name }).click()]);
  return { name: file.suggestedFilename(), text: readFileSync(await file.path(), 'utf8') };
}

test('the log of a day is read, searched, written into and saved, with the keyboard', async ({ sort: page, corvun }) => {
  await page.keyboard.press('K');
  await expect(title(page)).toHaveText('Look back, Mon 3 Aug');
  await expect(rows(page, 'Mon 3 Aug')).toContainText('Stand-up at the hut');
  await page.keyboard.press('ArrowLeft');
  await page.keyboard.press('ArrowLeft');
  await page.keyboard.press('ArrowLeft');
  await expect(title(page)).toHaveText('Look back, Fri 31 Jul');
  const friday = rows(page, 'Fri 31 Jul');
  const [first, second] = (await log(corvun, '2026-07-31')).filter(({ kind }) => kind === 'done');
  await expect(friday).toContainText(first?.text ?? '');
  await expect(friday).toContainText('What went well?');
  expect(await violations(page)).toEqual([]);

  // The way back to what was done, and from there to the log.
  const notice = friday.getByRole('link', { name: first?.title ?? '' });
  await notice.focus();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('dialog').or(page.locator('[data-sheet]')).first()).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(page.locator('[data-sheet]')).toHaveCount(0);
  await expect(notice).toBeFocused();
  while (!(await friday.getByRole('link', { name: second?.title ?? '' }).evaluate((link) => link === document.activeElement)))
    await page.keyboard.press('ArrowDown');

  // A line of one's own, in its place; not sent by a reload, and not lost by it.
  await page.keyboard.press('n');
  await page.keyboard.type('10:30 Two cranes at the north bank');
  await page.reload();
  await expect(page.getByLabel('A line of your own')).toHaveValue('10:30 Two cranes at the north bank');
  await page.getByLabel('A line of your own').press('Enter');
  await expect(said(page)).toContainText('Written into Fri 31 Jul');
  const own = friday.getByRole('listitem').filter({ hasText: 'Two cranes at the north bank' });
  await expect(own).toContainText('10:30');
  await own.getByRole('button', { name: /^change/ }).click();
  await page.getByLabel('The line').fill('Three cranes at the north bank');
  await page.getByLabel('The line').press('Enter');
  await expect(said(page)).toContainText('The line was changed');
  await expect(friday).toContainText('Three cranes');
  const markdown = await saved(page, 'out as Markdown');
  expect(markdown.name).toBe('day log 2026-07-31.md');
  expect(markdown.text).toMatch(/^# Fri 31 Jul 2026\n\n[\s\S]*- 10:30 Three cranes at the north bank\n/);
  await friday.getByRole('button', { name: /^take away “Three/ }).click();
  await expect(said(page)).toContainText('The line was taken away');
  expect((await log(corvun, '2026-07-31')).filter(({ kind }) => kind === 'line')).toHaveLength(1);

  await page.locator('#place').focus();
  await page.keyboard.press('w');
  await page.keyboard.type('two cranes bank');
  await expect(page.getByRole('status').filter({ hasText: '1 day' })).toBeVisible();
  await expect(page).toHaveURL(/\?q=two\+cranes\+bank/);
  expect(await violations(page)).toEqual([]);
  await page.getByRole('heading', { level: 2, name: 'Tue 21 Jul' }).getByRole('link').click();
  await expect(rows(page, 'Tue 21 Jul')).toContainText('Two cranes at the north bank.');
  await page.goBack();
  await expect(page.getByLabel('Search your days')).toHaveValue('two cranes bank');
});

test('the time ledger adds up, says what a figure is made of, and goes out as tables; its charts are loaded only here', async ({
  sort: page,
  corvun,
}) => {
  const charts: string[] = [];
  page.on('request', (request) => /plotly/i.test(request.url()) && charts.push(request.url()));
  for (const key of ['P', 'J', 'L', 'N', 'K']) await page.keyboard.press(key);
  await expect(title(page)).toHaveText('Look back, Mon 3 Aug');
  expect(charts).toEqual([]);
  await page.keyboard.press('l');
  await expect(title(page)).toHaveText('Look back, 27 Jul – 2 Aug');
  await expect(page.locator('.js-plotly-plot')).toHaveCount(2);
  expect(charts.length).toBeGreaterThan(0);
  const ledger = await corvun.api<LedgerInfo>('/ledger?from=2026-07-27&to=2026-08-02&by=list');
  const times = page.getByRole('table', { name: 'Promised, planned and spent by time' });
  const sayHours = (minutes: number) =>
    `${Math.floor(minutes / 60)} h${minutes % 60 ? ` ${String(minutes % 60).padStart(2, '0')}` : ''}`;
  await expect(times.getByRole('row', { name: /^In all/ })).toContainText(sayHours(ledger.total.spent));
  expect(await violations(page)).toEqual([]);

  // With the keyboard from a number, and back to it.
  const figure = times.getByRole('button', { name: /spent on Fri 31: what it is made of/ });
  await figure.focus();
  await page.keyboard.press('Enter');
  const made = page.getByRole('list', { name: 'Fri 31, spent' });
  const worked = (await log(corvun, '2026-07-31')).find(({ kind }) => kind === 'done');
  await expect(made).toContainText(worked?.title ?? '');
  await expect(page.getByRole('heading', { name: 'Fri 31, spent' })).toBeFocused();
  expect(await violations(page)).toEqual([]);
  await page.keyboard.press('Escape');
  await expect(figure).toBeFocused();

  // With the mouse from a bar.
  // Bars are marks of a drawing: the tallest of what was spent is hit where it stands.
  const bars = page.getByRole('region', { name: 'By time' }).locator('.trace.bars').nth(2).locator('.point path');
  const boxes = await Promise.all((await bars.all()).map((bar) => bar.boundingBox()));
  const tallest = boxes.flatMap((box) => box ?? []).sort((a, b) => b.height - a.height)[0];
  if (!tallest) throw new Error('Nothing is drawn.');
  await page.mouse.click(tallest.x + tallest.width / 2, tallest.y + tallest.height / 2);
  await expect(page.getByRole('heading', { level: 3, name: /, spent$/ })).toBeVisible();
  await page.getByRole('button', { name: 'back to the numbers' }).click();

  await page.getByLabel('Time by', { exact: true }).selectOption('kind');
  await expect(page.getByRole('table', { name: 'Time by kind' })).toContainText('Meetings');
  const table = await saved(page, 'out as CSV, numbers by kind');
  expect(table.name).toBe('time by kind 2026-07-27 2026-08-02.csv');
  expect(table.text).toContain(`All,${ledger.total.promised},${ledger.total.planned},${ledger.total.spent},`);
  expect((await saved(page, 'every entry as CSV')).name).toBe('time spent 2026-07-27 2026-08-02.csv');

  await page.getByRole('button', { name: 'from … to' }).click();
  await page.getByLabel('From', { exact: true }).fill('1 July');
  await page.getByLabel('To', { exact: true }).fill('some day');
  await page.getByLabel('To', { exact: true }).press('Enter');
  await expect(page.getByText('Write a day, like 15 August.')).toBeVisible();
  await page.getByLabel('From', { exact: true }).fill('2026-06-22');
  await page.getByLabel('To', { exact: true }).fill('2026-08-02');
  await page.getByLabel('To', { exact: true }).press('Enter');
  await expect(page).toHaveURL(/ledger\/2026-06-22\.\.2026-08-02\?by=kind/);
  await expect(times.getByRole('row')).toHaveCount(8);
  await page.reload();
  await expect(times.getByRole('row')).toHaveCount(8);
  await page.goBack();
  await expect(title(page)).toHaveText('Look back, 27 Jul – 2 Aug');
});

test('questions are written, ask when it is time, are answered through a reload, and stand in the log of their day', async ({
  sort: page,
  corvun,
}) => {
  await page.keyboard.press('K');
  await expect(title(page)).toHaveText('Look back, Mon 3 Aug');
  await page.keyboard.press('q');
  await expect(page.getByRole('region', { name: 'How it went' })).toContainText('3.3 of 5 in four weeks');
  expect(await violations(page)).toEqual([]);
  await page.keyboard.press('n');
  const form = page.getByRole('form', { name: 'A new check-in' });
  await expect(form.getByLabel('What it is called')).toBeFocused();
  await page.keyboard.type('Stand of the season');
  await form.getByLabel('Question 1').fill('How full is the reed?');
  await form.getByLabel('answered').selectOption('scale');
  await form.getByLabel('1 means').fill('bare');
  await form.getByRole('button', { name: 'Let it ask' }).click();
  await expect(form).toContainText('Name both ends of the scale.');
  await form.getByLabel('5 means').fill('full');
  await form.getByLabel('at', { exact: true }).fill('16:30');
  await form.getByRole('button', { name: 'One more question' }).click();
  await form.getByLabel('Question 2').fill('What is missing?');
  await page.reload();
  await expect(page.getByRole('button', { name: /^New check-in/ })).toBeVisible();
  await page.keyboard.press('n');
  await expect(form.getByLabel('Question 2')).toHaveValue('What is missing?');
  expect(await violations(page)).toEqual([]);
  await form.getByRole('button', { name: 'Let it ask' }).click();
  await expect(said(page)).toContainText('“Stand of the season” asks 2 questions');
  const asks = await corvun.api<CheckInInfo[]>('/check-ins');
  expect(asks.map(({ name, open }) => [name, open])).toEqual([
    ['End of the day', null],
    ['Stand of the season', null],
  ]);
  // It stands on Plan where it asks next.
  await page.getByRole('link', { name: 'Plan', exact: true }).click();
  await page.getByRole('link', { name: 'Stand of the season, 2 questions at 16:30' }).click();
  await expect(page).toHaveURL(new RegExp(`/look-back/questions/${asks[1]?.id}`));

  // Half past four has come.
  await corvun.kill();
  corvun.more['CORVUN_NOW'] = '2026-08-03T16:31:00+02:00';
  await corvun.start();
  await page.goto(`${corvun.url}/now`);
  await expect(page.getByRole('link', { name: 'Look back 1 to answer' })).toBeVisible();
  await expect(page.getByRole('link', { name: /“Stand of the season” asks 2 questions/ })).toBeVisible();
  await expect(page.getByRole('link', { name: 'Stand of the season, 2 questions to be answered' })).toBeVisible();
  await page.keyboard.press('q');
  const answer = page.getByRole('region', { name: 'Answer for Mon 3 Aug' });
  await answer.getByLabel('4', { exact: true }).focus();
  await page.keyboard.press('Space');
  await answer.getByLabel('What is missing?').fill('Sedge at the weir');
  await page.reload();
  await expect(answer.getByLabel('4', { exact: true })).toBeChecked();
  await expect(answer.getByLabel('What is missing?')).toHaveValue('Sedge at the weir');
  expect(await violations(page)).toEqual([]);
  await answer.getByRole('button', { name: 'Keep the answers' }).click();
  await expect(said(page)).toContainText('“Stand of the season” is answered');
  await expect(page.getByRole('link', { name: 'Look back', exact: true })).toBeVisible();
  await page.keyboard.press('d');
  await expect(rows(page, 'Mon 3 Aug')).toContainText('4 of 5');
  await rows(page, 'Mon 3 Aug').getByRole('link', { name: 'Stand of the season' }).click();
  await page.getByRole('button', { name: /^change what was answered for Mon 3 Aug/ }).click();
  await answer.getByLabel('5, full').check({ force: true });
  await answer.getByRole('button', { name: 'Keep the answers' }).click();
  await expect(page.getByRole('list', { name: 'Answers' })).toContainText('5 of 5, full');
});

test('a day is worked from open to close with the keyboard alone, and stands in its log', async ({ sort: page, corvun }) => {
  const task = await make(corvun, 'Count the posts 30 min', { plannedDay: '2026-08-03' });
  // What runs then in the demo is somebody else's story.
  const days = await corvun.api<{ days: { entries: { id: string; kind: string }[] }[] }>('/days?from=2026-08-03&days=1');
  for (const entry of days.days[0]?.entries ?? []) if (entry.kind === 'block') await corvun.api(`/blocks/${entry.id}`, 'DELETE');
  await corvun.api('/blocks', 'POST', { taskId: task, start: '2026-08-03T10:45', minutes: 30 });
  await page.keyboard.press('B');
  const at = (name: string) => page.getByRole('heading', { level: 2, name, exact: true });
  for (const name of ['What is on your mind?', 'What is today', 'What is at risk', 'What stayed open']) {
    await expect(at(name)).toBeFocused();
    await page.keyboard.press('.');
  }
  for (const name of ['What meetings need', 'What matters most', 'Does it fit?']) {
    await expect(at(name)).toBeFocused();
    await page.keyboard.press('.');
  }
  await expect(said(page)).toContainText('The day is open');

  await page.keyboard.press('S');
  const lines = stack(page).locator('[data-line], li');
  await expect(lines.first()).toBeVisible();
  await page.keyboard.press('Backspace');
  await expect(said(page)).toContainText(/dropped/i);

  await page.keyboard.press('J');
  await expect(title(page)).toHaveText('Count the posts');
  await page.keyboard.press('m');
  await expect(said(page)).toContainText('The timer runs on “Count the posts”');
  await page.keyboard.press('x');
  await expect(said(page)).toContainText('“Count the posts” is done');

  await page.keyboard.press('K');
  await expect(rows(page, 'Mon 3 Aug')).toContainText('Count the posts');
  await page.keyboard.press('n');
  await page.keyboard.type('Fog until nine');
  await page.keyboard.press('Enter');
  await expect(said(page)).toContainText('Written into Mon 3 Aug');
  await page.keyboard.press('Escape');

  await corvun.kill();
  corvun.more['CORVUN_NOW'] = '2026-08-03T17:31:00+02:00';
  await corvun.start();
  await page.reload();
  await expect(page.getByRole('button', { name: 'Close the day' }).first()).toBeVisible();
  await page.keyboard.press('B');
  for (const name of ['What is done', 'How long it took', 'What tomorrow brings', 'Stop']) {
    await expect(at(name)).toBeFocused();
    await page.keyboard.press('.');
  }
  await expect(said(page)).toContainText('The day is closed');
  expect((await corvun.api<PassState>('/passes')).today.closed).not.toBeNull();

  await page.keyboard.press('K');
  const told = rows(page, 'Mon 3 Aug');
  for (const what of ['The day was opened', 'Count the posts', 'sorted: dropped', 'Fog until nine', 'The day was closed'])
    await expect(told).toContainText(what);
  const kinds = (await log(corvun, '2026-08-03')).map(({ kind }) => kind);
  expect(kinds.indexOf('done')).toBeLessThan(kinds.lastIndexOf('pass'));
});
