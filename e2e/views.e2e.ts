import type { Page } from '@playwright/test';
import { violations } from './axe';
import { drag, expect, said, test } from './corvun';
import { block, card, event, middle, onPlan } from './planning';

onPlan();

const view = (name: string) => ({ name, exact: true });

/** Does what stands behind “more …” at the head of Plan. */
async function more(page: Page, name: string): Promise<void> {
  await page.getByRole('button', { name: 'more … of Plan' }).click();
  await page.getByRole('menuitem', { name }).click();
}

test('four weeks: what has no room opens in place, days are drawn over, entries go to another day, keys walk', async ({
  sort: page,
}) => {
  await page.getByRole('radio', view('4 weeks')).click();
  const cell = (day: string) => page.locator(`[data-cell="${day}"]`);
  await expect(page.getByRole('heading', { name: /3 Aug – 30 Aug/ })).toBeVisible();
  await expect(cell('2026-08-30')).toBeVisible();
  await cell('2026-08-05')
    .getByRole('button', { name: /^\d+ more on Wed 5 Aug/ })
    .click();
  const more = page.getByRole('dialog', { name: 'Wed 5 Aug' });
  await expect(more.getByRole('button', { name: /Photos for the leaflet/ })).toBeVisible();
  await page.keyboard.press('Escape');
  expect(await violations(page)).toEqual([]);

  await page.keyboard.press('y');
  const laundry = cell('2026-08-21').getByRole('button', { name: /Laundry van/ });
  const walk = await middle(cell('2026-08-04').getByRole('button', { name: /Site walk, north bank/ }));
  const target = await cell('2026-08-11').boundingBox();
  await expect(laundry).toBeVisible();
  await drag(page, walk, { x: (target?.x ?? 0) + 60, y: (target?.y ?? 0) + 60 });
  await expect(said(page)).toContainText('“Site walk, north bank” is on Tue 11 Aug at 10:00');
  await expect(cell('2026-08-11').getByRole('button', { name: /Site walk, north bank/ })).toBeVisible();

  const [from, to] = [await cell('2026-08-18').boundingBox(), await cell('2026-08-20').boundingBox()];
  await drag(
    page,
    { x: (from?.x ?? 0) + 60, y: (from?.y ?? 0) + (from?.height ?? 0) - 20 },
    { x: (to?.x ?? 0) + 60, y: (to?.y ?? 0) + (to?.height ?? 0) - 20 },
  );
  await page.getByLabel('What it is', { exact: true }).fill('Away at the coast');
  await page.keyboard.press('Enter');
  for (const day of ['18', '19', '20'])
    await expect(cell(`2026-08-${day}`).getByRole('button', { name: /Away at the coast/ })).toBeVisible();

  await cell('2026-08-03').focus();
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('ArrowRight');
  await expect(cell('2026-08-11')).toBeFocused();
  await page.keyboard.press('Enter');
  await expect(page).toHaveURL(/\/plan\/2026-08-11/);
});

test('Spread: work by day, in an order of its own, dragged between days, off to next week', async ({ sort: page }) => {
  await page.getByRole('radio', view('Spread')).click();
  const column = (day: string) => page.locator(`[data-spread="${day}"]`);
  const titles = (day: string) => column(day).locator('[data-loose]').allTextContents();
  await expect(column('2026-08-03').getByText('2 meetings, 1 h 30')).toBeVisible();
  await expect(column('2026-08-03').getByRole('button', { name: /Stand-up/ })).toHaveCount(0);
  await expect.poll(() => titles('2026-08-03')).toHaveLength(2);
  const [first = '', second = ''] = await titles('2026-08-03');
  await column('2026-08-03')
    .getByRole('button', { name: /Sign the timesheets/ })
    .press('Alt+ArrowUp');
  await expect.poll(() => titles('2026-08-03')).toEqual([second, first]);
  await page.keyboard.press('u');
  await expect.poll(() => titles('2026-08-03')).toEqual([first, second]);

  const sign = await middle(column('2026-08-03').getByRole('button', { name: /Sign the timesheets/ }));
  const ferry = await column('2026-08-07')
    .getByRole('button', { name: /Ferry invoice/ })
    .boundingBox();
  await drag(page, sign, { x: (ferry?.x ?? 0) + 20, y: (ferry?.y ?? 0) - 2 });
  await expect(said(page)).toContainText('“Sign the timesheets” is on Fri 7 Aug');
  await expect
    .poll(async () => (await titles('2026-08-07')).map((one) => /Sign|Ferry/.exec(one)?.[0]))
    .toEqual(['Sign', 'Ferry']);

  await column('2026-08-07')
    .getByRole('button', { name: /Sign the timesheets/ })
    .focus();
  await page.keyboard.press('w');
  await expect(column('2026-08-07').getByRole('button', { name: /Sign the timesheets/ })).toHaveCount(0);
  await expect(card(page, 'Sign the timesheets')).toBeVisible();
  await expect(said(page)).toContainText('“Sign the timesheets” is in week 33, any day');
  expect(await violations(page)).toEqual([]);
});

