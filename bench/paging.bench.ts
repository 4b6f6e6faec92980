import 'reflect-metadata';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { createApp } from '../apps/server/built/app';
import { DemoService } from '../apps/server/built/demo/demo.service';
import { AccountsService } from '../apps/server/built/accounts/accounts.service';
import { IncomingService } from '../apps/server/built/incoming/incoming.service';
import { FindService } from '../apps/server/built/find/find.service';
import { ftsQuery, readFind } from '../packages/core/dist';
import { DataSource } from 'typeorm';
import { median, ratio, timed } from './report';

const PAGE = 100;
const ROUNDS = 30;

/** A page of the inbox with its proposals at 100,000 waiting, over the service, against the same SQL run raw. */
async function main(): Promise<void> {
  const data = mkdtempSync(join(tmpdir(), 'corvun-bench-'));
  Object.assign(process.env, {
    CORVUN_DATA: data,
    CORVUN_DEMO: '1',
    CORVUN_SIZE: 'large',
    CORVUN_NOW: '2026-08-03T10:50:00+02:00',
    PORT: '0',
    SMTP_PORT: '0',
  });
  const app = await createApp(['error']);
  const made = await timed(() => app.get(DemoService).prepare());
  const user = await app.get(AccountsService).byEmail('maren.holt@alderfen.example');
  if (!user) throw new Error('the demo user is missing');
  const source = app.get(DataSource);
  const service = app.get(IncomingService);
  const [size] = await source.query<{ count: number }[]>('SELECT COUNT(*) AS count FROM incoming');
  process.stdout.write(`large demo made in ${(made / 1000).toFixed(0)} s, ${size?.count} incoming\n`);

  const count = 'SELECT COUNT(*) AS total FROM incoming WHERE ownerId = ? AND state = ?';
  const rows = 'SELECT * FROM incoming WHERE ownerId = ? AND state = ? AND (received, id) > (?, ?) ORDER BY received, id LIMIT ?';
  const [ours, raw]: [number[], number[]] = [[], []];
  let cursor: string | undefined;
  for (let round = 0; round < ROUNDS; round += 1) {
    const at = cursor;
    const [received = '0', id = ''] = (at ?? '0.').split('.');
    raw.push(
      await timed(async () => {
        await source.query(count, [user.id, 'waiting']);
        await source.query(rows, [user.id, 'waiting', Number(received), id, PAGE + 1]);
      }),
    );
    ours.push(
      await timed(async () => {
        const page = await service.page(user, { state: 'waiting', cursor: at, limit: PAGE, newestFirst: false });
        cursor = page.next ?? undefined;
      }),
    );
  }
  ratio(`inbox page of ${PAGE} at ${size?.count} incoming (median of ${ROUNDS})`, median(ours), median(raw), 2);
  const finder = app.get(FindService);
  const typed = [
    'p',
    'pu',
    'pump',
    'gauge read',
    'boardwalk section',
    '"section C"',
    '@Ines quote',
    'could +mail',
    '+task >Permits',
  ];
  const [finding, matching]: [number[], number[]] = [[], []];
  for (let round = 0; round < 5; round += 1)
    for (const text of typed) {
      const query = ftsQuery(readFind(text, { now: Date.parse('2026-08-03T08:50:00Z'), zone: user.zone }));
      if (query)
        matching.push(await timed(() => source.query('SELECT rowid FROM search_fts WHERE search_fts MATCH ? LIMIT 40', [query])));
      finding.push(await timed(() => finder.find(user, text)));
    }
  ratio(`finding as one types at ${size?.count} incoming (median of ${finding.length})`, median(finding), median(matching), 60);
  process.stdout.write(`  the slowest took ${Math.max(...finding).toFixed(0)} ms\n`);
  await app.close();
  rmSync(data, { recursive: true, force: true });
}

main().catch((problem: unknown) => {
  process.stderr.write(`${problem instanceof Error ? problem.stack : String(problem)}\n`);
  process.exit(1);
});
