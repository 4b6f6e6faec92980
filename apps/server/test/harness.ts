import 'reflect-metadata';
import { spawn, type ChildProcess } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import type { AddressInfo } from 'node:net';
import { createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { NestExpressApplication } from '@nestjs/platform-express';
import { createTransport } from 'nodemailer';
import { createApp } from '../src/app';
import { DemoService } from '../src/demo/demo.service';

export const NOW = '2026-08-03T10:50:00+02:00';

/** A running server on a data folder of its own, spoken to over real HTTP and SMTP. */
export interface Running {
  url: string;
  smtpPort: number;
  data: string;
  app: NestExpressApplication;
  stop: () => Promise<void>;
}

export async function freePort(): Promise<number> {
  const server = createServer();
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  const { port } = server.address() as AddressInfo;
  await new Promise((resolve) => server.close(resolve));
  return port;
}

export const tempFolder = (): string => mkdtempSync(join(tmpdir(), 'corvun-test-'));

export async function startServer(
  kind: 'demo' | 'empty',
  data = tempFolder(),
  more: Record<string, string> = {},
): Promise<Running> {
  const [port, smtpPort] = [await freePort(), await freePort()];
  Object.assign(process.env, {
    CORVUN_DATA: data,
    PORT: String(port),
    SMTP_PORT: String(smtpPort),
    CORVUN_NOW: NOW,
    CORVUN_DEMO: kind === 'demo' ? '1' : '',
    CORVUN_ALLOW_PRIVATE: '',
    CORVUN_MAIL_OUT: '',
    CORVUN_FOLDERS: data,
    ...more,
  });
  const app = await createApp(['error', 'fatal']);
  if (kind === 'demo') await app.get(DemoService).prepare();
  await app.listen(port, '127.0.0.1');
  return { url: `http://127.0.0.1:${port}`, smtpPort, data, app, stop: () => app.close() };
}

export const clear = (data: string): void => rmSync(data, { recursive: true, force: true });

export interface Answer<T = Record<string, unknown>> {
  status: number;
  body: T;
  headers: Headers;
}

/** Speaks as one user: with a cookie, a token, or as nobody. */
export class Caller {
  constructor(
    private readonly url: string,
    private headers: Record<string, string> = {},
  ) {}

  async call<T = Record<string, unknown>>(
    method: string,
    path: string,
    body?: unknown,
    more: Record<string, string> = {},
  ): Promise<Answer<T>> {
    const form = body instanceof FormData;
    const response = await fetch(`${this.url}${path}`, {
      method,
      headers: { ...this.headers, ...(body === undefined || form ? {} : { 'Content-Type': 'application/json' }), ...more },
      ...(body === undefined ? {} : { body: form ? body : typeof body === 'string' ? body : JSON.stringify(body) }),
    });
    const cookie = response.headers.get('set-cookie');
    if (cookie) this.headers['Cookie'] = cookie.split(';')[0] ?? '';
    const text = await response.text();
    return {
      status: response.status,
      body: (text && /json/.test(response.headers.get('content-type') ?? '') ? JSON.parse(text) : text) as T,
      headers: response.headers,
    };
  }

  /** What it sends along, for requests made by hand. */
  signedHeaders(): Record<string, string> {
    return { ...this.headers };
  }

  get = <T>(path: string) => this.call<T>('GET', `/api${path}`);
  post = <T = Record<string, unknown>>(path: string, body: unknown = {}) => this.call<T>('POST', `/api${path}`, body);
  remove = <T = Record<string, unknown>>(path: string) => this.call<T>('DELETE', `/api${path}`);
  patch = <T = Record<string, unknown>>(path: string, body: unknown) => this.call<T>('PATCH', `/api${path}`, body);
}

/** Maren Holt's account on an empty server, signed in. */
export async function firstAccount({ url }: Running): Promise<Caller> {
  const maren = new Caller(url);
  await maren.post('/account', {
    name: 'Maren Holt',
    email: 'maren@alderfen.example',
    password: 'reed-bed-and-bittern',
    zone: 'Europe/Vienna',
  });
  return maren;
}

export interface Line {
  id: string;
  subject: string;
  sender: { name: string; address: string };
  suggestion: { to: string; title: string; list: string | null; deadline: string | null } | null;
  version: number;
}

export interface Page {
  total: number;
  items: Line[];
  next: string | null;
}

export async function sendMail(
  smtpPort: number,
  message: { to: string; subject?: string; text?: string; raw?: Buffer | string; from?: string },
): Promise<string> {
  const transport = createTransport({ host: '127.0.0.1', port: smtpPort, ignoreTLS: true });
  const envelope = { from: 'tomas.rieger@county-water.example', to: message.to };
  try {
    const info = (await transport.sendMail(
      message.raw !== undefined
        ? { envelope, raw: message.raw }
        : { from: 'Tomas Rieger <tomas.rieger@county-water.example>', ...message },
    )) as { response: string };
    return info.response;
  } catch (problem) {
    return problem instanceof Error ? problem.message : String(problem);
  } finally {
    transport.close();
  }
}

export const multipart = (name: string, bytes: Buffer | string): FormData => {
  const form = new FormData();
  form.append('files', new Blob([new Uint8Array(Buffer.from(bytes))]), name);
  return form;
};

/** Waits until `look` gives something; looks often, and says what it last saw when it never does. */
export async function until<T>(look: () => Promise<T | null | undefined | false>, what: string, within = 12_000): Promise<T> {
  const end = Date.now() + within;
  for (;;) {
    const seen = await look();
    if (seen) return seen;
    if (Date.now() > end) throw new Error(`It never came to this: ${what}`);
    await new Promise((resolve) => setTimeout(resolve, 40));
  }
}

/** The stand-ins for the outside world, in a process and a folder of their own. */
export class Outside {
  url = '';
  imapPort = 0;
  mailOut = '';
  private child: ChildProcess | undefined;

  async start(data: string, smtpPort: number, env: Record<string, string> = {}): Promise<this> {
    const [port, receive, imap] = [await freePort(), await freePort(), await freePort()];
    this.url = `http://127.0.0.1:${port}`;
    this.imapPort = imap;
    this.mailOut = `smtp://127.0.0.1:${receive}`;
    this.child = spawn(process.execPath, [join(__dirname, '../../outside/dist/main.js')], {
      env: {
        ...process.env,
        CORVUN_NOW: NOW,
        CORVUN_DATA: data,
        OUTSIDE_PORT: String(port),
        OUTSIDE_SMTP_PORT: String(receive),
        OUTSIDE_IMAP_PORT: String(imap),
        SMTP_PORT: String(smtpPort),
        ...env,
      },
      stdio: ['ignore', 'pipe', 'inherit'],
    });
    await new Promise<void>((resolve, reject) => {
      this.child?.stdout?.once('data', () => resolve());
      this.child?.once('exit', (code) => reject(new Error(`the stand-ins ended with ${code}`)));
    });
    return this;
  }

  stop(): void {
    this.child?.removeAllListeners('exit');
    this.child?.kill('SIGKILL');
  }

  /** Acts on one of their pages. */
  async act(path: string, fields: Record<string, string>): Promise<void> {
    const answer = await fetch(`${this.url}${path}`, { method: 'POST', body: new URLSearchParams(fields), redirect: 'manual' });
    if (answer.status !== 303) throw new Error(`${path} answered ${answer.status}`);
  }

  async state<T>(part: string): Promise<T> {
    return (await fetch(`${this.url}/${part}/state.json`)).json() as Promise<T>;
  }
}

/** A server with an account of its own and the stand-ins beside it. */
export async function withOutside(
  env: Record<string, string> = {},
): Promise<{ server: Running; outside: Outside; maren: Caller }> {
  const data = tempFolder();
  const outside = new Outside();
  const smtpPort = await freePort();
  await outside.start(data, smtpPort, env);
  const server = await startServer('empty', data, {
    SMTP_PORT: String(smtpPort),
    CORVUN_ALLOW_PRIVATE: '1',
    CORVUN_MAIL_OUT: outside.mailOut,
  });
  const maren = new Caller(server.url);
  await maren.post('/account', { name: 'Maren Holt', email: 'maren.holt@alderfen.example', password: 'ten letters at least' });
  return { server: { ...server, smtpPort }, outside, maren };
}
