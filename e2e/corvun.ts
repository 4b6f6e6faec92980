import { test as base, expect, type Page } from '@playwright/test';
import { spawn, type ChildProcess } from 'node:child_process';
import { cpSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { createServer, type AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { createTransport } from 'nodemailer';

const ROOT = join(__dirname, '..');
export const TO = 'maren.holt@capture.example';

export async function freePort(): Promise<number> {
  const server = createServer();
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  const { port } = server.address() as AddressInfo;
  await new Promise((resolve) => server.close(resolve));
  return port;
}

/** The demo data, made once by the global set-up; each Corvun starts on a copy. */
export const TEMPLATE = join(tmpdir(), `corvun-e2e-template-${process.env['CORVUN_E2E_RUN'] ?? 'none'}`);

/** Starts the built server on a folder and waits until it listens. */
export async function startServer(data: string, env: Record<string, string>): Promise<ChildProcess> {
  const child = spawn(process.execPath, [join(ROOT, 'apps/server/dist/main.js')], {
    env: {
      ...process.env,
      CORVUN_DATA: data,
      CORVUN_DEMO: '1',
      CORVUN_NOW: '2026-08-03T10:50:00+02:00',
      CORVUN_WEB: join(ROOT, 'apps/web/dist'),
      ...env,
    },
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  await new Promise<void>((resolve, reject) => {
    child.stdout.on('data', (text: Buffer) => text.includes('listening') && resolve());
    child.on('exit', (code) => reject(new Error(`the server ended with ${code}`)));
  });
  return child;
}

export interface Letter {
  from?: string;
  subject?: string;
  text?: string;
  html?: string;
  attachments?: { filename: string; content: string }[];
}

/** A built Corvun with the demo data and a fixed clock, in a folder of its own. */
export class Corvun {
  url = '';
  smtpPort = 0;
  readonly data = mkdtempSync(join(tmpdir(), 'corvun-e2e-'));
  private child: ChildProcess | undefined;

  constructor(readonly more: Record<string, string> = {}) {
    if (!Object.keys(more).length) cpSync(TEMPLATE, this.data, { recursive: true });
  }

  async start(): Promise<void> {
    const port = this.url ? Number(new URL(this.url).port) : await freePort();
    this.smtpPort = this.smtpPort || (await freePort());
    this.url = `http://127.0.0.1:${port}`;
    this.child = await startServer(this.data, { PORT: String(port), SMTP_PORT: String(this.smtpPort), ...this.more });
  }

  async kill(): Promise<void> {
    const { child } = this;
    this.child = undefined;
    if (!child) return;
    await new Promise<void>((resolve) => {
      child.removeAllListeners('exit');
      child.once('exit', () => resolve());
      child.kill('SIGKILL');
    });
  }

  async stop(): Promise<void> {
    await this.kill();
    rmSync(this.data, { recursive: true, force: true });
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

  async api<T>(path: string, method = 'GET', body?: object): Promise<T> {
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
    const corvun = new Corvun();
    await corvun.start();
    await use(corvun);
    await corvun.stop();
  },
  sort: async ({ page, corvun }, use) => {
    await page.goto(`${corvun.url}/sort`);
    await expect(page.getByRole('region', { name: 'Stack' })).toBeVisible();
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
  await expect(sheet(page).getByRole('heading', { name: subject })).toBeVisible();
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

/** Opens a waiting thing that may be far down the stack: only the rows in view are drawn. */
export async function openAt(page: Page, corvun: Corvun, subject: string): Promise<void> {
  const { items } = await corvun.api<{ items: { id: string; subject: string }[] }>('/incoming?limit=100');
  const id = items.find((line) => line.subject.includes(subject))?.id;
  await page.goto(`${corvun.url}/sort/${id}`);
  await expect(sheet(page).getByRole('heading', { name: subject })).toBeVisible();
}
