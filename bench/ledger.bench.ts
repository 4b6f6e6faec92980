import { randomBytes } from 'node:crypto';
import { readFileSync, readdirSync } from 'node:fs';
import { join } from 'node:path';
import Database from 'libsql';
import { ServerProcess, clear, tempFolder } from '../testing/server';
import { median, ratio, timed } from './report';

/**
 * The time ledger over a year of 20,000 entries of time that was spent, by list and by tag, and what a figure of it is made
 * of, against the question to the database that brings these entries, asked bare in this process.
 */
const ENTRIES = Number(process.env['CORVUN_BENCH_ENTRIES'] ?? 20_000);
const ROUNDS = 9;
const MINUTE = 60_000;
const YEAR = 365 * 24 * 60 * MINUTE;
const AIM = 300;

const BARE = `SELECT e."id", e."taskId", e."startAt", e."endAt", t."title", t."listId", t."tags", t."billable", t."assignedTo", t."waitingOn"
  FROM "time_entry" e JOIN "task" t ON t."id" = e."taskId"
  WHERE e."ownerId" = ? AND e."startAt" < ? AND e."endAt" > ? ORDER BY e."startAt", e."id"`;

async function main(): Promise<void> {
  const data = tempFolder();
  const server = await ServerProcess.start(data, { CORVUN_DEMO: '1', CORVUN_ALLOW_PRIVATE: '', CORVUN_FOLDERS: '' });
  try {
    const token = readFileSync(join(data, 'demo-token'), 'utf8').trim();
    const get = async (path: string): Promise<unknown> =>
      (await fetch(`${server.url}/api${path}`, { headers: { Authorization: `Bearer ${token}` } })).json();
    const now = Date.parse(((await get('/me')) as { now: string }).now);
    const file = readdirSync(data).find((name) => name.endsWith('.sqlite') || name.endsWith('.db')) ?? '';
    const database = new Database(join(data, file));
    const tasks = database.prepare('SELECT "id", "ownerId" FROM "task"').all() as { id: string; ownerId: string }[];
    const owner = tasks[0]?.ownerId ?? '';
    const add = database.prepare(
      `INSERT INTO "time_entry" ("id", "ownerId", "version", "created", "changed", "taskId", "startAt", "endAt", "by", "paused", "note")
       VALUES (?, ?, 1, ?, ?, ?, ?, ?, 'timer', 0, '')`,
    );
    database.transaction(() => {
      for (let at = 0; at < ENTRIES; at += 1) {
        const start = now - YEAR + Math.floor((at / ENTRIES) * YEAR);
        const length = (5 + (at % 20)) * MINUTE;
        add.run(randomBytes(10).toString('hex'), owner, start, start, tasks[at % tasks.length]?.id ?? '', start, start + length);
      }
    })();
    const day = (instant: number) => new Date(instant).toISOString().slice(0, 10);
    const days = `from=${day(now - YEAR)}&to=${day(now)}`;
    const several = async (work: () => unknown) => {
      const times: number[] = [];
      for (let round = 0; round < ROUNDS; round += 1) times.push(await timed(work));
      return median(times);
    };
    const bare = await several(() => database.prepare(BARE).all(owner, now, now - YEAR));
    const shown = (await get(`/ledger?${days}&by=list`)) as { total: { spent: number } };
    if (shown.total.spent < ENTRIES * 5) throw new Error(`The ledger knows of ${shown.total.spent} minutes only.`);
    for (const by of ['list', 'tag'])
      ratio(`a year of ${ENTRIES} entries by ${by}`, await several(() => get(`/ledger?${days}&by=${by}`)), bare, AIM / bare);
    ratio(
      'what the time of the year is made of',
      await several(() => get(`/ledger/parts?${days}&by=list&what=spent`)),
      bare,
      AIM / bare,
    );
    ratio(
      'one week of it',
      await several(() => get(`/ledger?from=${day(now - YEAR / 52)}&to=${day(now)}&by=list`)),
      bare,
      AIM / bare,
    );
    database.close();
  } finally {
    await server.kill();
    clear(data);
  }
}

void main();
