import { violations } from './axe';
import { expect, openAt, said, sheet, test } from './corvun';

test('a name opens its card: what is open with them and all that was; it is changed in place, and Escape gives the focus back', async ({
  sort: page,
  corvun,
}) => {
  await openAt(page, corvun, 'gauge');
  const name = sheet(page).getByRole('button', { name: 'Tomas Rieger' });
  await name.click();
  const card = page.getByRole('complementary', { name: 'Person: Tomas Rieger' });
  await expect(card.getByRole('region', { name: 'Asks you, not decided yet' })).toBeVisible();
  await expect(card.getByRole('region', { name: 'Until now' }).getByRole('listitem').first()).toContainText('from');
  expect(await violations(page)).toEqual([]);
  await page.emulateMedia({ colorScheme: 'dark' });
  expect(await violations(page, 'colours')).toEqual([]);

  await card.getByRole('button', { name: 'Add: Works at' }).press('Enter');
  await page.keyboard.type('County water office');
  await page.keyboard.press('Enter');
  await expect(card.getByRole('button', { name: 'Works at: County water office' })).toBeFocused();
  await card.getByRole('button', { name: 'Add: Further addresses, parted by commas' }).press('Enter');
  await page.keyboard.type('no address');
  await page.keyboard.press('Enter');
  await expect(card.getByRole('alert').filter({ hasText: 'no mail address' })).toBeVisible();
  await page.keyboard.press('Escape');
  await card.getByLabel('Note', { exact: true }).fill('Answers on Mondays');
  await card.getByLabel('Note', { exact: true }).press('Control+Enter');
  await expect(said(page)).toContainText('Tomas Rieger was changed');
  await page.reload();
  await expect(card.getByRole('button', { name: 'Works at: County water office' })).toBeVisible();
  await expect(card.getByLabel('Note', { exact: true })).toHaveValue('Answers on Mondays');
  // What gets the focus back has to be there again after the reload.
  await expect(name).toBeVisible();
  await card.press('Escape');
  await expect(card).toBeHidden();
  await expect(name).toBeFocused();
});

test('people: made known, found, written to, made one of two, and two again', async ({ sort: page, corvun }) => {
  await page.keyboard.press('O');
  await expect(page.getByRole('heading', { name: 'People', level: 1 })).toBeVisible();
  expect(await violations(page)).toEqual([]);
  await page.getByRole('button', { name: 'Somebody new' }).press('Enter');
  await page.getByLabel('Name', { exact: true }).fill('T. Rieger');
  await page.getByLabel('Mail address').fill('not an address');
  await page.keyboard.press('Enter');
  await expect(page.getByText('This is not a mail address.')).toBeVisible();
  await page.getByLabel('Mail address').fill('rieger@county-water.example');
  await page.keyboard.press('Enter');
  const card = page.getByRole('complementary', { name: 'Person: T. Rieger' });
  await expect(card).toBeVisible();

  await card.getByRole('button', { name: /^Write/ }).click();
  await card.getByLabel('Subject').fill('Levels of July');
  await card.getByLabel('Text').fill('Could you send them?');
  await page.reload();
  await expect(card.getByLabel('Text')).toHaveValue('Could you send them?');
  await card.getByRole('button', { name: 'Send' }).click();
  await expect(said(page)).toContainText('The mail to T. Rieger is on its way');
  await expect(card.getByRole('region', { name: 'Until now' })).toContainText('Mail to T. Rieger: Levels of July');

  await page
    .getByRole('list', { name: 'People' })
    .getByRole('button', { name: /^Tomas Rieger/ })
    .click();
  const tomas = page.getByRole('complementary', { name: 'Person: Tomas Rieger' });
  await tomas.getByRole('button', { name: 'Make one with …' }).click();
  await tomas.getByLabel('The same as').selectOption({ label: 'T. Rieger, rieger@county-water.example' });
  await expect(said(page)).toContainText('T. Rieger and Tomas Rieger are one now');
  await expect(tomas.getByRole('button', { name: /^Further addresses/ })).toContainText('rieger@county-water.example');
  await expect(page.getByRole('list', { name: 'People' })).not.toContainText('T. Rieger');
  await said(page).getByRole('button', { name: /^Undo/ }).click();
  await expect(page.getByRole('list', { name: 'People' })).toContainText('T. Rieger');

  await page.goto(`${corvun.url}/find?q=rieger`);
  await page
    .getByRole('list', { name: 'Found' })
    .getByRole('link', { name: /^Tomas Rieger/ })
    .click();
  await expect(tomas).toBeVisible();
  for (const width of [360, 390, 768, 1920]) {
    await page.setViewportSize({ width, height: 800 });
    expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(width);
    await expect(tomas).toBeInViewport();
  }
});
