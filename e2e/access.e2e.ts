import { violations } from './axe';
import { expect, pane, sheet, stack, test } from './corvun';

const DESTINATIONS = [
  /^List/,
  /^Day/,
  /^Time/,
  /^Event/,
  /^Hand over/,
  /^Shelf/,
  /^Person/,
  /^Reference/,
  /^Done/,
  /^Before it goes/,
];

// What the colours do not change is checked in the light ones only.
for (const [theme, rules] of [
  ['light', 'all'],
  ['dark', 'colours'],
] as const) {
  test(`every place passes the accessibility check, ${theme}`, async ({ sort: page, corvun }) => {
    const check = async () => expect(await violations(page, rules)).toEqual([]);
    await page.emulateMedia({ colorScheme: theme });
    await sheet(page).locator('.mark-ask').first().waitFor();
    await check();
    for (const name of DESTINATIONS) {
      await page.locator('body').press('Escape');
      await page.mouse.click(640, 20);
      await pane(page).getByRole('button', { name }).click();
      await check();
    }
    await page.goto(`${corvun.url}/plan`);
    await page.getByRole('button', { name: /^Block: Grant figures/ }).waitFor();
    await check();
    await page.getByRole('button', { name: /^Block: Grant figures/ }).click();
    await check();
    await page.goto(`${corvun.url}/lists`);
    await page.getByRole('heading', { name: /Permits/ }).waitFor();
    await check();
    await page.keyboard.press('?');
    await page.getByRole('dialog', { name: 'Keys' }).waitFor();
    await check();
    await page.goto(`${corvun.url}/api`);
    await page.getByRole('heading', { name: 'How programs speak to Corvun' }).waitFor();
    await check();
  });
}

test('nothing overflows from 360 to 1920 wide', async ({ sort: page, corvun }) => {
  for (const path of ['/sort', '/plan', '/lists', '/notes', '/gather']) {
    await page.setViewportSize({ width: 360, height: 800 });
    await page.goto(`${corvun.url}${path}`);
    await page
      .getByRole('main')
      .filter({ hasText: /[^]{40,}/ })
      .waitFor();
    for (const width of [360, 390, 760, 1024, 1280, 1920]) {
      await page.setViewportSize({ width, height: 800 });
      const overflow = await page.evaluate(() => document.documentElement.scrollWidth - window.innerWidth);
      expect([width, path, overflow <= 0]).toEqual([width, path, true]);
    }
  }
});

test('deep links, the back button and the turned order work', async ({ sort: page }) => {
  const second = stack(page).getByRole('button', { name: /Gauge 14: readings/ });
  await second.click();
  await expect(page).toHaveURL(/\/sort\/\w{20}/);
  const address = page.url();
  await stack(page)
    .getByRole('button', { name: /Field crew/ })
    .first()
    .click();
  await page.goBack();
  await expect(sheet(page).getByRole('heading', { name: /Gauge 14/ })).toBeVisible();
  await page.goto(address);
  await expect(sheet(page).getByRole('heading', { name: /Gauge 14/ })).toBeVisible();
  await page.getByRole('button', { name: 'Show the newest first' }).click();
  await expect(sheet(page).getByRole('heading', { name: 'Notes from the crew meeting' })).toBeVisible();
  await page.getByRole('button', { name: 'Show the oldest first' }).click();
});
