import { chromium, type BrowserContext, type Page, type Worker } from '@playwright/test';
import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { cpSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { withExtensions } from '../testing/chromium';
import { violations } from './axe';
import { expect, test as base, type Corvun } from './corvun';

const EXTENSION = join(__dirname, '../apps/extension/dist');
const PAGE = `<!doctype html><title>Ferry at Lower Fen: loads</title>
<p id="loads">The ferry takes loads up to 300 kg. Pumps must be drained.</p>`;

export interface Browser {
  context: BrowserContext;
  worker: Worker;
  address: (page: string) => string;
  /** A page of the web; everything under `.example` is it, too. */
  web: string;
}

interface Manifest {
  host_permissions: string[];
}

/** A copy of the built extension in which the user has allowed these origins: nobody can press the browser's own question here. */
function allowed(folder: string, origins: readonly string[]): string {
  const copy = join(folder, 'extension');
  cpSync(EXTENSION, copy, { recursive: true });
  const file = join(copy, 'manifest.json');
  const manifest = JSON.parse(readFileSync(file, 'utf8')) as Manifest;
  writeFileSync(file, JSON.stringify({ ...manifest, host_permissions: [...manifest.host_permissions, ...origins] }));
  return copy;
}

/** A Chromium with the built extension, and a page of the web. */
export const test = base.extend<{ origins: string[]; browserWith: Browser }>({
  origins: [[], { option: true }],
  browserWith: async ({ origins }, use) => {
    const web: Server = createServer((_request, response) => response.setHeader('Content-Type', 'text/html').end(PAGE));
    await new Promise<void>((resolve) => web.listen(0, '127.0.0.1', resolve));
    const { port } = web.address() as AddressInfo;
    const folder = mkdtempSync(join(tmpdir(), 'corvun-profile-'));
    const extension = origins.length ? allowed(folder, origins) : EXTENSION;
    const context = await chromium.launchPersistentContext(join(folder, 'profile'), {
      executablePath: withExtensions(),
      args: [
        ...['--no-sandbox', '--disable-gpu', `--host-resolver-rules=MAP *.example 127.0.0.1:${port}`],
        ...[`--disable-extensions-except=${extension}`, `--load-extension=${extension}`],
      ],
    });
    const worker = context.serviceWorkers()[0] ?? (await context.waitForEvent('serviceworker'));
    const id = new URL(worker.url()).host;
    await use({ context, worker, address: (page) => `chrome-extension://${id}/${page}`, web: `http://127.0.0.1:${port}/` });
    await context.close();
    web.close();
    rmSync(folder, { recursive: true, force: true });
  },
});

export async function connect({ context, address }: Browser, corvun: Corvun): Promise<void> {
  corvun.watch(context);
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
export async function openOn({ context, worker, address }: Browser, page: Page): Promise<Page> {
  const tab = await worker.evaluate(
    async (url) => (await chrome.tabs.query({ url: `${url}*` }))[0]?.id,
    page.url().replace(/:\d+/, ''),
  );
  const popup = await context.newPage();
  await popup.setViewportSize({ width: 400, height: 600 });
  await popup.goto(address(`popup.html?tab=${tab}`));
  return popup;
}
