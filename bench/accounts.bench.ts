import type { SourceInfo } from '@corvun/contract';
import { mkdtempSync, rmSync } from 'node:fs';
import { createServer, request as ask, type IncomingMessage } from 'node:http';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Radicale, radicaleIsHere } from '../testing/radicale';
import { ServerProcess } from '../testing/server';
import { ratio } from './report';

/** The first load of a calendar account with 10,000 events, against its requests alone; and a second look. */
const EVENTS = 10_000;

interface Asked {
  method: string;
  path: string;
  headers: IncomingMessage['headers'];
  body: Buffer;
}

const calendar = () => {
  const events = Array.from({ length: EVENTS }, (_, at) => {
    const day = new Date(Date.UTC(2023, 7, 7) + ((at * 7919) % 2190) * 86_400_000).toISOString().slice(0, 10).replaceAll('-', '');
    return [
      ...['BEGIN:VEVENT', `UID:${at}@bench.example`, 'DTSTAMP:20260801T000000Z', `SUMMARY:Round ${at}`],
      ...[`DTSTART:${day}T${String(8 + (at % 10)).padStart(2, '0')}0000Z`, 'DURATION:PT45M', 'LOCATION:Gate 3', 'END:VEVENT'],
    ];
  });
  return ['BEGIN:VCALENDAR', 'VERSION:2.0', 'PRODID:-//x//y//EN', ...events.flat(), 'END:VCALENDAR', ''].join('\r\n');
};

/** Stands between Corvun and the account and keeps what is asked. */
async function between(port: number, asked: Asked[]): Promise<{ url: string; close: () => void }> {
  const server = createServer((incoming, answer) => {
    const chunks: Buffer[] = [];
    incoming.on('data', (chunk: Buffer) => chunks.push(chunk));
    incoming.on('end', () => {
      const one = {
        method: incoming.method ?? '',
        path: incoming.url ?? '',
        headers: incoming.headers,
        body: Buffer.concat(chunks),
      };
      asked.push(one);
      const on = ask(
        { port, host: '127.0.0.1', agent: false, method: one.method, path: one.path, headers: one.headers },
        (back) => {
          answer.writeHead(back.statusCode ?? 502, back.headers);
          back.pipe(answer);
        },
      );
      on.once('error', () => answer.destroy());
      on.end(one.body);
    });
  });
  await new Promise<void>((done) => server.listen(0, '127.0.0.1', done));
  return { url: `http://127.0.0.1:${(server.address() as AddressInfo).port}`, close: () => server.close() };
}

/** Asks the same again, one after the other, and reads every answer to its end. */
async function alone(port: number, asked: readonly Asked[]): Promise<number> {
  const from = performance.now();
  for (const { method, path, headers, body } of asked)
    await new Promise<void>((done, fail) => {
      const on = ask({ port, host: '127.0.0.1', agent: false, method, path, headers }, (back) => back.resume().once('end', done));
      on.once('error', fail);
      on.end(body);
    });
  return performance.now() - from;
}

/** Speaks as the first user of a server. */
async function user(url: string): Promise<(method: string, path: string, body?: object) => Promise<unknown>> {
  let cookie = '';
  const call = async (method: string, path: string, body?: object) => {
    const answer = await fetch(`${url}/api${path}`, {
      method,
      headers: { 'Content-Type': 'application/json', ...(cookie ? { Cookie: cookie } : {}) },
      ...(body ? { body: JSON.stringify(body) } : {}),
    });
    cookie = answer.headers.get('set-cookie')?.split(';')[0] ?? cookie;
    return answer.json().catch(() => null) as Promise<unknown>;
  };
  await call('POST', '/account', { name: 'Maren Holt', email: 'maren@alderfen.example', password: 'reed-bed-and-bittern' });
  return call;
}

async function until(met: () => Promise<boolean>): Promise<void> {
  while (!(await met())) await new Promise((resolve) => setTimeout(resolve, 20));
}

async function main(): Promise<void> {
  if (!radicaleIsHere) return void process.stdout.write('accounts: Debian’s radicale is not installed\n');
  const radicale = new Radicale();
  const data = mkdtempSync(join(tmpdir(), 'corvun-bench-'));
  const asked: Asked[] = [];
  await radicale.start();
  const path = await radicale.make('Fen', 'VEVENT');
  await radicale.put(path, calendar());
  const port = Number(new URL(radicale.url).port);
  const middle = await between(port, asked);
  const server = await ServerProcess.start(data);
  try {
    const maren = await user(server.url);
    const input = { kind: 'account', name: 'Office', address: middle.url, account: 'maren', secret: 'fen-water' };
    const collections = [{ id: `events:${path}`, name: 'Fen' }];
    const one = async () => ((await maren('GET', '/sources')) as SourceInfo[])[0];
    // Once for Radicale itself, which reads its files the first time.
    const headers = { authorization: `Basic ${Buffer.from('maren:fen-water').toString('base64')}` };
    const what = '<d:propfind xmlns:d="DAV:"><d:prop><d:sync-token/></d:prop></d:propfind>';
    await alone(port, [{ method: 'PROPFIND', path, headers: { ...headers, depth: '0' }, body: Buffer.from(what) }]);
    const from = performance.now();
    await maren('POST', '/sources', { ...input, settings: { collections } });
    await until(async () => (await one())?.lastSuccess !== null);
    const whole = performance.now() - from;
    const first = [...asked];
    const bare = await alone(port, first);
    ratio(
      `first load of ${(await one())?.held.events} events, ${first.length} requests, against the requests alone`,
      whole,
      bare,
      3,
    );
    asked.length = 0;
    const before = (await one())?.lastTry;
    await maren('POST', `/sources/${(await one())?.id}/run`, {});
    await until(async () => (await one())?.lastTry !== before && (await one())?.progress === null);
    process.stdout.write(`second look, nothing changed: ${asked.length} request(s)\n`);
  } finally {
    await server.kill();
    middle.close();
    await radicale.end();
    rmSync(data, { recursive: true, force: true });
  }
}

void main();
