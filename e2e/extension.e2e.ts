import { chromium, type BrowserContext, type Page, type Worker } from '@playwright/test';
import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { withExtensions } from '../testing/chromium';
import { violations } from './axe';
import { expect, test as base, type Corvun } from './corvun';

const EXTENSION = join(__dirname, '../apps/extension/dist');
const PAGE = `<!doctype html><title>Ferry at Lower Fen: loads</title>
<p id="loads">The ferry takes loads up to 300 kg. Pumps must be drained.</p>`;

interface Browser {
  context: BrowserContext;
  worker: Worker;
  address: (page: string) => string;
  web: string;
}

/** A Chromium with the built extension, and a page of the web to clip from. */
const test = base.extend<{ browserWith: Browser }>({
  browserWith: async ({}, use) => {
    const web: Server = createServer((_request, response) => response.setHeader('Content-Type', 'text/html').end(PAGE));
    await new Promise<void>((resolve) => web.listen(0, '127.0.0.1', resolve));
    const profile = mkdtempSync(join(tmpdir(), 'corvun-profile-'));
    const context = await chromium.launchPersistentContext(profile, {
      executablePath: withExtensions(),
      args: ['--no-sandbox', '--disable-gpu', `--disable-extensions-except=${EXTENSION}`, `--load-extension=${EXTENSION}`],
    });
    const worker = context.serviceWorkers()[0] ?? (await context.waitForEvent('serviceworker'));
    const id = new URL(worker.url()).host;
    await use({
      context,
      worker,
      address: (page) => `chrome-extension://${id}/${page}`,
      web: `http://127.0.0.1:${(web.address() as AddressInfo).port}/`,
    });
    await context.close();
    web.close();
    rmSync(profile, { recursive: true, force: true });
  },
});

async function connect({ context, address }: Browser, corvun: Corvun): Promise<void> {
  const options = await context.newPage();
  await options.goto(address('options.html'));
  await options.getByLabel('Address of Corvun').fill(corvun.url);
  await options.getByLabel('Token').fill('wrong');
  await options.getByRole('button', { name: 'Connect' }).click();
  await expect(options.getByRole('alert')).toHaveText('The token is not valid.');
  await options.getByLabel('Token').fill(readFileSync(join(corvun.data, 'demo-token'), 'utf8').trim());
  await options.getByRole('button', { name: 'Connect' }).click();
  await expect(options.getByRole('status')).toHaveText('Connected as Maren Holt.');
  expect(await violations(options)).toEqual([]);
  await options.close();
}

/** The small window, opened on the page in front. */
async function openOn({ context, worker, address }: Browser, page: Page): Promise<Page> {
  const tab = await worker.evaluate(
    async (url) => (await chrome.tabs.query({ url: `${url}*` }))[0]?.id,
    page.url().replace(/:\d+/, ''),
  );
  const popup = await context.newPage();
  await popup.setViewportSize({ width: 400, height: 600 });
  await popup.goto(address(`popup.html?tab=${tab}`));
  return popup;
}

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
