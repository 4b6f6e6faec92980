import type { NoteLine } from '@corvun/contract';
import { test as base } from '@playwright/test';
import { violations } from './axe';
import { Corvun, expect, openAt, said, sheet, stack, test, waitingCount } from './corvun';

test('what is written in a long field stays wherever one goes meanwhile, until it is kept or thrown away', async ({
  sort: page,
  corvun,
}) => {
  const places = page.getByRole('navigation', { name: 'Places' });
  await openAt(page, corvun, 'Question about the ditch');
  const reply = page.getByRole('textbox', { name: 'Reply to Hanna Vogt' });
  await page.keyboard.press('w');
  await expect(reply).toBeFocused();
  await page.keyboard.type('On Thursday.');
  await page.keyboard.press('Escape');
  await expect(reply).toHaveCount(0);
  await sheet(page).getByRole('button', { name: 'Go on with the reply' }).press('w');
  await expect(reply).toHaveValue('On Thursday.');
  await page.getByRole('button', { name: 'Throw it away' }).click();
  await sheet(page)
    .getByRole('button', { name: /^Reply/ })
    .click();
  await expect(reply).toHaveValue('');

  await places.getByRole('link', { name: 'Notes' }).click();
  await page.getByLabel('A new page called').fill('Ditch');
  await page.keyboard.press('Enter');
  const text = page.getByLabel('Text, in Markdown');
  await expect(text).toBeFocused();
  await page.keyboard.type('Ask Lea first.');
  await places.getByRole('link', { name: 'Plan' }).click();
  await page.getByRole('region', { name: 'Tray' }).waitFor();
  await places.getByRole('link', { name: 'Notes' }).click();
  await expect(text).toHaveValue('Ask Lea first.');
  await expect(page.getByRole('link', { name: /^Ditch.*being written/ })).toBeVisible();
  // Another window of this browser, after this one is gone.
  const other = await page.context().newPage();
  await page.close();
  await other.goto(`${corvun.url}/notes`);
  await other.getByLabel('Text, in Markdown').press('Escape');
  await expect(other.getByLabel('Text, in Markdown')).toHaveValue('Ask Lea first.');
  await other.getByLabel('Text, in Markdown').press('Control+Enter');
  await expect(other.getByRole('article', { name: 'Ditch' })).toContainText('Ask Lea first.');
  expect((await corvun.api<NoteLine[]>('/notes')).map(({ title }) => title)).toContain('Ditch');
});

test('a person is kept and what they wrote waits; what is filtered is counted as that', async ({ sort: page, corvun }) => {
  const first = await waitingCount(page);
  await corvun.mail({ from: 'Mika Aalto <mika@aalto-timber.example>', subject: 'Oars', text: 'Do you need four oars or six?' });
  await expect(stack(page).getByText(`${first + 1} to decide`)).toBeVisible();
  const before = first + 1;
  await openAt(page, corvun, 'Oars');
  await page.keyboard.press('p');
  await expect(said(page)).toContainText('Mika Aalto');
  await expect(sheet(page).getByRole('heading', { name: 'Oars' })).toBeVisible();
  expect(await waitingCount(page)).toBe(before);
  await page.keyboard.press('u');
  await expect(said(page)).toContainText('Taken back');
  expect(await waitingCount(page)).toBe(before);
  await stack(page).getByRole('combobox').selectOption({ index: 1 });
  await expect(stack(page).getByText(new RegExp(`^\\d+ of ${before} to decide`))).toBeVisible();
});

const alone = base.extend<{ corvun: Corvun }>({
  corvun: async ({}, use) => {
    const corvun = new Corvun('alone', { CORVUN_MAIL_OUT: '' });
    await corvun.start();
    await use(corvun);
    await corvun.stop();
  },
});

alone(
  'while mail has no way out that is said before one writes, and what was written stays with its message',
  async ({ page, corvun }) => {
    await openAt(page, corvun, 'Question about the ditch');
    const band = page.getByRole('banner').getByRole('link', { name: 'Mail has no way out' });
    await expect(band).toBeVisible();
    await expect(sheet(page).getByText('Mail has no way out yet, so nothing can be sent.')).toBeVisible();
    await page.keyboard.press('w');
    await page.keyboard.type('On Thursday.');
    await page.keyboard.press('Control+Enter');
    await expect(page.getByRole('alert').filter({ hasText: 'It cannot be sent' })).toBeVisible();
    expect(await violations(page)).toEqual([]);
    await band.click();
    const form = page.getByRole('form', { name: 'Mail out' });
    await form.getByLabel('Server that takes your mail').fill('127.0.0.1');
    await form.getByRole('combobox', { name: 'Line' }).selectOption('TLS from the start');
    await expect(form.getByLabel('Port')).toHaveValue('465');
    await form.getByRole('button', { name: 'Let mail leave by it' }).click();
    await expect(form.getByText('127.0.0.1 is a private address')).toBeVisible();
    expect(await violations(page)).toEqual([]);
    await page.goBack();
    await expect(page.getByRole('textbox', { name: 'Reply to Hanna Vogt' })).toHaveValue('On Thursday.');
  },
);

test('a file that is dropped where nothing takes it does not open in place of Corvun', async ({ sort: page, corvun }) => {
  const refused = (selector: string) =>
    page.locator(selector).evaluate((node) => {
      const dataTransfer = new DataTransfer();
      dataTransfer.items.add(new File(['Order the rope'], 'rope.txt'));
      return !node.dispatchEvent(new DragEvent('dragover', { bubbles: true, cancelable: true, dataTransfer }));
    });
  await page.goto(`${corvun.url}/plan`);
  await page.getByRole('region', { name: 'Tray' }).waitFor();
  expect(await refused('#place')).toBe(true);
  await page.goto(`${corvun.url}/sort`);
  await stack(page).waitFor();
  await page
    .locator('#place')
    .evaluate((place) => place.append(Object.assign(document.createElement('input'), { type: 'file' })));
  expect(await refused('#place > input[type=file]')).toBe(false);
});
