import type { TaskFull, TaskInfo } from '@corvun/contract';
import type { Page } from '@playwright/test';
import { violations } from './axe';
import { expect, said, test, type Corvun } from './corvun';

const sheet = (page: Page) => page.locator('[data-sheet]');
const part = (page: Page, name: string) => sheet(page).getByRole('button', { name: new RegExp(`^${name}:`) });

/** A new task on the list Grant report, open in its sheet. */
async function opened(page: Page, corvun: Corvun, line = 'Results chapter'): Promise<TaskFull> {
  const { ids } = await corvun.api<{ ids: string[] }>('/tasks', 'POST', { lines: [line], list: 'Grant report', after: null });
  const task = await corvun.api<TaskFull>(`/tasks/${ids[0]}`);
  await page.goto(`${corvun.url}/lists/${task.listId}?task=${task.id}`);
  await expect(sheet(page).getByRole('textbox', { name: 'New step' })).toBeVisible();
  await expect(sheet(page)).toBeFocused();
  return task;
}

async function say(page: Page, name: string, words: string): Promise<void> {
  await sheet(page).press('a');
  await page.getByRole('menuitem', { name, exact: true }).press('Enter');
  const field = page.getByRole('dialog', { name }).getByRole('textbox');
  await expect(field).toBeFocused();
  await field.fill(words);
  await field.press('Enter');
  await expect(page.getByRole('dialog')).toHaveCount(0);
  await sheet(page).focus();
}

test('everything of a task is said with the keyboard, as one sentence, and stays after a reload', async ({
  sort: page,
  corvun,
}) => {
  const { id } = await opened(page, corvun);
  await say(page, 'Deadline', 'due 31 August');
  await say(page, 'How long it takes', '4 h');
  await say(page, 'Day or week', 'next week');
  await say(page, 'Tags', 'write, site');
  await say(page, 'Waiting on', 'Anna Reiter');
  await say(page, 'Expected by', 'Fri');
  await say(page, 'Repeats', 'every last Friday of the month');
  await say(page, 'Not before', '10 Aug');
  await say(page, 'Reminder', 'Thu 14:30');
  await say(page, 'Done by', 'Jonas');
  await say(page, 'Time spent', '2 h');
  await part(page, 'List').press('Enter');
  await page.getByRole('button', { name: /Permits/ }).press('Enter');
  await sheet(page).press('n');
  await page.keyboard.type(' of the interim report');
  await page.keyboard.press('Enter');
  await expect(sheet(page)).toBeFocused();
  await corvun.reload(page);
  await expect(sheet(page).getByRole('textbox', { name: 'Title' })).toHaveValue('Results chapter of the interim report');
  await expect(sheet(page).getByRole('group', { name: 'What it is' })).toContainText(
    /On List: Permits, due Deadline: .*Mon 31 Aug, Fixed or flexible: fixed\. Takes .*4 h.*To do .*next week, any day.*Not before.*Mon 10 Aug.*Repeats.*every last Fri of the month.*counted from.*the schedule.*Waiting on.*Anna Reiter since Mon 3 Aug, expected by.*Fri 7 Aug.*Done by.*Jonas.*Reminder.*Thu 6 Aug 14:30.*Spent.*2 h.*#write #site/,
  );
  await expect(sheet(page)).toContainText('Next: Mon 31 Aug · Fri 25 Sep');
  expect(await corvun.api<TaskFull>(`/tasks/${id}`)).toMatchObject({
    deadlineFixed: true,
    estimate: 240,
    waitingOn: 'Anna Reiter',
  });
  // A reload may have cut the saving short, and what is not saved yet is not what is taken back.
  const kept = () => corvun.api<TaskFull>(`/tasks/${id}`).then(({ title }) => title);
  await expect.poll(kept).toBe('Results chapter of the interim report');
  await sheet(page).press('u');
  await expect(sheet(page).getByRole('textbox', { name: 'Title' })).toHaveValue('Results chapter');
  expect(await violations(page)).toEqual([]);
});