test('weekends, the height of hours, a day in words, a small month; all of it stays', async ({ sort: page }) => {
  await page.getByRole('radio', view('7 days')).click();
  await expect(page.locator('[data-head]')).toHaveCount(7);
  await more(page, 'Hide weekends');
  await expect(page.locator('[data-head]')).toHaveCount(5);
  await page.getByRole('radio', view('3')).click();
  await page.keyboard.press('g');
  await page.getByLabel('A day in words').fill('tomorrow week at noon');
  await page.getByLabel('A day in words').fill('14 Aug');
  await expect(page.getByText('Fri 14 Aug · Enter goes there')).toBeVisible();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { name: 'Plan, 14 Aug – 18 Aug' })).toBeVisible();
  await expect(page.locator('[data-head="2026-08-17"]')).toBeVisible();
  await page.getByRole('button', { name: 'Go to a day' }).click();
  await page.getByRole('grid', { name: 'Days' }).getByRole('button', { name: 'Fri 14 Aug' }).focus();
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('ArrowDown');
  await expect(page.getByText('September 2026')).toBeVisible();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { name: 'Plan, 4 Sep – 8 Sep' })).toBeVisible();

  const height = async () => Math.round((await page.locator('[data-grid]').first().boundingBox())?.height ?? 0);
  expect(await height()).toBe(24 * 44);
  await page.locator('body').press('h');
  expect(await height()).toBe(24 * 53);
  await page.mouse.move(500, 500);
  await page.keyboard.down('Control');
  await page.mouse.wheel(0, 100);
  await page.keyboard.up('Control');
  await expect.poll(height).toBe(24 * 44);
  await page.mouse.wheel(200, 0);
  await expect(page.getByRole('heading', { name: 'Plan, 9 Sep – 11 Sep' })).toBeVisible();
  await page.reload();
  await page.getByRole('button', { name: 'more … of Plan' }).click();
  await expect(page.getByRole('menuitem', { name: 'Show weekends' })).toBeVisible();
});

test('layers: hidden, softly, lists and deadlines; what is hidden is counted, and sets are kept under a name', async ({
  sort: page,
}) => {
  const layers = page.locator('button', { hasText: /^Layers/ });
  await layers.click();
  await page.getByRole('menuitemcheckbox', { name: 'HO Home' }).click();
  await expect(layers).toHaveText('Layers · 1 hidden, 4 entries');
  await page.getByRole('menuitemcheckbox', { name: 'Choir board shown softly' }).click();
  await page.getByRole('menuitem', { name: /^Tasks by list/ }).press('ArrowRight');
  await page.getByRole('menuitemcheckbox', { name: /Grant report/ }).press('Enter');
  await page.keyboard.press('ArrowLeft');
  await page.getByRole('menuitemcheckbox', { name: 'Deadlines on their days' }).press('Enter');
  await page.getByRole('menuitem', { name: 'Keep these layers under a name …' }).press('Enter');
  await page.getByLabel('Name of these layers').fill('At work');
  await page.keyboard.press('Enter');
  await expect(block(page, 'Grant figures, section 2')).toHaveCount(0);
  await expect(event(page, 'Laundry van')).toHaveCount(0);
  await expect(page.getByText(/due: Send the list of names/)).toHaveCount(0);

  await layers.click();
  await page.getByRole('menuitemcheckbox', { name: 'HO Home' }).click();
  await page.getByRole('menuitemcheckbox', { name: 'Deadlines on their days' }).click();
  await page.keyboard.press('Escape');
  await expect(event(page, 'Laundry van')).toBeVisible();
  await page.reload();
  await layers.click();
  await page.getByRole('menuitem', { name: /^At work/ }).press('ArrowRight');
  await page.getByRole('menuitem', { name: 'Show these layers' }).press('Enter');
  await expect(event(page, 'Laundry van')).toHaveCount(0);
  await expect(page.getByText(/due: Send the list of names/)).toHaveCount(0);
});

