import { violations } from './axe';
import { drag, expect, said, test } from './corvun';
import { day, event, middle, onPlan, onSheet } from './planning';

onPlan();

test('an event is opened and changed where it stands, with an address of its own; a series says what a change reaches', async ({
  sort: page,
  corvun,
}) => {
  await event(page, 'Stand-up at the hut').press('Enter');
  await page.getByRole('menuitem', { name: /^Open/ }).first().press('Enter');
  const sheet = onSheet(page, 'Stand-up at the hut');
  await expect(sheet).toBeFocused();
  await expect(page).toHaveURL(/event=.+&date=2026-08-03T09%3A00/);
  await expect(sheet.getByText(/^Dates: Mon 3 Aug · Mon 10 Aug · Mon 17 Aug · Mon 24 Aug · Mon 31 Aug/)).toBeVisible();
  expect(await violations(page)).toEqual([]);

  await sheet.getByRole('button', { name: /^Ends:/ }).click();
  await page.getByRole('textbox', { name: 'Ends' }).fill('8:00');
  await page.keyboard.press('Enter');
  await expect(page.getByText('It would end before it begins.')).toBeVisible();
  await page.getByRole('textbox', { name: 'Ends' }).fill('45 min');
  await page.keyboard.press('Enter');
  await expect(event(page, 'Stand-up at the hut 9:00 – 9:45')).toBeVisible();

  await sheet.getByRole('radio', { name: /^This and all after it/ }).check();
  await expect(sheet.getByText('1 date of them was changed by hand: what was changed there stays.')).toBeVisible();
  await sheet.getByRole('button', { name: /^Place:/ }).click();
  await page.getByRole('textbox', { name: 'Place' }).fill('Boathouse');
  await page.keyboard.press('Enter');
  await expect(sheet.getByRole('button', { name: 'Place: Boathouse' })).toBeVisible();
  await sheet.getByRole('textbox', { name: 'Title' }).fill('Stand-up at the boathouse');
  await page.keyboard.press('Enter');
  await expect(onSheet(page, 'Stand-up at the boathouse')).toBeVisible();
  await corvun.reload(page);
  const renamed = onSheet(page, 'Stand-up at the boathouse');
  await expect(renamed.getByText('What happened')).toBeVisible();
  const { entries } = await corvun.api<{
    entries: { title: string; day: string; location: string; start: string; end: string }[];
  }>('/agenda?from=2026-08-03&days=15');
  expect(
    entries
      .filter((one) => one.title === 'Stand-up at the boathouse')
      .map(({ start, end, location }) => [start.slice(5, 16), end.slice(11, 16), location]),
  ).toEqual([
    ['08-03T09:00', '09:45', 'Boathouse'],
    ['08-10T09:00', '09:30', 'Boathouse'],
    ['08-17T09:00', '09:30', 'Boathouse'],
  ]);

  await renamed.getByRole('button', { name: 'Copy to other days …' }).click();
  await page.getByLabel('Copy to these days').fill('Thu and 7 Aug');
  await page.keyboard.press('Enter');
  await expect(said(page)).toContainText('is on 2 more days, too');
  await page.keyboard.press('Escape');
  await expect(day(page, 'Thu 6 Aug').getByRole('button', { name: /^Event: Stand-up at the boathouse/ })).toBeVisible();
});

test('a change to something with guests asks whether they are told; undo holds the mail back', async ({ sort: page, corvun }) => {
  await event(page, 'Site walk, north bank').dblclick();
  const sheet = onSheet(page, 'Site walk, north bank');
  await sheet.getByLabel('Invite somebody').fill('Ines Aalto');
  await page.keyboard.press('Enter');
  await sheet.getByLabel('A note to them, if you like').fill('Boots, please.');
  await sheet.getByRole('button', { name: 'Tell 1 guest' }).click();
  await expect(said(page)).toContainText('Ines Aalto is told');
  await expect(
    sheet.getByRole('region', { name: 'Guests' }).getByRole('listitem').filter({ hasText: 'Ines Aalto' }),
  ).toContainText('not answered');
  const waiting = async () =>
    (await corvun.api<{ what: string; state: string }[]>('/outbox'))
      .filter((one) => one.what.includes('Site walk'))
      .map((one) => one.what);
  expect(await waiting()).toEqual(['Mail to Ines Aalto: Invitation: Site walk, north bank']);

  const at = await middle(event(page, 'Site walk, north bank'));
  await page.keyboard.press('Escape');
  await drag(page, at, { x: at.x, y: at.y + 132 });
  await expect(page.getByRole('checkbox', { name: 'Tell 1 guest' })).toBeChecked();
  await page.getByRole('button', { name: 'Move it' }).click();
  await expect(event(page, 'Site walk, north bank 13:00 – 15:00')).toBeVisible();
  expect(await waiting()).toHaveLength(2);
  await page.keyboard.press('u');
  await expect(event(page, 'Site walk, north bank 10:00 – 12:00')).toBeVisible();
  expect(await waiting()).toHaveLength(1);
});