test('a title whose saving a reload cuts short is saved all the same, once', async ({ sort: page, corvun }) => {
  const { id } = await opened(page, corvun);
  const kept = () => corvun.ask<TaskFull>(`/tasks/${id}`).then(({ title }) => title);
  let cut: (() => void) | null = null;
  const sent = new Promise<void>((resolve) => (cut = resolve));
  // The first time it is saved, the request never gets to the server.
  await page.route('**/api/tasks/*', (route) => {
    if (!cut || route.request().method() !== 'PATCH') return route.fallback();
    cut();
    cut = null;
  });
  await sheet(page).press('n');
  await page.keyboard.type(' of June');
  await page.keyboard.press('Enter');
  await sent;
  expect(await kept()).toBe('Results chapter');
  await page.reload();
  await expect.poll(kept).toBe('Results chapter of June');
  await expect(said(page)).toContainText('Results chapter of June');
  await sheet(page).press('u');
  await expect(sheet(page).getByRole('textbox', { name: 'Title' })).toHaveValue('Results chapter');
});

test('Escape in a title or a step gives back what stood there', async ({ sort: page, corvun }) => {
  const { id } = await opened(page, corvun);
  await corvun.api('/tasks', 'POST', { lines: ['Ask Jonas'], parent: id });
  await sheet(page).press('n');
  await page.keyboard.type(' of nothing');
  await page.keyboard.press('Escape');
  await expect(sheet(page)).toBeFocused();
  const step = sheet(page).getByRole('textbox', { name: 'Step: Ask Jonas' });
  await step.fill('Ask nobody');
  await step.press('Escape');
  await expect(step).toHaveValue('Ask Jonas');
  await expect(sheet(page).getByRole('textbox', { name: 'Title' })).toHaveValue('Results chapter');
  const kept = await corvun.api<TaskFull>(`/tasks/${id}`);
  expect([kept.title, kept.steps.map(({ title }) => title)]).toEqual(['Results chapter', ['Ask Jonas']]);
});

test('words that are not understood are said at the field and change nothing', async ({ sort: page, corvun }) => {
  await opened(page, corvun);
  await part(page, 'List').waitFor();
  await sheet(page).press('a');
  await page.getByRole('menuitem', { name: 'Deadline' }).click();
  const field = page.getByRole('dialog').getByRole('textbox');
  await field.fill('when it rains');
  await field.press('Enter');
  await expect(page.getByRole('dialog')).toContainText('Not a date. Write it as “Fri”, “14 Aug” or “14 Aug 12:00”.');
  await field.press('Escape');
  await expect(sheet(page)).toBeVisible();
  await expect(part(page, 'Deadline')).toHaveCount(0);
});

test('it opens from its row and gives the focus back; back closes it, and the next one is a key away', async ({
  sort: page,
  corvun,
}) => {
  const task = await opened(page, corvun, 'First of them');
  await page.goto(`${corvun.url}/lists/${task.listId}`);
  const row = page.locator(`[data-task="${task.id}"]`);
  await row.press('Enter');
  await expect(sheet(page)).toBeFocused();
  await sheet(page).press('.');
  await expect(page).not.toHaveURL(new RegExp(task.id));
  await sheet(page).press(',');
  await expect(page).toHaveURL(new RegExp(`task=${task.id}`));
  await page.keyboard.press('Escape');
  await expect(sheet(page)).toHaveCount(0);
  await expect(row).toBeFocused();
  await row.click();
  await expect(sheet(page)).toBeVisible();
  await page.goBack();
  await expect(sheet(page)).toHaveCount(0);
  await expect(row).toBeFocused();
});

