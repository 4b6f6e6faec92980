import { violations } from './axe';
import { expect, sheet, test } from './corvun';

test('find: one key, as one types, narrowed by a chip or by typing, and the arrows lead to the original', async ({
  sort: page,
}) => {
  await page.keyboard.press('f');
  const field = page.getByRole('searchbox', { name: 'Find' });
  await expect(field).toBeFocused();
  await page.keyboard.type('gau');
  const found = page.getByRole('list', { name: 'Found' });
  await expect(found.getByRole('listitem').first()).toContainText(/gauge/i);
  await expect(found.locator('mark').first()).toHaveText(/^gauge$/i);
  await page.keyboard.type('ge');
  await expect(found.getByRole('button', { name: /^Give it time: / }).first()).toBeVisible();
  expect(await violations(page)).toEqual([]);
  await page.keyboard.type(' readings');
  await page.getByRole('button', { name: 'mail', exact: true }).click();
  await expect(field).toHaveValue('gauge readings +mail');
  await expect(page.getByRole('button', { name: 'mail', exact: true })).toHaveAttribute('aria-pressed', 'true');
  await expect(found.getByRole('button')).toHaveCount(0);
  expect(await violations(page)).toEqual([]);
  await expect(found.getByRole('link', { name: /Gauge 14: readings for the county/ })).toBeVisible();
  await field.focus();
  await page.keyboard.press('Escape');
  await expect(field).not.toBeFocused();
  await expect(field).toHaveValue('gauge readings +mail');
  await page.keyboard.press('?');
  await expect(page.getByRole('dialog')).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(page.getByRole('dialog')).toHaveCount(0);
  await expect(field).toHaveValue('gauge readings +mail');
  await field.focus();
  await page.keyboard.press('ArrowDown');
  await expect(found.getByRole('link').first()).toBeFocused();
  await found.getByRole('link', { name: /Gauge 14: readings for the county/ }).press('Enter');
  await expect(sheet(page).getByRole('heading', { name: 'Gauge 14: readings for the county' })).toBeVisible();
  await page.goBack();
  await expect(field).toHaveValue('gauge readings +mail');
  await field.fill('nothing of the kind whatsoever');
  await expect(page.getByRole('status').filter({ hasText: 'Nothing is like this' })).toBeVisible();
});
