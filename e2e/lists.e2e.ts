import type { ListInfo, TaskFull, TaskInfo, ViewInfo } from '@corvun/contract';
import type { Locator, Page } from '@playwright/test';
import { readFileSync } from 'node:fs';
import { violations } from './axe';
import { dragOnto, expect, test, type Corvun } from './corvun';

const row = (page: Page, title: string) => page.locator('[data-task]', { hasText: title });
const shown = (page: Page) => page.locator('[data-task] > span:first-child').allTextContents();
const listId = async (corvun: Corvun, name: string) =>
  (await corvun.api<ListInfo[]>('/lists')).find((list) => list.name === name)?.id ?? '';
const add = async (corvun: Corvun, list: string, ...lines: string[]) =>
  (await corvun.api<{ ids: string[] }>('/tasks', 'POST', { lines, list })).ids;
const task = (corvun: Corvun, id: string | undefined) => corvun.api<TaskFull>(`/tasks/${id}`);

/** A list of its own with a few tasks on it, shown. */
async function onList(page: Page, corvun: Corvun, ...lines: string[]): Promise<{ id: string; ids: string[] }> {
  const { id } = await corvun.api<{ id: string }>('/lists', 'POST', { name: 'Hide' });
  const ids = await add(corvun, id, ...lines);
  await page.goto(`${corvun.url}/lists/${id}`);
  await expect(page.locator('[data-task]')).toHaveCount(lines.length);
  return { id, ids };
}

test('the order by hand is kept across other orders and a reload, by key and by mouse', async ({ sort: page, corvun }) => {
  await onList(page, corvun, 'Cut the boards', 'Buy hinges', 'Ask Ines');
  await row(page, 'Ask Ines').press('Alt+ArrowUp');
  await expect.poll(() => shown(page)).toEqual(['Cut the boards', 'Ask Ines', 'Buy hinges']);
  const [from, to] = [await row(page, 'Buy hinges').boundingBox(), await row(page, 'Cut the boards').boundingBox()];
  if (!from || !to) throw new Error('The rows are not shown.');
  await page.mouse.move(from.x + 60, from.y + 15);
  await page.mouse.down();
  await page.mouse.move(from.x + 60, to.y + 30, { steps: 4 });
  await page.mouse.move(from.x + 60, to.y + 12, { steps: 4 });
  await page.mouse.up();
  await expect.poll(() => shown(page)).toEqual(['Buy hinges', 'Cut the boards', 'Ask Ines']);
  await page.getByLabel('Order').selectOption('title');
  await expect.poll(() => shown(page)).toEqual(['Ask Ines', 'Buy hinges', 'Cut the boards']);
  await page.getByLabel('Order').selectOption('hand');
  await expect.poll(() => shown(page)).toEqual(['Buy hinges', 'Cut the boards', 'Ask Ines']);
  await corvun.reload(page);
  await expect.poll(() => shown(page)).toEqual(['Buy hinges', 'Cut the boards', 'Ask Ines']);
});

test('new tasks are written in place and pasted, a title is changed where it stands', async ({ sort: page, corvun }) => {
  const { id } = await onList(page, corvun, 'First');
  await row(page, 'First').press('+');
  await page.keyboard.type('Buy hinges tomorrow 30 min');
  await expect(page.getByText('day Tue 4 Aug')).toBeVisible();
  await page.keyboard.press('Enter');
  await expect(row(page, 'Buy hinges')).toContainText('Tue 4 Aug');
  await page.evaluate(() => {
    const data = new DataTransfer();
    data.setData('text/plain', '- Cut the boards\n- Ask Ines');
    document.activeElement?.dispatchEvent(new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true }));
  });
  await expect.poll(() => shown(page)).toEqual(['First', 'Buy hinges', 'Cut the boards', 'Ask Ines']);
  await row(page, 'First').press('n');
  await page.keyboard.press('Control+a');
  await page.keyboard.type('Measure first');
  await page.keyboard.press('Enter');
  await expect(row(page, 'Measure first')).toBeFocused();
  await expect
    .poll(async () => (await corvun.api<TaskInfo[]>(`/tasks?list=${id}`)).map(({ title }) => title))
    .toContain('Measure first');
});

test('a title is left as it was with Escape, and kept once when the row is left', async ({ sort: page, corvun }) => {
  await onList(page, corvun, 'Cut the boards');
  const saved: string[] = [];
  page.on('request', (request) => request.method() === 'PATCH' && saved.push(request.postData() ?? ''));
  const title = page.getByLabel('Title of “Cut the boards”');
  await row(page, 'Cut the boards').press('n');
  await title.fill('Cut nothing');
  await title.press('Escape');
  await expect(row(page, 'Cut the boards')).toBeFocused();
  await row(page, 'Cut the boards').press('n');
  await title.fill('Cut the oak boards');
  await title.press('Enter');
  await expect(row(page, 'Cut the oak boards')).toBeFocused();
  await expect.poll(() => saved).toEqual([JSON.stringify({ title: 'Cut the oak boards' })]);
});