test('steps are pasted, moved in and out, ticked and asked about', async ({ sort: page, corvun }) => {
  const { id } = await opened(page, corvun);
  const steps = async () =>
    (await corvun.api<TaskFull>(`/tasks/${id}`)).steps.map((step) => `${step.parentId === id ? '' : '– '}${step.title}`);
  await sheet(page).press('+');
  await page.evaluate(() => {
    const data = new DataTransfer();
    data.setData('text/plain', '- Table of levels\n- [ ] Reed count 45 min\n\n3. Send to Anna');
    document.activeElement?.dispatchEvent(new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true }));
  });
  const step = (name: string) => sheet(page).getByRole('textbox', { name: `Step: ${name}` });
  await expect(step('Send to Anna')).toBeVisible();
  expect(await steps()).toEqual(['Table of levels', 'Reed count', 'Send to Anna']);
  await step('Send to Anna').press('Alt+ArrowRight');
  await expect.poll(steps).toEqual(['Table of levels', 'Reed count', '– Send to Anna']);
  await step('Send to Anna').press('Alt+ArrowLeft');
  await expect.poll(steps).toEqual(['Table of levels', 'Reed count', 'Send to Anna']);
  await step('Send to Anna').press('Alt+ArrowUp');
  await expect.poll(steps).toEqual(['Table of levels', 'Send to Anna', 'Reed count']);
  await sheet(page).getByRole('checkbox', { name: 'Done: Table of levels' }).click();
  await expect(sheet(page)).toContainText('1 of 3');
  await sheet(page).focus();
  await sheet(page).press('x');
  await expect(sheet(page).getByRole('group', { name: 'Its steps are open' })).toContainText('2 steps are open.');
  await page.keyboard.press('Escape');
  expect((await corvun.api<TaskFull>(`/tasks/${id}`)).status).toBe('NEEDS-ACTION');
  await sheet(page).focus();
  await sheet(page).press('x');
  await page.getByRole('button', { name: 'All done, too' }).press('Enter');
  await expect
    .poll(async () => (await corvun.api<TaskFull>(`/tasks/${id}`)).steps.map((one) => one.status))
    .toEqual(Array.from({ length: 3 }, () => 'COMPLETED'));
});

test('a step is dragged above another, and becomes a task of its own', async ({ sort: page, corvun }) => {
  const { id } = await opened(page, corvun);
  const { ids } = await corvun.api<{ ids: string[] }>('/tasks', 'POST', { lines: ['One', 'Two', 'Three'], parent: id });
  const box = async (name: string) => {
    const line = sheet(page).locator('li', { has: page.getByRole('textbox', { name: `Step: ${name}` }) });
    await expect(line).toBeVisible();
    const found = await line.boundingBox();
    if (!found) throw new Error('It is not shown.');
    return { x: found.x + found.width - 12, y: found.y + found.height / 2 };
  };
  const [from, to] = [await box('Three'), await box('One')];
  await page.mouse.move(from.x, from.y);
  await page.mouse.down();
  await page.mouse.move(to.x, to.y + 20, { steps: 4 });
  await page.mouse.move(to.x, to.y, { steps: 4 });
  await page.mouse.up();
  const titles = async () => (await corvun.api<TaskFull>(`/tasks/${id}`)).steps.map((step) => step.title);
  await expect.poll(titles).toEqual(['Three', 'One', 'Two']);
  await sheet(page).getByRole('button', { name: 'All that step “Two” can do' }).click();
  await page.getByRole('menuitem', { name: 'Make it a task of its own' }).click();
  await expect.poll(titles).toEqual(['Three', 'One']);
  expect((await corvun.api<TaskInfo>(`/tasks/${ids[1]}`)).parentId).toBeNull();
});

test('notes that are being written survive a reload, and are shown as they are meant', async ({ sort: page, corvun }) => {
  const { id } = await opened(page, corvun);
  await sheet(page).press('b');
  await page.keyboard.type('Keep to **three** [questions](javascript:alert(1))');
  await page.reload();
  const area = sheet(page).getByRole('textbox', { name: 'Notes, in Markdown' });
  await expect(area).toHaveValue(/three/);
  await area.press('Control+Enter');
  await expect(sheet(page).locator('strong')).toHaveText('three');
  await expect(sheet(page).locator('.page-text a')).toHaveCount(0);
  await expect.poll(async () => (await corvun.api<TaskFull>(`/tasks/${id}`)).notes).toContain('Keep to');
});

test('two windows change different fields and both win; the same field shows both', async ({ sort: page, corvun }) => {
  const { id } = await opened(page, corvun);
  await say(page, 'How long it takes', '1 h');
  // What the other window does reaches the server, and this one does not hear of it yet.
  await page.route(/\/api\/tasks/, (route) => (route.request().method() === 'GET' ? route.abort() : route.continue()));
  await corvun.api(`/tasks/${id}`, 'PATCH', { estimate: 45, priority: 'high' });
  await part(page, 'How long it takes').click();
  await page.getByRole('button', { name: '2 h', exact: true }).click();
  const alert = sheet(page).getByRole('alert').filter({ hasText: 'Another window' });
  await expect(alert).toContainText('takes 45 min');
  await expect(alert).toContainText('takes 2 h');
  await page.unroute(/\/api\/tasks/);
  await alert.getByRole('button', { name: 'Keep what stands here' }).click();
  await expect.poll(async () => (await corvun.api<TaskFull>(`/tasks/${id}`)).estimate).toBe(120);
  expect((await corvun.api<TaskFull>(`/tasks/${id}`)).priority).toBe('high');
});

