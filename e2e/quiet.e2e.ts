import type { DayInfo } from '@corvun/contract';
import { violations } from './axe';
import { expect, said, test } from './corvun';

test('sites to hold back are chosen in Settings or for one quiet time; Now says what is missing for it, and how to get it', async ({
  sort: page,
  corvun,
}) => {
  const { days } = await corvun.api<{ days: DayInfo[] }>('/days?from=2026-08-03&days=1');
  for (const { kind, id } of days[0]?.entries ?? []) if (kind === 'block') await corvun.api(`/blocks/${id}`, 'DELETE');
  await corvun.api('/blocks', 'POST', { kind: 'quiet', title: 'Results chapter', start: '2026-08-03T10:30', minutes: 60 });

  await page.goto(`${corvun.url}/settings#held-sites`);
  const field = page.getByLabel('Sites, parted by commas');
  await field.fill('fen-news.example, board');
  await field.press('Enter');
  await expect(page.locator('#sites-parted-by-commas-says')).toHaveText('“board” is no site. Write one like news.example.');
  expect(await violations(page)).toEqual([]);
  await field.fill('https://www.fen-news.example/today, marsh-board.example');
  await field.press('Enter');
  await expect(said(page)).toContainText('What is held back was changed');
  await page.reload();
  await expect(field).toHaveValue('fen-news.example, marsh-board.example');

  await field.blur();
  await page.keyboard.press('J');
  await expect(page.getByText('2 sites should be held back: that takes the browser extension')).toBeVisible();
  expect(await violations(page)).toEqual([]);
  await page.getByRole('link', { name: 'Get the extension' }).click();
  await expect(page.getByRole('heading', { name: 'Browser extension' })).toBeVisible();
  await page.goBack();
  // It is there now, and says so itself.
  await corvun.api('/quiet/here', 'POST');
  await expect(page.getByText('2 sites held back until 11:30')).toBeVisible();

  await page.keyboard.press('P');
  const block = page.getByRole('button', { name: /^Block: Results chapter/ }).first();
  await block.focus();
  await page.keyboard.press('Enter');
  await page.getByRole('menuitem', { name: 'Sites held back in it' }).click();
  const own = page.getByRole('dialog', { name: 'Sites held back' });
  await expect(own.getByRole('radio', { name: /What always is/ })).toBeFocused();
  await page.keyboard.press('ArrowDown');
  await own.getByRole('textbox').fill('ferry');
  await own.getByRole('button', { name: 'Keep' }).click();
  await expect(own.getByRole('alert')).toHaveText('“ferry” is no site. Write one like news.example.');
  await own.getByRole('textbox').fill('ferry.example');
  expect(await violations(page)).toEqual([]);
  await own.getByRole('button', { name: 'Keep' }).click();
  await expect(said(page)).toContainText('“Results chapter” holds 1 site back');
  await expect(block).toBeFocused();
  await page.keyboard.press('J');
  await expect(page.getByText('1 site held back until 11:30')).toBeVisible();
});
