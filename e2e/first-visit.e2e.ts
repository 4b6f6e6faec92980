import { test as base } from '@playwright/test';
import { MailDesk } from '../testing/mail-desk';
import { violations } from './axe';
import { Corvun, expect } from './corvun';

const test = base.extend<{ corvun: Corvun; desk: MailDesk }>({
  desk: async ({}, use) => {
    const desk = await new MailDesk().open();
    await use(desk);
    desk.close();
  },
  corvun: async ({}, use) => {
    const corvun = new Corvun('none', { CORVUN_MAIL_OUT: '', CORVUN_ALLOW_PRIVATE: '1' });
    await corvun.start();
    await use(corvun);
    await corvun.stop();
  },
});

test('a new Corvun asks for the first account, says what is not right before it is sent, and signs in again', async ({
  page,
  corvun,
  desk,
}) => {
  const sent: string[] = [];
  page.on('request', (request) => request.method() === 'POST' && sent.push(new URL(request.url()).pathname));
  await page.goto(`${corvun.url}/sort`);
  await page.getByLabel('Your name').fill('Maren Holt');
  await page.getByLabel('Mail address').fill('maren at alderfen');
  await page.getByLabel(/^Password/).fill('short');
  await page.keyboard.press('Enter');
  await expect(page.getByText('This is not a mail address.')).toBeVisible();
  await expect(page.getByText('The password has at least 10 characters.')).toBeVisible();
  await expect(page.getByLabel('Mail address')).toBeFocused();
  expect(sent).toEqual([]);
  expect(await violations(page)).toEqual([]);
  await page.getByLabel('Mail address').fill('maren@alderfen.example');
  await expect(page.getByText('This is not a mail address.')).toBeHidden();
  await page.getByLabel(/^Password/).fill('reed-bed-and-bittern');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { level: 1, name: 'Before the first message, Maren' })).toBeVisible();
  expect(sent).toEqual(['/api/account']);
  expect(await violations(page)).toEqual([]);
  await page.getByLabel('Your time zone').fill('Fen/Alder');
  await page.getByRole('button', { name: 'Go on' }).click();
  await expect(page.getByText('“Fen/Alder” is no zone.')).toBeVisible();
  await page.getByLabel('Your time zone').fill('America/Halifax');
  await page.getByLabel('Your working hours, Monday to Friday').fill('8-12, 13-16');
  await page.getByLabel('Where does most of your work come from?').selectOption('Mailbox');
  await page.getByRole('button', { name: 'Go on' }).click();
  await expect(page.getByRole('heading', { level: 1, name: 'How does your mail leave?' })).toBeFocused();
  expect(await violations(page)).toEqual([]);
  await page.getByLabel('Server that takes your mail').fill('mail at alderfen');
  await page.getByRole('button', { name: 'Let mail leave by it' }).click();
  await expect(page.getByText('Write the name of the mail server, like mail.alderfen.example.')).toBeVisible();
  await page.getByLabel('Server that takes your mail').fill('127.0.0.1');
  await page.getByLabel('Port').fill(String(desk.port));
  await page.getByRole('combobox', { name: 'Line' }).selectOption('none');
  await page.getByLabel('User name').fill('');
  await page.getByRole('button', { name: 'Let mail leave by it' }).click();
  await expect(page.getByText(`Mail leaves by 127.0.0.1, port ${desk.port}`)).toBeVisible();
  await page.getByRole('button', { name: 'Send a test mail to maren@alderfen.example' }).click();
  await expect(page.getByRole('status')).toContainText('127.0.0.1 has taken the test mail');
  await page.getByRole('button', { name: 'Begin, and connect it' }).click();
  await expect(page.getByRole('heading', { name: 'Sources' })).toBeVisible();
  await expect(page).toHaveURL(/\/sources\/add\/mailbox$/);
  await page.goto(`${corvun.url}/settings`);
  await expect(page.getByRole('textbox', { name: 'Monday' })).toHaveValue('8:00–12:00, 13:00–16:00');
  await expect(page.getByRole('combobox', { name: 'Time zone' })).toHaveValue('America/Halifax');

  await page.context().clearCookies();
  await page.reload();
  await page.getByLabel('Mail address').fill('maren@alderfen.example');
  await page.getByLabel(/^Password/).fill('another one entirely');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('alert')).toContainText('not right');
  await page.getByLabel(/^Password/).fill('reed-bed-and-bittern');
  await page.keyboard.press('Enter');
  await page.getByRole('navigation', { name: 'Places' }).waitFor();
});
