import { expect, said, test } from './corvun';
import { make } from './making';
import { block, onSheet } from './planning';

test('what opens over the page and goes gives the focus back to what it was opened from', async ({ sort: page, corvun }) => {
  const { id: list } = await corvun.api<{ id: string }>('/lists', 'POST', { name: 'Hide' });
  const id = await make(corvun, 'Mend the gate', { list });
  await page.goto(`${corvun.url}/lists/${list}`);
  await page.locator(`[data-task="${id}"]`).press('Enter');
  const sheet = page.locator('[data-sheet]');
  await expect(sheet).toBeFocused();
  await expect(sheet.locator('#sheet-more')).toBeVisible();
  for (const [part, words] of [
    ['Time spent', '20'],
    ['Priority', ''],
  ] as const) {
    await page.keyboard.press('a');
    await page.getByRole('menuitem', { name: part }).press('Enter');
    const field = page.getByRole('dialog', { name: part });
    await expect(
      field
        .getByRole('textbox')
        .or(field.getByRole('button', { name: 'High' }))
        .first(),
    ).toBeFocused();
    await page.keyboard.type(words);
    await page.keyboard.press('Enter');
    await expect(field).toHaveCount(0);
    await expect(sheet).toBeFocused();
  }
  await page.keyboard.press('Escape');
  await expect(page.locator(`[data-task="${id}"]`)).toBeFocused();

  // The name of a set of layers is written where it stands, and never heard as keys of the place.
  await page.keyboard.press('Shift+P');
  const layers = page.getByRole('button', { name: 'Layers' });
  await layers.click();
  await page.getByRole('menuitem', { name: /^Keep these layers/ }).press('Enter');
  await expect(page.getByRole('textbox', { name: 'Name of these layers' })).toBeFocused();
  await page.keyboard.type('Mine');
  await page.keyboard.press('Enter');
  await expect(layers).toBeFocused();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('menuitem', { name: 'Mine' })).toBeVisible();
  await page.keyboard.press('Escape');

  // A task beside an event.
  await page.getByRole('button', { name: /^Event: Site walk/ }).focus();
  await page.keyboard.press('i');
  const walk = onSheet(page, 'Site walk, north bank');
  await walk.getByRole('button', { name: /^A task before it/ }).press('Enter');
  await expect(walk.getByPlaceholder('read the quote 20 min')).toBeFocused();
  await page.keyboard.type('Pack the boots');
  await page.keyboard.press('Enter');
  await expect(said(page)).toContainText('with a task beside it');
  await expect(walk).toBeFocused();
});

test('what is written in a field of Sort, of the lists, of the settings and left with Enter or Escape leaves the focus where keys are heard', async ({
  sort: page,
  corvun,
}) => {
  const place = page.locator('#place');
  await page.keyboard.press('n');
  await page.keyboard.type('Another title');
  await page.keyboard.press('Enter');
  await expect(place).toBeFocused();
  await page.getByLabel('How long', { exact: true }).fill('25 min');
  await page.keyboard.press('Enter');
  await expect(place).toBeFocused();
  await page.getByLabel('How long', { exact: true }).fill('40 min');
  await page.keyboard.press('Escape');
  await expect(page.getByLabel('How long', { exact: true })).toHaveValue('25 min');
  const { id: list } = await corvun.api<{ id: string }>('/lists', 'POST', { name: 'Hide' });
  await page.goto(`${corvun.url}/lists/${list}`);
  await page.getByRole('searchbox', { name: 'Filter' }).fill('gate');
  await page.keyboard.press('Escape');
  await expect(place).toBeFocused();
  await page.goto(`${corvun.url}/settings#calendars`);
  const name = page.getByLabel('Name of the list Hide');
  await name.fill('Bird hide');
  await name.press('Enter');
  const renamed = page.getByLabel('Name of the list Bird hide');
  await expect(said(page)).toContainText('Bird hide');
  await expect(renamed).toBeFocused();
});

test('on a telephone a block that is held is moved with the finger', async ({ corvun, browser }) => {
  const phone = await browser.newContext({ viewport: { width: 390, height: 780 }, hasTouch: true, reducedMotion: 'reduce' });
  const page = await phone.newPage();
  await page.goto(`${corvun.url}/plan`);
  const figures = block(page, 'Grant figures, section 2 10:15 – 11:45');
  await figures.scrollIntoViewIfNeeded();
  const box = await figures.boundingBox();
  const at = { x: Math.round((box?.x ?? 0) + 60), y: Math.round((box?.y ?? 0) + 12) };
  const fingers = await phone.newCDPSession(page);
  const touch = (type: 'touchStart' | 'touchMove' | 'touchEnd', touchPoints: { x: number; y: number }[]) =>
    fingers.send('Input.dispatchTouchEvent', { type, touchPoints });
  await touch('touchStart', [at]);
  await expect(page.locator('[data-outline]')).toBeVisible();
  for (const by of [22, 44, 66]) await touch('touchMove', [{ x: at.x, y: at.y + by }]);
  await expect(page.locator('[data-outline]')).toContainText('11:45 – 13:15');
  await touch('touchEnd', []);
  await expect(block(page, 'Grant figures, section 2 11:45 – 13:15')).toBeVisible();
  await phone.close();
});