test('many are marked with keys and changed together, and that is taken back as one', async ({ sort: page, corvun }) => {
  const { ids } = await onList(page, corvun, 'Cut the boards #site', 'Buy hinges', 'Ask Ines', 'Leave me');
  await row(page, 'Cut the boards').press('Shift+ArrowDown');
  await page.keyboard.press('Shift+ArrowDown');
  const bar = page.getByRole('toolbar', { name: 'What is marked' });
  await expect(bar).toContainText('3 tasks marked');
  await row(page, 'Ask Ines').press('d');
  await page.getByRole('dialog', { name: 'Day or week' }).getByRole('textbox').fill('Thursday');
  await page.keyboard.press('Enter');
  for (const title of ['Cut the boards', 'Buy hinges', 'Ask Ines']) await expect(row(page, title)).toContainText('Thu 6 Aug');
  await row(page, 'Cut the boards').press('g');
  await page.getByRole('button', { name: '#call' }).press('Enter');
  await expect(row(page, 'Buy hinges')).toContainText('#call');
  expect((await task(corvun, ids[0])).tags).toEqual(['site', 'call']);
  expect(await violations(page)).toEqual([]);
  await bar.getByRole('button', { name: 'Done', exact: true }).click();
  await expect(page.locator('[data-task]')).toHaveCount(1);
  await row(page, 'Leave me').press('u');
  await expect(page.locator('[data-task]')).toHaveCount(4);
  await row(page, 'Leave me').press('u');
  await expect(row(page, 'Buy hinges')).not.toContainText('#call');
});

test('what is dragged onto a list, a day or a tag goes there, all that are marked with it', async ({ sort: page, corvun }) => {
  const { ids } = await onList(page, corvun, 'Cut the boards', 'Buy hinges', 'Ask Ines');
  await row(page, 'Cut the boards').press('m');
  await row(page, 'Buy hinges').press('m');
  const contents = page.getByRole('navigation', { name: 'Table of contents' });
  const days = contents.getByRole('list', { name: 'Days' });
  // The days come into sight and push the rest down: only then is it known where the target is.
  const drag = (title: string, target: Locator) => dragOnto(page, row(page, title), target, days);
  await drag('Buy hinges', days.getByText('Wed 5 Aug'));
  for (const title of ['Cut the boards', 'Buy hinges']) await expect(row(page, title)).toContainText('Wed 5 Aug');
  await page.keyboard.press('Escape');
  await drag('Ask Ines', contents.getByRole('link', { name: '#call' }));
  await expect(row(page, 'Ask Ines')).toContainText('#call');
  await drag('Ask Ines', contents.getByRole('link', { name: /Permits/ }));
  await expect(row(page, 'Ask Ines')).toHaveCount(0);
  expect((await task(corvun, ids[2])).listId).toBe(await listId(corvun, 'Permits'));
});

