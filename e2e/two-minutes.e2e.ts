import { violations } from './axe';
import { openAt, pane, said, sheet } from './corvun';
import { expect, test } from './world';

interface Mails {
  received: { to: string; subject: string; text: string }[];
}

test('a reply right in the sheet is done with one key, held back by undo, and kept while it is written', async ({
  sources: page,
  corvun,
  outside,
}) => {
  await openAt(page, corvun, 'Question about the ditch');
  await page.keyboard.press('w');
  await page.getByLabel('Reply to Hanna Vogt').last().fill('I look at it on Thursday.');
  await page.reload();
  await expect(page.getByLabel('Reply to Hanna Vogt').last()).toHaveValue('I look at it on Thursday.');
  expect(await violations(page)).toEqual([]);
  await page.getByLabel('Reply to Hanna Vogt').last().press('Control+Enter');
  await expect(said(page)).toContainText('is answered, 1 min');
  await page.keyboard.press('u');
  await expect(sheet(page).getByRole('heading', { name: 'Question about the ditch' })).toBeVisible();
  expect(await corvun.api<unknown[]>('/outbox')).toEqual([]);
  await page.keyboard.press('Shift+U');
  await expect(said(page)).toContainText('Done again');
  const [waiting] = await corvun.api<{ id: string }[]>('/outbox');
  await corvun.api(`/outbox/${waiting?.id}/now`, 'POST');
  const mails = () => outside.state<Mails>('mail');
  await expect.poll(async () => (await mails()).received[0]?.subject).toBe('Re: Question about the ditch');
  const [sent] = (await mails()).received;
  expect(sent?.text).toMatch(/^I look at it on Thursday\.\n\nHanna Vogt wrote:\n> /);
});

test('a mail is given on with its files', async ({ sources: page, corvun, outside }) => {
  await openAt(page, corvun, 'Invoice 2231 from Aalto Timber');
  await page.keyboard.press('g');
  await page.keyboard.type('oda.lindqvist');
  await page.getByRole('button', { name: 'Send and done' }).click();
  await expect(page.getByRole('alert').filter({ hasText: 'Write the address of whom it goes to.' })).toBeVisible();
  await page.getByLabel('To', { exact: true }).fill('oda.lindqvist@alderfen.example');
  await page.getByRole('button', { name: 'Send and done' }).click();
  await expect(said(page)).toContainText('is forwarded to oda.lindqvist@alderfen.example');
  const [waiting] = await corvun.api<{ id: string }[]>('/outbox');
  await corvun.api(`/outbox/${waiting?.id}/now`, 'POST');
  await expect
    .poll(async () => (await outside.state<Mails>('mail')).received[0]?.subject)
    .toBe('Fwd: Invoice 2231 from Aalto Timber');
});

test('several asks in one message become several tasks, each with its own place, one undo for all', async ({
  sources: page,
  corvun,
}) => {
  await openAt(page, corvun, 'Gauge 14: readings for the county');
  const more = pane(page).getByRole('group', { name: /It also asks/ });
  await expect(more.getByRole('checkbox')).toHaveCount(1);
  await page.keyboard.press('+');
  await expect(more.getByRole('checkbox')).toBeChecked();
  const title = (await more.locator('label').first().textContent()) ?? '';
  await more.getByRole('combobox').selectOption('Reading');
  expect(await violations(page)).toEqual([]);
  await pane(page).getByRole('button', { name: 'Do this' }).click();
  await expect(said(page)).toContainText('with 1 more task from it');
  const tasks = () => corvun.api<{ title: string; incomingId: string; listId: string }[]>('/tasks');
  const made = (await tasks()).filter((task) => task.title === title);
  expect(made).toHaveLength(1);
  expect((await tasks()).filter((task) => task.incomingId === made[0]?.incomingId)).toHaveLength(2);
  await page.keyboard.press('u');
  await expect(said(page)).toContainText('Taken back');
  expect((await tasks()).filter((task) => task.title === title)).toHaveLength(0);
});
