import { violations } from './axe';
import { expect, said, sheet, test } from './corvun';

const HOLIDAY = [
  ...['BEGIN:VCALENDAR', 'VERSION:2.0', 'PRODID:-//Alder Fen Trust//Holidays//EN', 'BEGIN:VEVENT', 'UID:fen@alderfen.example'],
  ...['DTSTAMP:20260101T000000Z', 'DTSTART;VALUE=DATE:20260805', 'SUMMARY:Fen day', 'END:VEVENT', 'END:VCALENDAR', ''],
].join('\r\n');

test('settings change Plan at once in every open window, and are taken back; found by Find', async ({
  sort: page,
  corvun,
  context,
}) => {
  const plan = await context.newPage();
  await plan.goto(`${corvun.url}/plan`);
  const head = (day: string) => plan.locator(`[data-head="${day}"]`);
  await expect(head('2026-08-07')).toContainText('6 h 25 left');

  await page.keyboard.press('f');
  await page.getByRole('searchbox', { name: 'Find' }).fill('working hours');
  await page.getByRole('link', { name: /^Working hours/ }).press('Enter');
  await expect(page.getByRole('heading', { name: 'Working hours' })).toBeFocused();
  await expect(page.getByRole('navigation', { name: 'Places' })).toBeInViewport();
  const friday = page.getByLabel('Friday', { exact: true });
  await friday.fill('9-12, 11-13');
  await friday.press('Enter');
  await expect(page.getByText('11:00 is before 12:00')).toBeVisible();
  await expect(friday).toHaveValue('9-12, 11-13');
  await friday.fill('9-12, 13-14:30');
  await friday.press('Enter');
  await expect(said(page)).toContainText('The working hours were changed');
  await expect(friday).toHaveValue('9:00–12:00, 13:00–14:30');
  await expect(head('2026-08-07')).toContainText('4 h 10 left');
  await said(page).getByRole('button').first().click();
  await expect(head('2026-08-07')).toContainText('6 h 25 left');
  await expect(friday).toHaveValue('9:00–12:15, 13:00–17:30');

  await page.getByLabel('A calendar file with days off').setInputFiles({
    name: 'holidays.ics',
    mimeType: 'text/calendar',
    buffer: Buffer.from(HOLIDAY),
  });
  await expect(page.getByRole('list', { name: 'Days off to come' })).toContainText('Fen day');
  await expect(head('2026-08-05')).toContainText('Fen day');
  await page.getByLabel(/^One more/).fill('24 Dec: Christmas Eve');
  await page.getByLabel(/^One more/).press('Enter');
  await expect(page.getByRole('list', { name: 'Days off to come' })).toContainText('Christmas Eve');
  await page.getByRole('button', { name: 'Take away: Wed 5 Aug' }).click();
  await expect(head('2026-08-05')).not.toContainText('Fen day');

  await page.getByRole('radiogroup', { name: 'First day of the week' }).getByText('Sunday').click();
  await plan.getByRole('radio', { name: '7 days' }).click();
  await expect(head('2026-08-02')).toBeVisible();

  await page.getByRole('radiogroup', { name: 'Clock' }).getByText('12 hours').click();
  await page.getByRole('radiogroup', { name: 'How dates are written' }).getByText('Tue Aug 4').click();
  await expect(head('2026-08-04')).toContainText('Tue Aug 4');
  await expect(plan.getByText(/2:00 – 3:00 pm/).first()).toBeVisible();
  await page.getByRole('radiogroup', { name: 'Room between things' }).getByText('Close').click();
  await expect(plan.locator('html')).toHaveAttribute('data-density', 'close');

  await page.getByRole('radiogroup', { name: 'Size of text' }).getByText('Larger').click();
  await expect(plan.locator('html')).toHaveAttribute('data-text', 'larger');
  await plan.reload();
  await expect(plan.locator('html')).toHaveAttribute('data-text', 'larger');
});