test('on a telephone every view fits, and a swipe turns the days', async ({ sort: page }) => {
  await page.setViewportSize({ width: 360, height: 780 });
  for (const name of ['1', '4 weeks', 'Spread']) {
    await page.getByRole('radio', view(name)).click();
    await expect(page.getByRole('radio', view(name))).toBeChecked();
    const wide = await page.evaluate(() => document.documentElement.scrollWidth - window.innerWidth);
    expect([name, wide <= 0]).toEqual([name, true]);
    expect(await violations(page)).toEqual([]);
  }
  await page.getByRole('radio', view('1')).click();
  await page.evaluate(() => {
    const grid = document.querySelector('[data-grid]');
    const touch = (type: string, x: number) => {
      const one = new Touch({ identifier: 1, target: grid ?? document.body, clientX: x, clientY: 400 });
      grid?.dispatchEvent(
        new TouchEvent(type, { bubbles: true, touches: type === 'touchend' ? [] : [one], changedTouches: [one] }),
      );
    };
    touch('touchstart', 300);
    touch('touchend', 120);
  });
  await expect(page.getByRole('heading', { name: 'Plan, Tue 4 Aug' })).toBeVisible();
});

test('a week and four weeks are printed on one page', async ({ sort: page }) => {
  await page.evaluate(() => {
    window.print = () => undefined;
  });
  const pages = async () => (await page.pdf({ preferCSSPageSize: true })).toString('latin1').match(/\/Type\s*\/Page\b/g)?.length;
  for (const name of ['1', '5', '4 weeks']) {
    await page.getByRole('radio', view(name)).click();
    await more(page, 'Print');
    await expect(page.locator('.printed-plan')).toContainText('Stand-up at the hut');
    expect([name, await pages()]).toEqual([name, 1]);
    await page.evaluate(() => window.dispatchEvent(new Event('afterprint')));
    await expect(page.locator('.printed-plan')).toHaveCount(0);
  }
});

test('what is printed right after a change of view waits for its days', async ({ sort: page }) => {
  await page.evaluate(() => {
    window.print = () => {
      document.title = `${document.querySelectorAll('.printed-plan section').length} days printed`;
    };
  });
  await page.getByRole('radio', view('5')).click();
  await expect(page.getByRole('button', { name: /Stand-up at the hut/ }).first()).toBeVisible();
  let letThrough = () => {};
  const held = new Promise<void>((done) => (letThrough = done));
  await page.route(/\/api\/days\?/, async (route) => {
    await held;
    await route.continue();
  });
  await page.getByRole('radio', view('4 weeks')).click();
  await more(page, 'Print');
  await page.evaluate(() => new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(done))));
  letThrough();
  await expect(page).toHaveTitle(/days printed/);
  await expect(page).toHaveTitle(/^2[08] days printed$/);
});

test('one day with its calendars side by side: each in a column, things are drawn in it and dragged into it', async ({
  sort: page,
}) => {
  await page.keyboard.press('s');
  await expect(page.getByRole('region', { name: 'Own time, Mon 3 Aug' })).toBeVisible();
  await page.getByRole('button', { name: 'Later', exact: true }).click();
  const column = (name: string) => page.getByRole('region', { name: `${name}, Tue 4 Aug`, exact: true });
  await expect(column('Own time').getByRole('button', { name: /^Block: Fetch hose fittings/ })).toBeVisible();
  await expect(column('Home').getByRole('button', { name: /^Event: Dentist/ })).toBeAttached();
  await expect(column('Fen').getByRole('button')).toHaveCount(1);
  expect(await violations(page)).toEqual([]);

  const walk = await middle(column('Fen').getByRole('button', { name: /^Event: Site walk, north bank 10:00/ }));
  const home = await column('Home').boundingBox();
  const inHome = (home?.x ?? 0) + 40;
  await drag(page, walk, { x: inHome, y: walk.y });
  await expect(column('Home').getByRole('button', { name: /^Event: Site walk, north bank 10:00/ })).toBeVisible();
  await expect(column('Fen').getByRole('button')).toHaveCount(0);
  await page.keyboard.press('u');
  await expect(column('Fen').getByRole('button', { name: /^Event: Site walk, north bank/ })).toBeVisible();

  await drag(page, { x: inHome, y: walk.y + 120 }, { x: inHome, y: walk.y + 164 });
  const form = page.getByRole('dialog', { name: 'Something new' });
  await expect(form).toContainText('· Home');
  await page.reload();
  await form.getByLabel('What it is', { exact: true }).fill('Fetch Klara');
  await page.keyboard.press('Enter');
  await expect(column('Home').getByRole('button', { name: /^Event: Fetch Klara/ })).toBeVisible();
  await page.keyboard.press('s');
  await expect(column('Home')).toHaveCount(0);
  await expect(page.getByRole('button', { name: /^Event: Fetch Klara/ })).toBeVisible();
});
