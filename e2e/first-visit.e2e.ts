import { test as base } from '@playwright/test';
import { violations } from './axe';
import { Corvun, expect } from './corvun';

const test = base.extend<{ corvun: Corvun }>({
  corvun: async ({}, use) => {
    const corvun = new Corvun('none');
    await corvun.start();
    await use(corvun);
    await corvun.stop();
  },
});

test('a new Corvun asks for the first account, says what is not right before it is sent, and signs in again', async ({
  page,
  corvun,
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
  await page.getByRole('navigation', { name: 'Places' }).waitFor();
  expect(sent).toEqual(['/api/account']);

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
