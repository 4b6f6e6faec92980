import { violations } from './axe';
import { expect, openLine, pane, said, sheet, stack, test, waitingCount } from './corvun';

test('many at once: marked with keys, decided together, taken back as one', async ({ sort: page }) => {
  const before = await waitingCount(page);
  await openLine(page, 'Gatter am Nordweg');
  await page.keyboard.press('m');
  await expect(sheet(page).getByRole('heading', { name: 'Question about the ditch' })).toBeVisible();
  await page.keyboard.press('m');
  const marked = pane(page).getByRole('region', { name: 'Marked' });
  await expect(marked).toContainText('2 things marked');
  await expect(pane(page).getByRole('button', { name: /^Event/ })).toBeHidden();
  expect(await violations(page)).toEqual([]);
  await page.keyboard.press('Escape');
  await expect(marked).toBeHidden();

  await openLine(page, 'Fen & Field Letter: a good year for bitterns');
  await page.keyboard.press('Shift+M');
  await expect(marked).toContainText('2 things marked');
  await page.keyboard.press('Backspace');
  await expect(said(page)).toContainText('2 things: each was dropped');
  await expect(stack(page).getByText(`${before - 2} to decide`)).toBeVisible();
  await page.keyboard.press('u');
  await expect(stack(page).getByText(`${before} to decide`)).toBeVisible();
});

test('many are marked with the mouse: one by one, and a whole stretch', async ({ sort: page }) => {
  const before = await waitingCount(page);
  const lines = stack(page).getByRole('listitem');
  await lines.nth(1).getByRole('button').click();
  await lines
    .nth(3)
    .getByRole('button')
    .click({ modifiers: ['Shift'] });
  const marked = pane(page).getByRole('region', { name: 'Marked' });
  await expect(marked).toContainText('3 things marked');
  await lines
    .nth(2)
    .getByRole('button')
    .click({ modifiers: ['ControlOrMeta'] });
  await expect(marked).toContainText('2 things marked');
  await pane(page).getByRole('button', { name: /^Drop/ }).click();
  await expect(stack(page).getByText(`${before - 2} to decide`)).toBeVisible();
});

test('many are marked on a telephone and decided together', async ({ sort: page }) => {
  await page.setViewportSize({ width: 390, height: 844 });
  const before = Number(/\d+/.exec((await page.getByText(/^\d+ to decide$/).textContent()) ?? '')?.[0]);
  await page.getByRole('button', { name: 'Stack', exact: true }).click();
  await page.getByRole('button', { name: 'Mark several' }).click();
  const lines = page.getByRole('region', { name: 'Stack' }).getByRole('listitem');
  for (const at of [0, 2]) await lines.nth(at).getByRole('button').click();
  await page.getByRole('button', { name: '2 things marked Decide together' }).click();
  expect(await violations(page)).toEqual([]);
  await pane(page).getByRole('button', { name: /^Drop/ }).click();
  await expect(said(page)).toContainText('2 things: each was dropped');
  await expect(page.getByText(`${before - 2} to decide`, { exact: true })).toBeVisible();
});

test('a filter says what it hides, and all newsletters go with three keys', async ({ sort: page }) => {
  const before = await waitingCount(page);
  await stack(page).getByLabel('Show', { exact: true }).selectOption('bulk');
  const shown = await stack(page).getByRole('listitem').count();
  await expect(stack(page).getByText(`${before - shown} more behind the filter “newsletters and notices”.`)).toBeVisible();
  await page.mouse.click(640, 400);
  await page.keyboard.press('Shift+A');
  await page.keyboard.press('Backspace');
  await expect(said(page)).toContainText(`${shown} things: each was dropped`);
  await stack(page).getByRole('button', { name: 'Show everything' }).click();
  await expect(stack(page).getByText(`${before - shown} to decide`)).toBeVisible();
});
