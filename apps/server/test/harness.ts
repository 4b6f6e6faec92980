import 'reflect-metadata';
import type { AddressInfo } from 'node:net';
import type { NestExpressApplication } from '@nestjs/platform-express';
import { createTransport } from 'nodemailer';
import { DataSource } from 'typeorm';
import { createApp } from '../src/app';
import type { CorvunDataSource } from '../src/base/data-source';
import { DemoService } from '../src/demo/demo.service';
import { SmtpService } from '../src/incoming/smtp.service';
import { Outside } from '../../../testing/outside';
import { conform } from '../../../testing/conform';
import { NOBODY, NOW, clear, demoFolder, tempFolder } from '../../../testing/server';

export { Outside } from '../../../testing/outside';
export { NOW, ServerProcess, clear, tempFolder } from '../../../testing/server';
export { until } from '../../../testing/until';

/** A running server on a data folder of its own, spoken to over real HTTP and SMTP. */
export interface Running {
  url: string;
  smtpPort: number;
  data: string;
  app: NestExpressApplication;
  stop: () => Promise<void>;
}

export async function startServer(
  kind: 'demo' | 'empty',
  data = kind === 'demo' ? demoFolder() : tempFolder(),
  more: Record<string, string> = {},
): Promise<Running> {
  Object.assign(process.env, {
    CORVUN_DATA: data,
    PORT: '0',
    SMTP_PORT: '0',
    CORVUN_NOW: NOW,
    CORVUN_DEMO: kind === 'demo' ? '1' : '',
    CORVUN_ALLOW_PRIVATE: '',
    CORVUN_MAIL_OUT: NOBODY,
    CORVUN_FOLDERS: data,
    ...more,
  });
  const app = await createApp(['error', 'fatal']);
  if (kind === 'demo') await app.get(DemoService).prepare();
  await app.listen(0, '127.0.0.1');
  const { port } = app.getHttpServer().address() as AddressInfo;
  return { url: `http://127.0.0.1:${port}`, smtpPort: app.get(SmtpService).port, data, app, stop: () => app.close() };
}

/** The database of a server, to look into and to change behind its back. */
export const database = ({ app }: Pick<Running, 'app'>): DataSource => app.get<CorvunDataSource>(DataSource).writing;

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
    const type = response.headers.get('content-type') ?? '';
    const answer = (text && /json/.test(type) ? JSON.parse(text) : text) as T;
    if (path.startsWith('/api/')) conform(method, path, response.status, type, answer);
    return { status: response.status, body: answer, headers: response.headers };
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

/** Milliseconds until a mail server has to greet. */
const GREETING = 10_000;

export async function sendMail(
  smtpPort: number,
  message: {
    to: string;
    subject?: string;
    text?: string;
    raw?: Buffer | string;
    from?: string;
    attachments?: { filename: string; content: string }[];
    icalEvent?: { method: string; content: string };
  },
): Promise<string> {
  // The library's timer for the greeting outlives a connection that is closed before it, and holds the process.
  const transport = createTransport({ host: '127.0.0.1', port: smtpPort, ignoreTLS: true, greetingTimeout: GREETING });
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

/** A server with an account of its own and the stand-ins beside it. */
export async function withOutside(
  env: Record<string, string> = {},
): Promise<{ server: Running; outside: Outside; maren: Caller }> {
  const data = tempFolder();
  const outside = await new Outside().start(data, env);
  const server = await startServer('empty', data, {
    CORVUN_ALLOW_PRIVATE: '1',
    CORVUN_MAIL_OUT: outside.mailOut,
  });
  const maren = new Caller(server.url);
  await maren.post('/account', { name: 'Maren Holt', email: 'maren.holt@alderfen.example', password: 'ten letters at least' });
  await outside.sendTo(server.smtpPort);
  return { server, outside, maren };
}

/** A new server for the tests of a file, or for each of them, and Maren Holt signed in there. */
export function ownServer(per: 'file' | 'test' = 'file', more: Record<string, string> = {}): { server: Running; maren: Caller } {
  const here = {} as { server: Running; maren: Caller };
  const [before, after] = per === 'file' ? [beforeAll, afterAll] : [beforeEach, afterEach];
  before(async () => {
    here.server = await startServer('empty', undefined, more);
    here.maren = await firstAccount(here.server);
  });
  after(async () => {
    await here.server.stop();
    clear(here.server.data);
  });
  return here;
}
