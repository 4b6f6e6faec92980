import { expect, said, test, waitingCount } from './corvun';

test('the capture line shows span by span what it understood, and makes that', async ({ sort: page }) => {
  await page.keyboard.press('Shift+P');
  await expect(page.getByRole('heading', { name: /Plan/ })).toBeAttached();
  await page.keyboard.press('c');
  const line = page.getByLabel('Capture line');
  await expect(line).toBeFocused();
  await page.keyboard.type('Call the contractor tomorrow 15:30 for 45 min #call >Boardwalk repair');
  const read = page.locator('#capture-read');
  for (const [field, text] of [
    ['date', 'tomorrow'],
    ['time', '15:30'],
    ['minutes', 'for 45 min'],
    ['tag', '#call'],
    ['list', '>Boardwalk repair'],
  ])
    await expect(read.locator(`[data-field="${field}"]`)).toHaveText(text ?? '');
  await expect(read).toContainText('makes the task “Call the contractor” and sets its time aside');
  await page.keyboard.press('Enter');
  await expect(said(page)).toContainText('“Call the contractor” is a task on Boardwalk repair with time set aside');
  await expect(line).toHaveValue('');
  await page.keyboard.press('Escape');
  await expect(
    page
      .getByRole('region', { name: 'Tue 4 Aug', exact: true })
      .getByRole('button', { name: /^Block: Call the contractor 15:30 – 16:15/ }),
  ).toBeVisible();
});

test('a list that is named and not there is made from the line', async ({ sort: page, corvun }) => {
  await page.keyboard.press('c');
  await page.keyboard.type('Buy rope for the tents on Friday >Tents');
  const read = page.locator('#capture-read');
  await expect(read).toContainText('There is no list “Tents”, so this stays in the title.');
  await page.keyboard.press('Shift+Enter');
  await expect(said(page)).toContainText('The list “Tents” is there');
  await expect(read.locator('[data-field="list"]')).toHaveText('>Tents');
  await expect(page.getByLabel('Capture line')).toBeFocused();
  await page.keyboard.press('Enter');
  await expect(said(page)).toContainText('“Buy rope for the tents” is a task on Tents');
  expect((await corvun.api<{ name: string }[]>('/lists')).map(({ name }) => name)).toContain('Tents');
});

test('words without a date go to the inbox; what is no date is said; a draft survives a reload', async ({ sort: page }) => {
  const before = await waitingCount(page);
  await page.keyboard.press('c');
  await page.keyboard.type('ask about fog on 31 June');
  await expect(page.locator('#capture-read')).toContainText('“31 June” is not a date, so it stays in the title.');
  await page.reload();
  await expect(page.getByLabel('Capture line')).toHaveValue('ask about fog on 31 June');
  await page.getByLabel('Capture line').press('Enter');
  await expect(said(page)).toContainText('“ask about fog on 31 June” waits in the inbox');
  await expect.poll(() => waitingCount(page)).toBe(before + 1);
});

test('no key fires while typing', async ({ sort: page }) => {
  const before = await waitingCount(page);
  await page.keyboard.press('c');
  await page.keyboard.type('xrSPLu?d');
  await page.keyboard.press('Backspace');
  await expect(page).toHaveURL(/\/sort/);
  expect(await waitingCount(page)).toBe(before);
});