test('a key is changed where it is shown; what clashes is refused with what it does; the first one comes back', async ({
  sort: page,
  corvun,
}) => {
  await page.keyboard.press('E');
  await expect(page.getByRole('heading', { name: 'Settings', level: 1 })).toBeVisible();
  const drop = page.getByRole('button', { name: /^Drop: / });
  await drop.press('Enter');
  await drop.press('d');
  await expect(page.getByRole('alert').filter({ hasText: 'already does something here' })).toContainText('Put on a day');
  await drop.press('k');
  await expect(page.getByRole('button', { name: 'Drop: K; change it' })).toBeVisible();
  await corvun.reload(page);
  await expect(page.getByRole('heading', { name: 'Keys', exact: true })).toBeVisible();
  await page.keyboard.press('S');
  await sheet(page).getByRole('heading').first().waitFor();
  await page.keyboard.press('Backspace');
  await page.keyboard.press('k');
  await expect(page.getByRole('navigation', { name: 'Places' })).toContainText('37 waiting');
  await expect(said(page)).toContainText('dropped');
  await page.goto(`${corvun.url}/settings#keys`);
  await page.getByRole('button', { name: 'Give ⌫ back to “Drop”' }).click();
  await expect(page.getByRole('button', { name: 'Drop: ⌫; change it' })).toBeVisible();
});

test('calendars get other names, codes and colours; sessions are ended; a test mail goes out', async ({ sort: page, corvun }) => {
  await page.goto(`${corvun.url}/settings#calendars`);
  await page.getByLabel('Code of the calendar Home').fill('FE');
  await page.getByLabel('Code of the calendar Home').press('Enter');
  await expect(page.getByText('“Fen” has the code FE already.')).toBeVisible();
  await page.getByLabel('Code of the calendar Home').fill('hh');
  await page.getByLabel('Code of the calendar Home').press('Enter');
  await expect(said(page)).toContainText('The calendar “Home” was changed');
  await expect(page.getByLabel('Code of the calendar Home')).toHaveValue('HH');
  await page.getByLabel('Name of the list Home').fill('House');
  await page.getByLabel('Name of the list Home').press('Enter');
  await expect(page.getByLabel('Name of the list House')).toHaveValue('House');
  await expect(said(page)).toContainText('“House” was changed');
  // Another list: what is said of it is not what was said before.
  await page.getByLabel('Colour of the list Reading').selectOption({ label: 'violet' });
  await expect(said(page)).toContainText('“Reading” was changed');
  const sessions = page.getByRole('list', { name: 'Sessions' });
  await expect(sessions).toContainText('this one');
  await page.getByRole('button', { name: /^Send a test mail/ }).click();
  await expect(page.getByRole('alert').filter({ hasText: 'does not answer: nothing listens there' })).toBeVisible();
});

for (const [theme, rules] of [
  ['light', 'all'],
  ['dark', 'colours'],
] as const)
  test(`settings can be read and used by everybody, ${theme}`, async ({ sort: page, corvun }) => {
    await page.emulateMedia({ colorScheme: theme });
    await page.goto(`${corvun.url}/settings`);
    await expect(page.getByLabel('Code of the calendar Fen')).toBeVisible();
    expect(await violations(page, rules)).toEqual([]);
    for (const width of [360, 390, 768, 1920]) {
      await page.setViewportSize({ width, height: 800 });
      expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(width);
      if (rules === 'all') {
        const wide = await page.evaluate(
          () =>
            [...document.querySelectorAll('main *')].filter((one) => one.getBoundingClientRect().right > window.innerWidth + 1)
              .length,
        );
        expect([width, wide]).toEqual([width, 0]);
      }
    }
  });

test('a calendar is made, and another one mirrored into it; the mirror ends as it is said', async ({ sort: page, corvun }) => {
  await page.goto(`${corvun.url}/settings#mirrors`);
  await page.getByLabel('Another calendar').fill('fen');
  await page.keyboard.press('Enter');
  await expect(page.getByText('There is a calendar “fen” already.')).toBeVisible();
  await page.getByLabel('Another calendar').fill('Field work');
  await page.keyboard.press('Enter');
  await expect(said(page)).toContainText('The calendar “Field work” is there');
  await page.getByLabel('Calendar to mirror').selectOption('Fen');
  await page.getByLabel('Calendar it is mirrored into').selectOption('Field work');
  await page.getByRole('button', { name: 'Mirror it' }).click();
  await expect(said(page)).toContainText('of “Fen” stand in “Field work”, too, and whatever comes');
  const row = page.getByRole('list', { name: 'Mirrors' }).getByRole('listitem');
  await expect(row).toContainText('as “Busy”, private');
  await row.getByRole('button', { name: 'End the mirror of Fen in Field work …' }).click();
  expect(await violations(page)).toEqual([]);
  await row.getByRole('button', { name: 'Take away what is to come' }).click();
  await expect(said(page)).toContainText('The mirror is ended');
  await expect(row).toHaveCount(0);
});
