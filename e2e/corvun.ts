import { test as base, expect, type BrowserContext, type Locator, type Page, type Request } from '@playwright/test';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { createTransport } from 'nodemailer';
import { ServerProcess, clear, demoFolder, tempFolder } from '../testing/server';

const WEB = join(__dirname, '..', 'apps/web/dist');
export const TO = 'maren.holt@capture.example';

export interface Letter {
  from?: string;
  subject?: string;
  text?: string;
  html?: string;
  attachments?: { filename: string; content: string }[];
}

/** A built Corvun with a fixed clock, in a folder of its own: with the demo in it, or as a new one. */
export class Corvun {
  url = '';
  smtpPort = 0;
  readonly data: string;
  private server: ServerProcess | undefined;
  private readonly writing = new Set<Request>();

  constructor(
    private readonly demo: 'alone' | 'connected' | 'none',
    readonly more: Record<string, string> = {},
  ) {
    this.data = demo === 'none' ? tempFolder() : demoFolder(demo);
  }

  /** Starts it, the second time and later at the same addresses. */
  async start(): Promise<void> {
    const demo = this.demo === 'none' ? '' : '1';
    const env = { CORVUN_DEMO: demo, CORVUN_WEB: WEB, CORVUN_ALLOW_PRIVATE: '', CORVUN_FOLDERS: '', ...this.more };
    this.server = await ServerProcess.start(this.data, { ...env, ...this.server?.samePorts });
    ({ url: this.url, smtpPort: this.smtpPort } = this.server);
    if (!this.smtpPort) throw new Error(`Corvun did not start: ${(await this.server.ended).said}`);
  }

  async kill(): Promise<void> {
    await this.server?.kill();
  }

  async stop(): Promise<void> {
    await this.kill();
    clear(this.data);
  }

  async mail(letter: Letter): Promise<void> {
    const transport = createTransport({ host: '127.0.0.1', port: this.smtpPort, ignoreTLS: true });
    await transport.sendMail({ from: 'Tomas Rieger <tomas.rieger@county-water.example>', to: TO, ...letter });
    transport.close();
  }

  /** A whole message, as it is. */
  async sendRaw(raw: string): Promise<void> {
    const transport = createTransport({ host: '127.0.0.1', port: this.smtpPort, ignoreTLS: true });
    await transport.sendMail({ envelope: { from: 'ines@aalto-timber.example', to: TO }, raw });
    transport.close();
  }

  /** A page shows what was done before the server has it: what such pages have begun to write is waited for by `api`. */
  watch(context: BrowserContext): void {
    context.on('request', (request) => request.method() !== 'GET' && this.writing.add(request));
    const ended = (request: Request) => this.writing.delete(request);
    context.on('requestfinished', ended).on('requestfailed', ended);
  }

  async written(): Promise<void> {
    await expect.poll(() => this.writing.size, { message: 'What the page writes comes to its end.' }).toBe(0);
  }

  /** What a reload cuts short may come to the server, or not. */
  async reload(page: Page): Promise<void> {
    await this.written();
    await page.reload();
  }

  async api<T>(path: string, method = 'GET', body?: object): Promise<T> {
    await this.written();
    return this.ask(path, method, body);
  }

  /** As `api`, even while the page is writing. */
  async ask<T>(path: string, method = 'GET', body?: object): Promise<T> {
    const token = readFileSync(join(this.data, 'demo-token'), 'utf8').trim();
    const response = await fetch(`${this.url}/api${path}`, {
      method,
      headers: { Authorization: `Bearer ${token}`, ...(body ? { 'Content-Type': 'application/json' } : {}) },
      ...(body ? { body: JSON.stringify(body) } : {}),
    });
    const text = await response.text();
    return (text ? JSON.parse(text) : null) as T;
  }
}

/** Each test has a Corvun of its own; the page that it gets is open on Sort and signed in. */
export const test = base.extend<{ corvun: Corvun; sort: Page }>({
  corvun: async ({}, use) => {
    const corvun = new Corvun('alone');
    await corvun.start();
    await use(corvun);
    await corvun.stop();
  },
  page: async ({ page, corvun }, use) => {
    corvun.watch(page.context());
    await use(page);
  },
  sort: async ({ page, corvun }, use) => {
    await page.goto(`${corvun.url}/sort`);
    await stack(page).waitFor();
    await use(page);
  },
});

export { expect };

export const stack = (page: Page) => page.getByRole('region', { name: 'Stack' });
export const sheet = (page: Page) => page.getByRole('article', { name: 'Sheet' });
export const pane = (page: Page) => page.getByRole('complementary', { name: 'Decide' });
export const said = (page: Page) => page.locator('[data-tone]');
export const waitingCount = async (page: Page): Promise<number> =>
  Number(
    /^(\d+) to decide/.exec(
      (await stack(page)
        .getByText(/to decide/)
        .textContent()) ?? '',
    )?.[1],
  );

/** Opens a waiting thing by its subject. */
export async function openLine(page: Page, subject: string): Promise<void> {
  await stack(page)
    .getByRole('button', { name: new RegExp(subject) })
    .click();
  await sheet(page).getByRole('heading', { name: subject }).waitFor();
}

/** Drags by mouse in small steps, as a hand does. */
export async function drag(page: Page, from: { x: number; y: number }, to: { x: number; y: number }): Promise<void> {
  await page.mouse.move(from.x, from.y);
  await page.mouse.down();
  await page.mouse.move(from.x + 8, from.y + 8, { steps: 3 });
  await page.mouse.move(to.x, to.y, { steps: 12 });
  await page.mouse.move(to.x, to.y + 1);
  await page.mouse.up();
}

/** Drags a row onto a target that may move while it is dragged, as a hand does: it follows until that is under it. */
export async function dragOnto(page: Page, row: Locator, target: Locator, shown: Locator): Promise<void> {
  const from = await row.boundingBox();
  if (!from) throw new Error('The row is not shown.');
  await page.mouse.move(from.x + 60, from.y + 15);
  await page.mouse.down();
  await page.mouse.move(from.x + 20, from.y + 30, { steps: 3 });
  await expect(shown).toBeVisible();
  for (let under = false; !under;) {
    const to = await target.boundingBox();
    if (!to) throw new Error('The target is not shown.');
    await page.mouse.move(to.x + 20, to.y + to.height / 2, { steps: 6 });
    await page.evaluate(() => new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(done))));
    under = await target.evaluate(
      (node, y) => node.closest('[data-over]') !== null && node.getBoundingClientRect().y === y,
      to.y,
    );
  }
  await page.mouse.up();
}

/** Opens a waiting thing that may be far down the stack: only the rows in view are drawn. */
export async function openAt(page: Page, corvun: Corvun, subject: string): Promise<void> {
  const { items } = await corvun.api<{ items: { id: string; subject: string }[] }>('/incoming?limit=100');
  const id = items.find((line) => line.subject.includes(subject))?.id;
  await page.goto(`${corvun.url}/sort/${id}`);
  await sheet(page).getByRole('heading', { name: subject }).waitFor();
}