test('several lists are read together, filtered, and kept under a name with an address', async ({ sort: page, corvun }) => {
  const [permits, grant] = [await listId(corvun, 'Permits'), await listId(corvun, 'Grant report')];
  await page.goto(`${corvun.url}/lists/${permits}`);
  await page.getByRole('checkbox', { name: 'Read Grant report along' }).check();
  await expect(page.getByRole('heading', { name: 'Permits, Grant report' })).toBeVisible();
  await expect(page.getByRole('heading', { name: /^GR ?Grant report \d+/ })).toBeVisible();
  await page.locator('[data-task]').first().press('w');
  await page.keyboard.type('#write');
  await expect(page.getByRole('status').filter({ hasText: 'filter' })).toContainText(/The filter hides \d+ of \d+ tasks\./);
  expect((await shown(page)).length).toBeGreaterThan(0);
  await page.getByRole('button', { name: 'keep this view' }).click();
  await page.getByLabel('Name of the view').fill('To write');
  await page.keyboard.press('Enter');
  const kept = page.getByRole('link', { name: 'To write' });
  await expect(kept).toHaveAttribute('href', `/lists/${permits}?with=${grant}&find=%23write`);
  await page.goto(`${corvun.url}/lists/all?group=tag`);
  await expect(page.getByRole('heading', { name: /^#call/ })).toBeVisible();
  await kept.click();
  await expect(page.getByLabel('Filter')).toHaveValue('#write');
  await page.goBack();
  await expect(page.getByRole('heading', { name: 'All lists' })).toBeVisible();
  const deeds = (name: string) => page.getByRole('button', { name: `What can be done with ${name}` });
  await deeds('the view To write').focus();
  await page.keyboard.press('Enter');
  await page.getByRole('menuitem', { name: 'Rename' }).press('Enter');
  await expect(page.getByLabel('Name of the view To write')).toBeFocused();
  await page.keyboard.type('Pages to write');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('link', { name: 'Pages to write' })).toBeVisible();
  await corvun.reload(page);
  await deeds('the view Pages to write').press('Enter');
  await page.getByRole('menuitem', { name: 'Take away' }).press('Enter');
  await expect(page.getByRole('link', { name: 'Pages to write' })).toHaveCount(0);
  expect(await corvun.api<ViewInfo[]>('/views')).toEqual([]);
});

test('a list is changed, put away and brought back, and taken away with a word on its tasks', async ({ sort: page, corvun }) => {
  const { id, ids } = await onList(page, corvun, 'Cut the boards');
  await row(page, 'Cut the boards').press('i');
  const form = page.getByRole('form', { name: 'Change the list Hide' });
  await form.getByLabel('Name').fill('Permits');
  await form.getByLabel('Code').fill('x');
  await form.getByRole('button', { name: 'Keep' }).click();
  await expect(form).toContainText('The code is two letters or digits.');
  await form.getByLabel('Code').fill('hd');
  await page.keyboard.press('Enter');
  await expect(form).toContainText('There is a list “Permits” already.');
  await form.getByLabel('Name').fill('Bird hide');
  await form.getByLabel('Group').fill('Building');
  await form.getByLabel('A project').check();
  await form.getByLabel('Ends').fill('31 Aug');
  await form.getByLabel('Outcome', { exact: true }).fill('People watch birds from it');
  expect(await violations(page)).toEqual([]);
  await form.getByRole('button', { name: 'Keep' }).click();
  await expect(page.getByText('Project: People watch birds from it, ends Mon 31 Aug')).toBeVisible();
  await expect(page.getByRole('region', { name: 'Building' }).getByRole('link', { name: /Bird hide/ })).toBeVisible();
  await page.getByRole('button', { name: /change this list/ }).click();
  await page.getByRole('button', { name: 'Put away' }).click();
  await expect(page.getByRole('link', { name: /Bird hide/ })).toHaveCount(0);
  await page.getByRole('button', { name: 'Show 1 put away' }).click();
  await page.getByRole('button', { name: 'Bring Bird hide back' }).click();
  await page.getByRole('link', { name: /Bird hide/ }).click();
  await page.getByRole('button', { name: /change this list/ }).click();
  await page.getByRole('button', { name: 'Take away …' }).click();
  await page.getByLabel(/What becomes of its 1 open task/).selectOption({ label: 'They go to Permits' });
  await expect(page.getByText('1 open task is put on Permits')).toBeVisible();
  await page.getByRole('button', { name: 'Take the list away' }).click();
  await expect(page.getByRole('link', { name: /Bird hide/ })).toHaveCount(0);
  expect((await task(corvun, ids[0])).listId).toBe(await listId(corvun, 'Permits'));
  expect((await corvun.api<ListInfo[]>('/lists')).some((list) => list.id === id)).toBe(false);
});

test('lists are put in another order by key and by mouse', async ({ sort: page, corvun }) => {
  const order = async () => (await corvun.api<ListInfo[]>('/lists')).map(({ name }) => name);
  await page.goto(`${corvun.url}/lists/all`);
  const link = (name: string) =>
    page.getByRole('navigation', { name: 'Table of contents' }).getByRole('link', { name: new RegExp(name) });
  await link('Field season').press('Alt+ArrowUp');
  await expect.poll(async () => (await order()).slice(0, 2)).toEqual(['Field season', 'Permits']);
  const [from, to] = [await link('Home').boundingBox(), await link('Permits').boundingBox()];
  if (!from || !to) throw new Error('The lists are not shown.');
  await page.mouse.move(from.x + 60, from.y + 15);
  await page.mouse.down();
  await page.mouse.move(to.x + 60, to.y + 40, { steps: 4 });
  await page.mouse.move(to.x + 60, to.y + 15, { steps: 4 });
  await page.mouse.up();
  await expect.poll(async () => (await order()).slice(0, 3)).toEqual(['Field season', 'Home', 'Permits']);
  expect((await corvun.api<ListInfo[]>('/lists')).find(({ name }) => name === 'Home')?.group).toBe('Trust');
});

test('a task whose steps are open asks once, and one that is left open stands for itself', async ({ sort: page, corvun }) => {
  const { ids } = await onList(page, corvun, 'Hut roof');
  await corvun.api('/tasks', 'POST', { lines: ['Buy felt', 'Nail it'], parent: ids[0] });
  await expect(page.locator('[data-task]')).toHaveCount(3);
  await row(page, 'Hut roof').press('x');
  await expect(page.getByRole('group', { name: 'Its steps are open' })).toContainText('2 steps are open.');
  await page.getByRole('button', { name: 'Leave them open' }).press('Enter');
  await expect.poll(() => shown(page)).toEqual(['Buy felt', 'Nail it']);
  await page.getByRole('button', { name: 'Show what was done in the last two weeks (1)' }).click();
  await expect(row(page, 'Hut roof')).toBeVisible();
});

test('a change is painted before the server has answered, and no list is asked for again', async ({ sort: page, corvun }) => {
  await onList(page, corvun, 'Cut the boards', 'Buy hinges');
  let answer = () => undefined as void;
  const asked: string[] = [];
  page.on('request', (request) =>
    asked.push(`${request.method()} ${new URL(request.url()).pathname}${new URL(request.url()).search}`),
  );
  await page.route('**/api/tasks/*', async (route) => {
    if (route.request().method() === 'PATCH') await new Promise<void>((resolve) => (answer = resolve));
    await route.continue();
  });
  await row(page, 'Cut the boards').press('n');
  await page.keyboard.press('End');
  await page.keyboard.type(' of larch');
  await page.keyboard.press('Enter');
  await expect(row(page, 'Cut the boards of larch')).toBeVisible();
  expect(asked.some((one) => /^GET \/api\/(?:tasks|lists)/.test(one))).toBe(false);
  answer();
  await expect(page.locator('[data-tone]')).toContainText('called “Cut the boards of larch”');
  await expect.poll(() => asked.some((one) => one.startsWith('GET /api/tasks?ids='))).toBe(true);
  expect(asked.filter((one) => /^GET \/api\/(?:tasks$|tasks\?list|lists)/.test(one))).toEqual([]);
});

test('what is shown is printed, copied and saved, in its order', async ({ sort: page, corvun }) => {
  await page.context().grantPermissions(['clipboard-read', 'clipboard-write']);
  await onList(page, corvun, 'Cut the boards ++', 'Buy hinges #site', 'Ask Ines by Friday');
  const take = async (name: string) => {
    await page.getByRole('button', { name: 'print, copy, save' }).click();
    await page.getByRole('menuitem', { name }).click();
  };
  await take('Copy as Markdown');
  await expect(page.locator('[data-tone]')).toContainText('Copied as Markdown');
  expect(await page.evaluate(() => navigator.clipboard.readText())).toBe(
    '- [ ] Cut the boards {high}\n- [ ] Buy hinges #site\n- [ ] Ask Ines {by 2026-08-07}\n',
  );
  await page.getByLabel('Filter').fill('#site');
  await expect.poll(() => shown(page)).toEqual(['Buy hinges']);
  const saving = page.waitForEvent('download');
  await take('Save as .csv');
  const saved = await saving;
  expect(saved.suggestedFilename()).toBe('Hide.csv');
  expect(readFileSync(await saved.path(), 'utf8').split('\n')[1]).toContain('Buy hinges,Hide,site');
  await page.getByLabel('Filter').fill('');
  // What the printer would get stands on the page while it is asked.
  await page.evaluate(() => {
    window.print = () => undefined;
  });
  await take('Print');
  await page.emulateMedia({ media: 'print' });
  await expect(page.locator('.printed li')).toHaveCount(3);
  await expect(page.locator('.printed li').first()).toBeVisible();
  await expect(page.locator('#place')).toBeHidden();
  await page.evaluate(() => window.dispatchEvent(new Event('afterprint')));
  await page.emulateMedia({ media: null });
  await expect(page.locator('.printed')).toHaveCount(0);
});

for (const width of [360, 390, 768, 1920])
  test(`at ${width} px forty letters of a title are read, nothing is cut off, and axe has nothing to say`, async ({
    sort: page,
    corvun,
  }) => {
    await page.setViewportSize({ width, height: 800 });
    const title = 'Write to all twelve landowners by hand 40';
    await onList(page, corvun, `${title} ++ tomorrow by Friday #call #write 30 min`);
    const cut = await row(page, 'Write to all')
      .locator('span')
      .first()
      .evaluate((span) => span.scrollWidth - span.clientWidth);
    expect(cut).toBe(0);
    expect(await page.evaluate(() => document.documentElement.scrollWidth > window.innerWidth)).toBe(false);
    expect(await violations(page)).toEqual([]);
    await page.emulateMedia({ colorScheme: 'dark' });
    expect(await violations(page, 'colours')).toEqual([]);
  });