test('files are picked, renamed and taken away; a link is added', async ({ sort: page, corvun }) => {
  await opened(page, corvun);
  await sheet(page)
    .getByLabel('Files for this task')
    .setInputFiles({ name: 'colours.txt', mimeType: 'text/plain', buffer: Buffer.from('green') });
  await expect(sheet(page).getByRole('link', { name: 'colours.txt' })).toBeVisible();
  await sheet(page).getByRole('button', { name: 'Rename colours.txt' }).click();
  await page.keyboard.type('Colours of the hut');
  await page.keyboard.press('Enter');
  await expect(sheet(page).getByRole('link', { name: 'Colours of the hut.txt' })).toBeVisible();
  await sheet(page)
    .getByRole('button', { name: /^Take away: .*Colours of the hut/ })
    .click();
  await expect(sheet(page).getByRole('link', { name: /hut/ })).toHaveCount(0);
  await sheet(page).getByRole('button', { name: 'add a link' }).click();
  await sheet(page).getByLabel('Address').fill('not an address');
  await page.keyboard.press('Enter');
  await expect(sheet(page).getByText('Not an address.')).toBeVisible();
  await sheet(page).getByLabel('Address').fill('alderfen.example/report');
  await sheet(page).getByLabel('Its name').fill('The form');
  await page.keyboard.press('Enter');
  await expect(sheet(page).getByRole('link', { name: 'The form' })).toHaveAttribute('href', 'https://alderfen.example/report');
});

test('it is given time by a number and gives it back; its message is answered from it', async ({ sort: page, corvun }) => {
  const tasks = await corvun.api<TaskInfo[]>('/tasks');
  let task: TaskFull | undefined;
  for (const one of tasks.filter(({ incomingId, blocks, parentId }) => incomingId && !blocks.length && !parentId)) {
    const full = await corvun.api<TaskFull>(`/tasks/${one.id}`);
    if (full.origin?.kind === 'mail') {
      task = full;
      break;
    }
  }
  if (!task) throw new Error('The demo has no task from a mail.');
  await page.goto(`${corvun.url}/plan?task=${task.id}`);
  await expect(sheet(page)).toBeFocused();
  await sheet(page)
    .getByRole('button', { name: /give it (?:more )?time/ })
    .waitFor();
  await sheet(page).press('t');
  await expect(sheet(page).getByRole('group', { name: 'Where its time could go' })).toContainText('soonest');
  await page.keyboard.press('1');
  await expect(sheet(page).getByRole('heading', { name: /placed/ })).toBeVisible();
  await sheet(page)
    .getByRole('button', { name: /^give it back: the time on/ })
    .first()
    .click();
  await expect(sheet(page).getByRole('heading', { name: 'No time set aside' })).toBeVisible();
  await sheet(page).focus();
  await sheet(page).press('w');
  await page.keyboard.type('It is on its way.');
  await page.keyboard.press('Control+Enter');
  await expect
    .poll(async () => (await corvun.api<{ what: string }[]>('/outbox')).map(({ what }) => what))
    .toContainEqual(expect.stringContaining(`Reply to ${task.origin?.sender.name}`));
});

for (const width of [360, 768, 1920])
  test(`at ${width} px it is whole and says so to assistive technology, in the dark, too`, async ({ sort: page, corvun }) => {
    await page.setViewportSize({ width, height: 800 });
    const { id } = await opened(page, corvun);
    await corvun.api('/tasks', 'POST', { lines: ['A step'], parent: id });
    await corvun.api(`/tasks/${id}`, 'PATCH', {
      deadline: '2026-08-31',
      estimate: 240,
      repeat: 'FREQ=WEEKLY',
      tags: ['write'],
      notes: 'x',
    });
    await expect(sheet(page).getByRole('textbox', { name: 'Step: A step' })).toBeVisible();
    const wide = await page.evaluate(() => document.documentElement.scrollWidth > window.innerWidth);
    expect(wide).toBe(false);
    expect(await violations(page)).toEqual([]);
    await page.emulateMedia({ colorScheme: 'dark' });
    expect(await violations(page, 'colours')).toEqual([]);
  });
