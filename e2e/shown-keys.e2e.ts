import type { AgendaEntry, TaskInfo } from '@corvun/contract';
import { expect, openAt, said, test } from './corvun';
import { make } from './making';

test('Escape leaves any field and types nothing; a ticked box leaves keys to the place', async ({ sort: page, corvun }) => {
  await page.keyboard.press('f');
  const find = page.getByRole('searchbox');
  await expect(find).toBeFocused();
  await page.keyboard.type('gauge');
  await page.keyboard.press('Escape');
  await expect(find).not.toBeFocused();
  await page.keyboard.press('Shift+L');
  const box = page.getByRole('navigation', { name: 'Table of contents' }).getByRole('checkbox').first();
  await box.check();
  await page.keyboard.press('Shift+P');
  await expect(page).toHaveURL(/\/plan/);
  await openAt(page, corvun, 'Question about the ditch');
  await page.keyboard.press('w');
  await page.keyboard.press('Escape');
  await page.keyboard.press('?');
  await expect(page.getByRole('dialog')).toBeVisible();
});

test('a menu’s keys work in it; what fits now begins with Enter wherever the focus is', async ({ sort: page, corvun }) => {
  const { id: list } = await corvun.api<{ id: string }>('/lists', 'POST', { name: 'Hide' });
  const id = await make(corvun, 'Mend the gate', { list, plannedDay: '2026-08-03', estimate: 30 });
  // One key each to what stands on Plan, arrows between, and back.
  await page.goto(`${corvun.url}/plan`);
  await page.getByRole('region', { name: 'Tray' }).waitFor();
  await page.keyboard.press('ArrowDown');
  const focused = page.locator('[data-goes]:focus');
  await expect(focused).toHaveCount(1);
  await page.keyboard.press('ArrowRight');
  await expect(focused).toHaveCount(1);
  await page.keyboard.press('Enter');
  await expect(page.getByRole('menu')).toBeVisible();
  await page.keyboard.press('i');
  await expect(page.locator('[data-sheet]')).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(focused).toHaveCount(1);
  await page.keyboard.press('Escape');
  await expect(page.locator('#place')).toBeFocused();
  await page.keyboard.press('q');
  await expect(page.locator('[data-card]:focus')).toHaveCount(1);
  await page.goto(`${corvun.url}/lists/${list}`);
  const row = page.locator(`[data-task="${id}"]`);
  await row.focus();
  // A tag more is written behind those that are there.
  await corvun.api(`/tasks/${id}`, 'PATCH', { tags: ['fen'] });
  await expect(row).toContainText('#fen');
  const tags = async () => (await corvun.api<TaskInfo[]>(`/tasks?ids=${id}`))[0]?.tags;
  await row.press('g');
  await page.keyboard.type('wood');
  // One that comes from elsewhere meanwhile stays, too.
  await corvun.api('/tasks/change', 'POST', { ids: [id], change: {}, addTags: ['hut'] });
  await expect(row).toContainText('#hut');
  await page.keyboard.press('Enter');
  await expect.poll(tags).toEqual(['fen', 'hut', 'wood']);
  const { entries } = await corvun.api<{ entries: AgendaEntry[] }>('/agenda?from=2026-08-03&days=1');
  const runs = entries.find(({ title }) => title === 'Grant figures, section 2');
  await corvun.api(`/tasks/${runs?.taskId}`, 'PATCH', { status: 'COMPLETED' });
  await page.keyboard.press('Shift+J');
  const best = page
    .getByRole('list', { name: /^Fits into/ })
    .getByRole('button')
    .first();
  await expect(best).toContainText('Begin');
  await page.locator('#place').focus();
  await page.keyboard.press('Enter');
  await expect(said(page)).toContainText(/begun|runs/);
});

test('an address wins over a pass; what it did is taken back when its end is, if one says so', async ({ sort: page, corvun }) => {
  const { id } = await corvun.api<{ id: string }>('/passes', 'POST', { kind: 'open-day' });
  await corvun.api(`/passes/${id}`, 'PATCH', { step: 'today' });
  await page.goto(`${corvun.url}/people`);
  const pass = page.getByRole('complementary', { name: 'Open the day' });
  await expect(pass).toBeVisible();
  await expect(page).toHaveURL(/\/people$/);
  await pass.getByRole('link', { name: 'Go to where it stands' }).click();
  await expect(page).toHaveURL(/\/plan$/);
});