test('one date of a series that is dragged asks in place, with the last answer chosen', async ({ sort: page }) => {
  const up = event(page, 'Stand-up at the hut');
  const at = await middle(up);
  await drag(page, { ...at, y: at.y - 8 }, { x: at.x, y: at.y - 8 + 88 });
  await expect(page.getByRole('radio', { name: 'This date' })).toBeChecked();
  await page.getByRole('radio', { name: /^All its dates, without end/ }).check();
  await page.getByRole('button', { name: 'Move it' }).click();
  await expect(event(page, 'Stand-up at the hut 11:00')).toBeVisible();
  await page.keyboard.press('ArrowRight');
  await expect(event(page, 'Stand-up at the hut 11:00')).toBeVisible();
  await event(page, 'Stand-up at the hut 11:00').focus();
  await page.keyboard.press('Backspace');
  await expect(page.getByRole('radio', { name: /^All its dates/ })).toBeFocused();
  await page.keyboard.press('Escape');
  await expect(event(page, 'Stand-up at the hut 11:00')).toBeFocused();
});

test('on a telephone an event is opened and changed on a page of its own', async ({ sort: page, corvun }) => {
  await page.setViewportSize({ width: 390, height: 800 });
  await page.goto(`${corvun.url}/plan/2026-08-04`);
  await event(page, 'Site walk, north bank').click();
  await page.getByRole('menuitem', { name: /^Open/ }).first().click();
  const sheet = onSheet(page, 'Site walk, north bank');
  await sheet.getByRole('button', { name: /^Begins:/ }).click();
  await page.getByRole('textbox', { name: 'Begins' }).fill('11:30');
  await page.keyboard.press('Enter');
  await expect(sheet.getByRole('button', { name: /^Begins: Tue 4 Aug 11:30/ })).toBeVisible();
  expect(await page.evaluate(() => document.documentElement.scrollWidth <= window.innerWidth)).toBe(true);
  expect(await violations(page)).toEqual([]);
});

test('files are put to an event, found, renamed, and there again with it when it comes back', async ({ sort: page }) => {
  await event(page, 'Site walk, north bank').dblclick();
  const sheet = onSheet(page, 'Site walk, north bank');
  await sheet
    .getByLabel('Files for this event')
    .setInputFiles({ name: 'route.txt', mimeType: 'text/plain', buffer: Buffer.from('along the alder row') });
  await expect(sheet.getByRole('link', { name: 'route.txt' })).toBeVisible();
  await sheet.getByRole('button', { name: 'Rename route.txt' }).click();
  await page.keyboard.type('Route of the walk');
  await page.keyboard.press('Enter');
  await expect(sheet.getByRole('link', { name: 'Route of the walk.txt' })).toBeVisible();
  expect(await violations(page)).toEqual([]);
  await page.keyboard.press('Escape');
  await event(page, 'Site walk, north bank').focus();
  await page.keyboard.press('Backspace');
  await expect(event(page, 'Site walk, north bank')).toHaveCount(0);
  await page.keyboard.press('f');
  await page.keyboard.type('alder row');
  await expect(page.getByRole('status').filter({ hasText: 'Nothing is like this' })).toBeVisible();
  await page.keyboard.press('Escape');
  await page.getByRole('searchbox', { name: 'Find' }).blur();
  await page.keyboard.press('u');
  await expect(said(page)).toContainText('Taken back');
  await page.keyboard.press('f');
  await page.getByRole('searchbox', { name: 'Find' }).fill('the alder row');
  await page
    .getByRole('list', { name: 'Found' })
    .getByRole('link', { name: /Route of the walk/ })
    .click();
  await expect(sheet.getByRole('link', { name: 'Route of the walk.txt' })).toBeVisible();
});
