import { readFileSync } from 'node:fs';
import { violations } from './axe';
import { expect, openAt, said, sheet, test } from './corvun';

test('Data: a backup with a key press, saved; everything checked; an export taken out', async ({ sort: page, corvun }) => {
  await page.keyboard.press('Shift+D');
  await expect(page.getByRole('heading', { name: 'Data', level: 1 })).toBeVisible();
  await expect(page.getByText('There is none yet.')).toBeVisible();
  expect(await violations(page)).toEqual([]);
  await page.getByLabel('with the key of the credentials').check();
  await expect(page.getByText('Whoever has this file then has the passwords of all your sources.')).toBeVisible();
  await page.getByLabel('with the key of the credentials').uncheck();
  await page.getByRole('button', { name: 'Back up now' }).press('Enter');
  await expect(page.getByRole('status').filter({ hasText: 'The backup is there' })).toBeVisible();
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('link', { name: /^Save corvun-/ }).click(),
  ]);
  expect(
    readFileSync(await download.path())
      .subarray(0, 19)
      .toString(),
  ).toBe('corvun-backup.json\0');

  await page.getByRole('button', { name: 'Check everything' }).press('Enter');
  await expect(page.getByText('Everything is as it was kept.')).toBeVisible();
  await expect(page.getByRole('listitem').filter({ hasText: 'search index' })).toContainText('can be found');
  expect(await violations(page)).toEqual([]);

  const [exported] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('link', { name: 'Export everything' }).click(),
  ]);
  expect(
    readFileSync(await exported.path())
      .subarray(0, 11)
      .toString(),
  ).toBe('export.json');
  await expect(page.getByRole('button', { name: 'Read an export in' })).toBeDisabled();

  await page.getByLabel('Daily backups that are kept').selectOption('14');
  await expect(said(page)).toContainText('14 daily backups are kept');
  await page.reload();
  await expect(page.getByLabel('Daily backups that are kept')).toHaveValue('14');
  await page.getByRole('button', { name: /^Remove corvun-/ }).click();
  await expect(page.getByText('There is none yet.')).toBeVisible();

  for (const path of ['/data', '/account']) {
    await page.goto(`${corvun.url}${path}`);
    await page.getByRole('heading', { level: 1 }).waitFor();
    for (const width of [360, 1920]) {
      await page.setViewportSize({ width, height: 800 });
      const overflow = await page.evaluate(() => document.documentElement.scrollWidth - window.innerWidth);
      expect([width, path, overflow <= 0]).toEqual([width, path, true]);
    }
  }
});

test('Account: another password, said next to its fields when it is not right; signed out everywhere', async ({
  sort: page,
  corvun,
}) => {
  await page.getByRole('button', { name: 'Settings' }).click();
  await page.getByRole('menuitem', { name: 'All settings' }).click();
  await expect(page.getByRole('heading', { level: 1, name: 'Settings' })).toBeVisible();
  await page.emulateMedia({ colorScheme: 'dark' });
  expect(await violations(page)).toEqual([]);
  await page.getByLabel('The present one').fill('not this one');
  await page.getByLabel('The new one, at least').fill('sedge-and-alder');
  await page.getByLabel('The new one once more').fill('sedge and alder');
  await page.getByRole('button', { name: 'Change the password' }).click();
  await expect(page.getByText('This is not the same as above.')).toBeVisible();
  await page.getByLabel('The new one once more').fill('sedge-and-alder');
  await page.getByRole('button', { name: 'Change the password' }).click();
  await expect(page.getByText('The present password is not right.')).toBeVisible();
  await page.getByLabel('The present one').fill('alder-fen-demo');
  await page.getByRole('button', { name: 'Change the password' }).click();
  await expect(said(page)).toContainText('The password is changed');
  const { cookies } = await page.context().storageState();
  const cookie = cookies.find((one) => one.name === 'corvun_session')?.value ?? '';
  await page.getByRole('button', { name: 'Sign out everywhere' }).click();
  await expect(page).toHaveURL(/\/sort/);
  const old = await fetch(`${corvun.url}/api/me`, { headers: { Cookie: `corvun_session=${cookie}` } });
  expect(old.status).toBe(401);
});

test('what could not be read, and what could not be put into the calendar, says so before everything else', async ({
  sort: page,
  corvun,
}) => {
  const calendar = [
    'BEGIN:VCALENDAR',
    'VERSION:2.0',
    'METHOD:REQUEST',
    'BEGIN:VEVENT',
    'UID:fen@x.example',
    'DTSTAMP:20260801T000000Z',
    'ORGANIZER:mailto:ines@aalto-timber.example',
    'DTSTART;TZID=Fen Time:20260805T090000',
    'SUMMARY:Site walk',
    'END:VEVENT',
    'END:VCALENDAR',
    '',
  ];
  const head = (subject: string) =>
    `From: Ines Aalto <ines@aalto-timber.example>\r\nTo: maren.holt@capture.example\r\nSubject: ${subject}\r\nMIME-Version: 1.0\r\n`;
  await corvun.sendRaw(
    `${head('Walk along the fen')}Content-Type: text/calendar; method=REQUEST\r\n\r\n${calendar.join('\r\n')}`,
  );
  await openAt(page, corvun, 'Walk along the fen');
  await expect(sheet(page).getByRole('region', { name: 'Not read' })).toContainText('time zone “Fen Time” is not known here');
  expect(await violations(page)).toEqual([]);

  await corvun.kill();
  corvun.more['CORVUN_READ_TIME'] = '1';
  await corvun.start();
  await corvun.sendRaw(`${head('Too long to read')}\r\nThe level of the fen\r\n`);
  await openAt(page, corvun, 'Too long to read');
  const notice = sheet(page).getByRole('region', { name: 'Not read' });
  await expect(notice).toContainText('This message could not be read');
  await expect(notice.getByRole('link', { name: /Save the original/ })).toHaveAttribute('href', /original$/);
  expect(await violations(page)).toEqual([]);
});
