import { violations } from './axe';
import { expect, pane, sheet, stack, test } from './corvun';

for (const theme of ['light', 'dark'] as const) {
  test(`every place passes the accessibility check, ${theme}`, async ({ sort: page }) => {
    await page.emulateMedia({ colorScheme: theme });
    await expect(sheet(page).locator('.mark-ask').first()).toBeVisible();
    expect(await violations(page)).toEqual([]);
    for (const key of ['l', 'd', 't', 'e', 'h', 's', 'p', 'r', 'x', 'b']) {
      await page.locator('body').press('Escape');
      await page.mouse.click(640, 20);
      await pane(page)
        .getByRole('button', {
          name:
            {
              l: /^List/,
              d: /^Day/,
              t: /^Time/,
              e: /^Event/,
              h: /^Hand over/,
              s: /^Shelf/,
              p: /^Person/,
              r: /^Reference/,
              x: /^Done/,
              b: /^Before it goes/,
            }[key] ?? key,
        })
        .click();
      expect(await violations(page)).toEqual([]);
    }
    await page.goto(page.url().replace(/\/sort.*/, '/plan'));
    await expect(page.getByRole('button', { name: /^Block: Grant figures/ })).toBeVisible();
    expect(await violations(page)).toEqual([]);
    await page.getByRole('button', { name: /^Block: Grant figures/ }).click();
    expect(await violations(page)).toEqual([]);
    await page.goto(page.url().replace(/\/plan.*/, '/lists'));
    await expect(page.getByRole('heading', { name: /Permits/ })).toBeVisible();
    expect(await violations(page)).toEqual([]);
    await page.keyboard.press('?');
    await expect(page.getByRole('dialog', { name: 'Keys' })).toBeVisible();
    expect(await violations(page)).toEqual([]);
    await page.goto(page.url().replace(/\/lists.*/, '/api'));
    await expect(page.getByRole('heading', { name: 'How programs speak to Corvun' })).toBeVisible();
    expect(await violations(page)).toEqual([]);
  });
}

test('nothing overflows from 360 to 1920 wide', async ({ sort: page, corvun }) => {
  for (const width of [360, 390, 760, 1024, 1280, 1920]) {
    await page.setViewportSize({ width, height: 800 });
    for (const path of ['/sort', '/plan', '/lists', '/notes', '/gather']) {
      await page.goto(`${corvun.url}${path}`);
      await expect(page.getByRole('main')).toContainText(/[^]{40,}/);
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
