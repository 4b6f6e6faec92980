import { violations } from './axe';
import { expect } from './corvun';
import { connect, openOn, test } from './with-extension';

test('the extension keeps a page with what is selected, shows today, and ticks off', async ({ corvun, browserWith }) => {
  await connect(browserWith, corvun);
  const page = await browserWith.context.newPage();
  await page.goto(browserWith.web);
  await page.locator('#loads').selectText();
  const popup = await openOn(browserWith, page);
  await expect(popup.getByLabel('Capture line')).toHaveValue('Ferry at Lower Fen: loads');
  await expect(popup.getByLabel('Note')).toHaveValue('The ferry takes loads up to 300 kg. Pumps must be drained.');
  await expect(popup.getByRole('region', { name: 'Today' }).getByText('Stand-up at the hut')).toBeVisible();
  expect(await violations(popup)).toEqual([]);

  await popup.getByLabel('Capture line').fill('Book the ferry tomorrow 10:00 for 30 min >Boardwalk repair');
  await expect(popup.locator('#line-read')).toContainText('Boardwalk repair');
  await popup.keyboard.press('Enter');
  await expect(popup.getByRole('status')).toHaveText('“Book the ferry” is a task on Boardwalk repair with time set aside');
  const tasks = await corvun.api<{ id: string; title: string; notes: string; status: string }[]>('/tasks');
  const made = tasks.filter((task) => task.title === 'Book the ferry');
  expect(made).toHaveLength(1);
  expect(made[0]?.notes).toBe(`The ferry takes loads up to 300 kg. Pumps must be drained.\n\n${browserWith.web}`);

  const open = popup.getByRole('region', { name: 'Open tasks' }).getByRole('checkbox').first();
  const title =
    (await popup
      .getByRole('region', { name: 'Open tasks' })
      .getByRole('listitem')
      .first()
      .locator('span')
      .first()
      .textContent()) ?? '';
  await open.check();
  await expect(popup.getByRole('status')).toContainText('is done');
  await expect
    .poll(async () =>
      (await corvun.api<{ title: string; status: string }[]>('/tasks')).some(
        (task) => task.title === title && task.status === 'COMPLETED',
      ),
    )
    .toBe(true);
});

test('what is kept while the server is away is sent once when it is back', async ({ corvun, browserWith }) => {
  await connect(browserWith, corvun);
  const page = await browserWith.context.newPage();
  await page.goto(browserWith.web);
  const { total } = await corvun.api<{ total: number }>('/incoming?limit=1');
  let popup = await openOn(browserWith, page);
  await expect(popup.getByRole('region', { name: 'Today' })).toBeVisible();
  await popup.close();

  await corvun.kill();
  popup = await openOn(browserWith, page);
  await expect(popup.getByRole('region', { name: 'Kept here' })).toContainText('The server does not answer');
  await expect(popup.getByRole('region', { name: 'Today' }).getByText('Stand-up at the hut')).toBeVisible();
  await popup.getByLabel('Capture line').fill('ask who drains the pumps');
  await popup.keyboard.press('Enter');
  await expect(popup.getByRole('status')).toHaveText('The server does not answer. It is kept here and sent later.');
  await expect(popup.getByRole('region', { name: 'Kept here' })).toContainText('ask who drains the pumps');
  await popup.close();

  await corvun.start();
  popup = await openOn(browserWith, page);
  await expect(popup.getByRole('region', { name: 'Kept here' })).toBeHidden();
  await expect.poll(async () => (await corvun.api<{ total: number }>('/incoming?limit=1')).total).toBe(total + 1);
});

test('the toolbar button opens the small window, which says what is missing', async ({ browserWith }) => {
  const { context, worker } = browserWith;
  const page = await context.newPage();
  await page.goto(browserWith.web);
  await page.bringToFront();
  await worker.evaluate(() => chrome.action.openPopup());
  await expect
    .poll(() =>
      worker.evaluate(async () => (await chrome.runtime.getContexts({ contextTypes: ['POPUP'] })).map((one) => one.documentUrl)),
    )
    .toEqual([browserWith.address('popup.html')]);
  const window = await context.newPage();
  await window.goto(browserWith.address('popup.html'));
  await expect(window.getByRole('heading')).toHaveText('Say where Corvun is');
  const commands = await worker.evaluate(() => chrome.commands.getAll());
  expect(commands.find((one) => one.name === '_execute_action')?.shortcut).toBe('Alt+Shift+K');
});
