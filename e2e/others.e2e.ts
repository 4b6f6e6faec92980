import type { Browser, Page } from '@playwright/test';
import { violations } from './axe';
import { expect, said, test } from './corvun';
import { day, event, onPlan, onSheet, pointAt } from './planning';

/** Somebody elsewhere, without an account, in another zone and with a narrow screen. */
async function stranger(browser: Browser, address: string): Promise<Page> {
  const context = await browser.newContext({ timezoneId: 'Europe/Helsinki', viewport: { width: 360, height: 740 } });
  const page = await context.newPage();
  await page.goto(address);
  return page;
}
const times = (page: Page) => page.getByRole('list', { name: 'Free times' }).getByRole('button');
const fill = async (page: Page, name: string, address: string) => {
  await page.getByLabel('Your name').fill(name);
  await page.getByLabel(/^Your mail address/).fill(address);
};

test.describe('on Plan', () => {
  onPlan();

  test('times are marked, held and offered; of two strangers one gets a time and the other is told', async ({
    sort: page,
    browser,
    context,
  }) => {
    await context.grantPermissions(['clipboard-read', 'clipboard-write']);
    await page.keyboard.press('k');
    await expect(page.getByLabel('Offer times for')).toBeFocused();
    await page.keyboard.type('Boardwalk talk');
    const gaps = page.getByRole('group', { name: 'Gaps that fit' }).getByRole('button');
    await gaps.nth(3).press('Enter');
    await expect(gaps.nth(3)).toHaveAttribute('aria-pressed', 'true');
    const at = await pointAt(page, 'Thu 6 Aug', 12);
    await page.mouse.click(at.x, at.y + 2);
    await expect(page.getByText('2 times marked')).toBeVisible();
    expect(await violations(page)).toEqual([]);
    await page.getByRole('button', { name: 'Hold them, and make an address' }).click();
    await expect(said(page)).toContainText('2 times for “Boardwalk talk” are held');
    await expect(event(page, 'Offered: Boardwalk talk')).toHaveCount(2);
    await page.getByRole('button', { name: 'Copy the text' }).click();
    const text = await page.evaluate(() => navigator.clipboard.readText());
    expect(text).toMatch(
      /^These times, 30 min each, would suit me \(in the time of Vienna, Europe\/Vienna\):\n- .+\n- Thursday 6 August, 12:00–12:30\nPlease choose one here: http/,
    );
    await page.getByRole('button', { name: 'Copy the address of “Boardwalk talk”' }).click();
    const address = await page.evaluate(() => navigator.clipboard.readText());

    const [one, other] = [await stranger(browser, address), await stranger(browser, address)];
    for (const [who, name] of [
      [one, 'Ines Aalto'],
      [other, 'Tomas Rieger'],
    ] as const) {
      await who.getByRole('button', { name: 'Thu 6 Aug, 13:00' }).click();
      await fill(who, name, 'guest@x.example');
    }
    await one.getByRole('button', { name: 'Take this time' }).click();
    await expect(one.getByRole('heading', { name: 'It is agreed' })).toBeVisible();
    await other.getByRole('button', { name: 'Take this time' }).click();
    await expect(other.getByRole('alert')).toContainText('Somebody was quicker');
    expect(await violations(other)).toEqual([]);
    await expect(day(page, 'Thu 6 Aug').getByRole('button', { name: /^Event: Boardwalk talk/ })).toBeVisible();
    await expect(event(page, 'Offered: Boardwalk talk')).toHaveCount(0);
  });
});

test('a meet-me page is made by its rules; a stranger takes a time, moves it and cancels it', async ({
  sort: page,
  browser,
  corvun,
}) => {
  await page.keyboard.press('Shift+T');
  await page.getByRole('button', { name: 'New page …' }).click();
  await page.getByRole('button', { name: 'Keep it' }).click();
  await expect(page.getByText('The name has 1 to 120 characters.')).toBeVisible();
  await page.getByLabel('What it is called').fill('Half an hour on the gauges');
  await page.getByLabel('What it is for').fill('Whatever you want to know of the north bank.');
  await page.getByLabel('60 min').check();
  await page.getByRole('button', { name: 'Another question' }).click();
  await page.getByRole('textbox', { name: 'Question 1' }).fill('What about?');
  await page.getByLabel('wants an answer').check();
  expect(await violations(page)).toEqual([]);
  await page.getByRole('button', { name: 'Keep it' }).click();
  await expect(page.getByRole('article', { name: 'Half an hour on the gauges' })).toBeVisible();
  const { pages } = await corvun.api<{ pages: { path: string }[] }>('/others');

  const guest = await stranger(browser, `${corvun.url}${pages[0]?.path}`);
  await expect(guest.getByText('Maren Holt is in Vienna.')).toBeVisible();
  await guest.getByText('1 h', { exact: true }).click();
  await expect(guest.getByRole('radio', { name: '1 h' })).toBeChecked();
  await times(guest).first().press('Enter');
  await guest.getByRole('button', { name: 'Take this time' }).click();
  await expect(guest.getByText('Write your name, in at most 120 characters.')).toBeVisible();
  await fill(guest, 'Ines Aalto', 'ines@aalto-timber.example');
  await guest.reload();
  await guest.getByText('1 h', { exact: true }).click();
  await expect(guest.getByRole('radio', { name: '1 h' })).toBeChecked();
  await times(guest).first().press('Enter');
  await expect(guest.getByLabel('Your name')).toHaveValue('Ines Aalto');
  await guest.getByLabel('What about?').fill('The north gauge');
  expect(await violations(guest)).toEqual([]);
  await guest.getByRole('button', { name: 'Take this time' }).click();
  await expect(guest.getByRole('heading', { name: 'It is agreed' })).toBeVisible();
  const booked = page.getByRole('list', { name: /^Booked on/ }).getByRole('button', { name: /Ines Aalto$/ });
  await booked.click();
  await expect(onSheet(page, 'Half an hour on the gauges: Ines Aalto').getByText('The north gauge')).toBeVisible();

  await guest.getByRole('link', { name: 'Move or cancel it' }).click();
  await guest.getByRole('button', { name: 'Move it' }).click();
  await times(guest).nth(9).press('Enter');
  await guest.getByRole('button', { name: 'Move it there' }).click();
  await expect(guest.getByRole('button', { name: 'Move it', exact: true })).toBeVisible();
  await guest.getByRole('button', { name: 'Cancel it' }).click();
  expect(await violations(guest)).toEqual([]);
  await guest.getByRole('button', { name: /^Cancel it, and tell/ }).click();
  await expect(guest.getByText('It is cancelled.')).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(booked).toHaveCount(0);
});

test('a calendar gets a secret address that is read, renewed and withdrawn', async ({ sort: page, corvun, request }) => {
  await page.goto(`${corvun.url}/others`);
  await page.getByLabel('Calendar', { exact: true }).selectOption('Fen');
  await page.getByLabel('shows').selectOption('what it is called and when');
  await page.getByRole('button', { name: 'Make an address' }).click();
  const share = page.getByRole('article', { name: 'Fen' });
  const address = (await share.locator('code').textContent()) ?? '';
  const text = await (await request.get(address)).text();
  expect(text).toContain('SUMMARY:Site walk\\, north bank');
  expect(text).not.toContain('Gate 3');
  await share.getByRole('button', { name: 'Another address' }).click();
  await expect(share.locator('code')).not.toHaveText(address);
  expect((await request.get(address)).status()).toBe(404);
  await share.getByRole('button', { name: 'Withdraw' }).click();
  await expect(share).toHaveCount(0);
});
