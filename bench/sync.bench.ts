import 'reflect-metadata';
import { spawn } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { createServer, type AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { createApp } from '../apps/server/built/app';
import { AccountsService } from '../apps/server/built/accounts/accounts.service';
import { SourcesService } from '../apps/server/built/sources/sources.service';
import { ratio, timed } from './report';

const CARDS = 5000;
const BOARD = { id: 'boardwalk', name: 'Boardwalk board', ready: ['ready', 'idea', 'built'], done: 'nowhere', reopen: 'ready' };

async function freePort(): Promise<string> {
  const server = createServer();
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  const { port } = server.address() as AddressInfo;
  await new Promise((resolve) => server.close(resolve));
  return String(port);
}

/** First look into a tracker of 5,000 cards, half of them the user's own, against fetching the same pages alone. */
async function main(): Promise<void> {
  const data = mkdtempSync(join(tmpdir(), 'corvun-bench-'));
  const [port, receive, imap, smtp] = [await freePort(), await freePort(), await freePort(), await freePort()];
  const common = { CORVUN_DATA: data, CORVUN_NOW: '2026-08-03T10:50:00+02:00', SMTP_PORT: smtp };
  const outside = spawn(process.execPath, [join(__dirname, '../apps/outside/dist/main.js')], {
    env: {
      ...process.env,
      ...common,
      OUTSIDE_PORT: port,
      OUTSIDE_SMTP_PORT: receive,
      OUTSIDE_IMAP_PORT: imap,
      OUTSIDE_CARDS: String(CARDS),
    },
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  await new Promise((resolve) => outside.stdout.once('data', resolve));
  Object.assign(process.env, { ...common, CORVUN_DEMO: '', CORVUN_ALLOW_PRIVATE: '1', PORT: '0' });
  const app = await createApp(['error']);
  await app.init();
  const account = { name: 'Bench', email: 'bench@alderfen.example', password: 'bench-bench-bench', zone: 'Europe/Vienna' };
  const user = await app.get(AccountsService).create(account);
  const address = `http://127.0.0.1:${port}/tracker`;

  const fetched = await timed(async () => {
    for (let after = 0, more = true; more;) {
      const response = await fetch(`${address}/api/cards?board=${BOARD.id}&after=${after}&limit=250`);
      const page = (await response.json()) as { next: number; more: boolean };
      [after, more] = [page.next, page.more];
    }
  });
  const sources = app.get(SourcesService);
  let held = 0;
  const synced = await timed(async () => {
    const source = await sources.add(user, { kind: 'tracker', name: 'Tracker', address, settings: { boards: [BOARD] } });
    for (;;) {
      const info = await sources.info(user, source.id);
      held = info.held.waiting;
      if (info.lastSuccess) return;
      if (info.problem) throw new Error(info.problem);
      await new Promise((resolve) => setTimeout(resolve, 20));
    }
  });
  process.stdout.write(`${held} of ${CARDS} cards came in\n`);
  ratio(`first look into ${CARDS} cards against fetching them alone, a card`, synced / CARDS, fetched / CARDS, 8);
  await app.close();
  outside.kill();
  rmSync(data, { recursive: true, force: true });
}

main().catch((problem: unknown) => {
  process.stderr.write(`${problem instanceof Error ? problem.stack : String(problem)}\n`);
  process.exit(1);
});
