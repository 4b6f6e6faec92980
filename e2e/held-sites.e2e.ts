import type { DayInfo, DayLogInfo, QuietState } from '@corvun/contract';
import type { Page } from '@playwright/test';
import { violations } from './axe';
import { expect, type Corvun } from './corvun';
import { connect, openOn, test, type Browser } from './with-extension';

test.use({ origins: ['*://*.fen-news.example/*', '*://*.marsh-board.example/*'] });

const NEWS = 'http://fen-news.example/today';
const BOARD = 'http://mill.marsh-board.example/posts';
const SITES = ['fen-news.example', 'marsh-board.example'];

const choose = (corvun: Corvun) => corvun.api('/settings', 'PATCH', { quiet: { sites: SITES } });
/** Quiet time that runs: it is 10:50. */
async function quiet(corvun: Corvun): Promise<string> {
  // The demo has work that runs then, too.
  const { days } = await corvun.api<{ days: DayInfo[] }>('/days?from=2026-08-03&days=1');
  for (const entry of days[0]?.entries ?? []) if (entry.kind === 'block') await corvun.api(`/blocks/${entry.id}`, 'DELETE');
  const block = { kind: 'quiet', title: 'Results chapter', start: '2026-08-03T10:30', minutes: 60 };
  const { made } = await corvun.api<{ made: { id: string }[] }>('/blocks', 'POST', block);
  return made[0]?.id ?? '';
}
const state = (corvun: Corvun) => corvun.api<QuietState>('/quiet');
async function visit({ context }: Browser, address: string): Promise<Page> {
  const page = await context.newPage();
  await page.goto(address);
  return page;
}
/** Clicks on its tab, so to say. */
const turnTo = async ({ worker }: Browser, page: Page) =>
  worker.evaluate(
    async (url) => {
      const [tab] = await chrome.tabs.query({ url });
      await chrome.tabs.update(tab?.id ?? 0, { active: true });
    },
    `${new URL(page.url()).protocol}//${new URL(page.url()).hostname}/*`,
  );
const heading = (page: Page) => page.getByRole('heading', { level: 1 });

test('a site is held back in quiet time, five minutes of it are counted, and it is let through when that is over', async ({
  corvun,
  browserWith,
}) => {
  await choose(corvun);
  const block = await quiet(corvun);
  await connect(browserWith, corvun);
  const page = await visit(browserWith, browserWith.web);
  await page.goto(NEWS);
  await expect(heading(page)).toHaveText('Quiet until 11:30');
  await expect(page.getByText('Results chapter')).toBeVisible();
  await expect(page.getByText('you have taken none today')).toBeVisible();
  expect(await violations(page)).toEqual([]);
  await page.getByRole('button', { name: 'Back' }).click();
  await expect(page.locator('#loads')).toBeVisible();

  // What lies below it belongs to it; other sites do not.
  const board = await visit(browserWith, BOARD);
  await expect(heading(board)).toHaveText('Quiet until 11:30');
  await page.goto('http://ferry.example/');
  await expect(page.locator('#loads')).toBeVisible();

  await page.goto(NEWS);
  await page.getByRole('button', { name: '5 minutes of fen-news.example' }).click();
  await expect(page.locator('#loads')).toBeVisible();
  expect(page.url()).toBe(NEWS);
  await expect.poll(async () => (await state(corvun)).graces.map(({ site }) => site)).toEqual(['fen-news.example']);
  await expect(board.getByText('Today you looked once at what is held back, 5 min in all.')).toBeVisible();

  const popup = await openOn(browserWith, page);
  const now = popup.getByRole('region', { name: 'Now' });
  await expect(now).toContainText('Results chapter');
  await expect(now).toContainText('until 11:30');
  await expect(now).toContainText('Next: ');
  await expect(now).toContainText('1 site held back until 11:30');
  expect(await violations(popup)).toEqual([]);

  await corvun.api(`/blocks/${block}`, 'DELETE');
  await board.goto(BOARD);
  await board.getByRole('button', { name: 'Go on to mill.marsh-board.example' }).click();
  await expect(board.locator('#loads')).toBeVisible();
});

test('what is held back stays so while the server is away; a look taken then is told later, once', async ({
  corvun,
  browserWith,
}) => {
  await choose(corvun);
  await quiet(corvun);
  await connect(browserWith, corvun);
  await corvun.kill();
  const page = await visit(browserWith, BOARD);
  await expect(heading(page)).toHaveText('Quiet until 11:30');
  await page.getByRole('button', { name: '5 minutes of mill.marsh-board.example' }).click();
  await expect(page.locator('#loads')).toBeVisible();

  await corvun.start();
  const popup = await openOn(browserWith, page);
  await expect(popup.getByRole('region', { name: 'Now' })).toContainText('Results chapter');
  await expect.poll(async () => (await state(corvun)).graces.map(({ site }) => site)).toEqual(['marsh-board.example']);
  // It is told once more by every window that opens, and counts once.
  await popup.reload();
  await expect(popup.getByRole('region', { name: 'Now' })).toContainText('Results chapter');
  expect((await state(corvun)).graces).toHaveLength(1);
});

test('quiet time that begins while such a site is open takes it away when it is looked at, and gives it back as it was', async ({
  corvun,
  browserWith,
}) => {
  await choose(corvun);
  await connect(browserWith, corvun);
  const page = await visit(browserWith, NEWS);
  await expect(page.locator('#loads')).toBeVisible();
  const other = await visit(browserWith, browserWith.web);
  await quiet(corvun);
  await turnTo(browserWith, other);
  await turnTo(browserWith, page);
  await expect(heading(page)).toHaveText('Quiet until 11:30');
  await page.getByRole('button', { name: '5 minutes of fen-news.example' }).click();
  await expect(page.locator('#loads')).toBeVisible();
  expect((await corvun.api<DayLogInfo>('/log?day=2026-08-03')).entries.filter(({ kind }) => kind === 'quiet')).toEqual([]);
});

test('the options say which sites the browser does not allow to be held back', async ({ corvun, browserWith }) => {
  await corvun.api('/settings', 'PATCH', { quiet: { sites: ['fen-news.example', 'ferry.example'] } });
  await connect(browserWith, corvun);
  const options = await visit(browserWith, browserWith.address('options.html'));
  const held = options.getByRole('region', { name: 'Sites held back' });
  await expect(held.getByRole('listitem').filter({ hasText: 'fen-news.example' })).toContainText('can be held back');
  await expect(held.getByRole('listitem').filter({ hasText: 'ferry.example' })).toContainText('not allowed yet');
  await expect(held.getByRole('button', { name: 'Allow ferry.example' })).toBeVisible();
  expect(await violations(options)).toEqual([]);
});
