import { spawn, type ChildProcess } from 'node:child_process';
import { join } from 'node:path';
import { Corvun, expect, freePort, test as base } from './corvun';
import type { Page } from '@playwright/test';

/** The stand-ins for the outside world, with the data folder of one Corvun. */
export class Outside {
  url = '';
  private child: ChildProcess | undefined;

  constructor(
    private readonly data: string,
    readonly env: Record<string, string>,
  ) {}

  async start(): Promise<void> {
    this.url = `http://127.0.0.1:${this.env['OUTSIDE_PORT']}`;
    const child = spawn(process.execPath, [join(__dirname, '../apps/outside/dist/main.js')], {
      env: { ...process.env, CORVUN_DATA: this.data, CORVUN_NOW: '2026-08-03T10:50:00+02:00', ...this.env },
      stdio: ['ignore', 'pipe', 'inherit'],
    });
    this.child = child;
    await new Promise<void>((resolve, reject) => {
      child.stdout.once('data', () => resolve());
      child.once('exit', (code) => reject(new Error(`the stand-ins ended with ${code}`)));
    });
  }

  stop(): void {
    this.child?.removeAllListeners('exit');
    this.child?.kill('SIGKILL');
  }

  /** Acts on one of their pages, as somebody outside does. */
  async act(path: string, fields: Record<string, string>): Promise<void> {
    const answer = await fetch(`${this.url}${path}`, { method: 'POST', body: new URLSearchParams(fields), redirect: 'manual' });
    expect(answer.status).toBe(303);
  }

  state = async <T>(path: string): Promise<T> => (await (await fetch(`${this.url}${path}`)).json()) as T;
}

/** A Corvun whose demo is connected to stand-ins of its own; the page is open on Sources. */
export const test = base.extend<{ outside: Outside; sources: Page }>({
  corvun: async ({}, use) => {
    const ports = { OUTSIDE_PORT: await freePort(), OUTSIDE_SMTP_PORT: await freePort(), OUTSIDE_IMAP_PORT: await freePort() };
    const corvun = new Corvun({
      CORVUN_OUTSIDE: `http://127.0.0.1:${ports.OUTSIDE_PORT}`,
      CORVUN_ALLOW_PRIVATE: '1',
      CORVUN_MAIL_OUT: `smtp://127.0.0.1:${ports.OUTSIDE_SMTP_PORT}`,
    });
    corvun.more['CORVUN_FOLDERS'] = corvun.data;
    corvun.smtpPort = await freePort();
    for (const [name, port] of Object.entries(ports)) corvun.more[name] = String(port);
    await use(corvun);
    await corvun.stop();
  },
  outside: async ({ corvun }, use) => {
    const { OUTSIDE_PORT = '', OUTSIDE_SMTP_PORT = '', OUTSIDE_IMAP_PORT = '' } = corvun.more;
    const env = { OUTSIDE_PORT, OUTSIDE_SMTP_PORT, OUTSIDE_IMAP_PORT, SMTP_PORT: String(corvun.smtpPort) };
    const outside = new Outside(corvun.data, env);
    await outside.start();
    await corvun.start();
    await use(outside);
    outside.stop();
  },
  sources: async ({ page, corvun, outside }, use) => {
    expect(outside.url).not.toBe('');
    await page.goto(`${corvun.url}/sources`);
    await expect(page.getByRole('link', { name: 'Sort 38 waiting' })).toBeVisible();
    await use(page);
  },
});

export { expect };
