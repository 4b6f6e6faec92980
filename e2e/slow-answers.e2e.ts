import type { TaskFull } from '@corvun/contract';
import type { Page } from '@playwright/test';
import { expect, said, test, type Corvun } from './corvun';

/** What one sees and what becomes of one's keys while the server has not answered yet. */

const sheet = (page: Page) => page.locator('[data-sheet]');

async function made(corvun: Corvun, line: string): Promise<TaskFull> {
  const { ids } = await corvun.api<{ ids: string[] }>('/tasks', 'POST', { lines: [line], list: 'Grant report', after: null });
  return corvun.api<TaskFull>(`/tasks/${ids[0]}`);
}

async function opened(page: Page, corvun: Corvun, line: string): Promise<TaskFull> {
  const task = await made(corvun, line);
  await page.goto(`${corvun.url}/lists/${task.listId}?task=${task.id}`);
  await expect(sheet(page).getByRole('textbox', { name: 'Title' })).toBeVisible();
  await expect(sheet(page)).toBeFocused();
  return task;
}

test('a key pressed before the sheet has its content is done as soon as it has', async ({ sort: page, corvun }) => {
  const task = await made(corvun, 'Slow to come');
  await page.goto(`${corvun.url}/lists/${task.listId}`);
  const row = page.locator(`[data-task="${task.id}"]`);
  await row.focus();
  let answer = () => {};
  const asked = new Promise<void>((resolve) => (answer = resolve));
  await page.route(`**/api/tasks/${task.id}`, async (route) => {
    await asked;
    await route.continue();
  });
  await row.press('Enter');
  await expect(sheet(page)).toBeFocused();
  await page.keyboard.press('n');
  await page.keyboard.press('x');
  answer();
  await expect(sheet(page).getByRole('textbox', { name: 'Title' })).toBeFocused();
  await expect(sheet(page).getByRole('checkbox', { name: /Slow to come/ })).not.toBeChecked();
});

test('a key pressed on a sheet that could not be opened is not done when it opens later', async ({ sort: page, corvun }) => {
  const task = await made(corvun, 'Away for now');
  await page.goto(`${corvun.url}/lists/${task.listId}`);
  const row = page.locator(`[data-task="${task.id}"]`);
  await row.focus();
  const path = `**/api/tasks/${task.id}`;
  await page.route(path, (route) => route.abort());
  await row.press('Enter');
  await expect(sheet(page)).toBeFocused();
  await page.keyboard.press('x');
  const problem = sheet(page).getByRole('alert').filter({ hasText: 'This could not be shown' });
  await expect(problem).toBeVisible();
  await sheet(page).press('x');
  await page.unroute(path);
  await problem.getByRole('button', { name: 'Try again' }).click();
  await expect(sheet(page).getByRole('textbox', { name: 'Title' })).toBeVisible();
  await expect(sheet(page).getByRole('checkbox', { name: /Away for now/ })).not.toBeChecked();
  expect((await corvun.api<TaskFull>(`/tasks/${task.id}`)).status).toBe('NEEDS-ACTION');
});

test('undo pressed while a title is being saved takes back the title, and not what was done before', async ({
  sort: page,
  corvun,
}) => {
  const task = await opened(page, corvun, 'Named at first');
  let answer = () => {};
  const asked = new Promise<void>((resolve) => (answer = resolve));
  await page.route(`**/api/tasks/${task.id}`, async (route) => {
    if (route.request().method() === 'PATCH') await asked;
    await route.continue();
  });
  await sheet(page).press('n');
  await page.keyboard.type(' and later');
  await page.keyboard.press('Enter');
  await page.keyboard.press('u');
  answer();
  await expect(said(page)).toContainText('Taken back');
  await expect(sheet(page).getByRole('textbox', { name: 'Title' })).toHaveValue('Named at first');
  expect((await corvun.api<TaskFull>(`/tasks/${task.id}`)).title).toBe('Named at first');
});

test('where its time could go is not said before it is known', async ({ sort: page, corvun }) => {
  const task = await made(corvun, 'Paint the gate');
  let answer = () => {};
  const asked = new Promise<void>((resolve) => (answer = resolve));
  let away = true;
  await page.route(/\/api\/days\?/, async (route) => {
    await asked;
    await (away ? route.abort() : route.continue());
  });
  await page.goto(`${corvun.url}/lists/${task.listId}?task=${task.id}`);
  await sheet(page).getByRole('button', { name: 'give it time' }).click();
  await expect(sheet(page).getByText('Looking for what is free')).toBeVisible();
  answer();
  const problem = sheet(page).getByRole('alert').filter({ hasText: 'This could not be shown' });
  await expect(problem).toContainText('does not answer');
  away = false;
  await problem.getByRole('button', { name: 'Try again' }).click();
  await expect(sheet(page).getByRole('group', { name: 'Where its time could go' }).getByRole('button').first()).toBeFocused();
});
