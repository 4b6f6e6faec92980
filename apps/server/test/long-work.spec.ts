import type { TaskInfo, YesCost, Proposal, CalendarInfo } from '@corvun/contract';
import { gunzipSync } from 'node:zlib';
import { DataSource } from 'typeorm';
import { Runner } from '../src/due/runner';
import { Statistics } from '../src/data/statistics.service';
import { Kernel, bySystem } from '../src/kernel/kernel.service';
import { Event } from '../src/events/event.entity';
import { IN_WINDOW } from '../src/events/event-rows';
import { PlanningPool } from '../src/planning/planning-pool';
import { blankEvent, blankTask } from '../src/decisions/blanks';
import { database, ownServer } from './harness';
import sizes from '../../../testing/large-statistics.json';

const here = ownServer('test');
const ownerId = async () => (await here.maren.get<{ id: string }>('/me')).body.id;

/** Fills a list with open tasks behind the server's back. */
async function tasks(count: number, more: (at: number) => object = () => ({})): Promise<void> {
  const owner = await ownerId();
  await here.server.app.get(Kernel).transact(bySystem(owner), async (work) => {
    const rows = Array.from({ length: count }, (_, at) =>
      work.fresh('task', {
        ...blankTask(),
        title: `Gauge ${at}`,
        position: at,
        estimate: 30,
        id: `t${String(at).padStart(19, '0')}`,
        ...more(at),
      }),
    );
    await work.insertAll('task', rows);
  });
}

/** Every statement that is sent while something is done, with its parameters. */
async function statements(work: () => Promise<unknown>): Promise<{ sql: string; values: unknown[] }[]> {
  const found: { sql: string; values: unknown[] }[] = [];
  const source = here.server.app.get(DataSource);
  const [usual, quiet] = [
    source.logger,
    { log() {}, logQueryError() {}, logQuerySlow() {}, logSchemaBuild() {}, logMigration() {} },
  ];
  source.logger = { ...quiet, logQuery: (sql: string, values: unknown[] = []) => void found.push({ sql, values }) };
  await work();
  source.logger = usual;
  return found;
}

describe('with tables as large as those of five years', () => {
  const LARGE = [...new Set(sizes.filter(({ stat }) => Number(stat.split(' ')[0]) > 5000).map(({ tbl }) => tbl))];

  /** Lets SQLite believe that they are: what it plans by is how many rows each index tells apart. */
  async function believeLarge(): Promise<void> {
    const writing = database(here.server);
    await writing.query('ANALYZE');
    await writing.query('DELETE FROM "sqlite_stat1"');
    for (const { tbl, idx, stat } of sizes) await writing.query('INSERT INTO "sqlite_stat1" VALUES (?, ?, ?)', [tbl, idx, stat]);
    await writing.query('ANALYZE "sqlite_schema"');
  }
  const planOf = async (sql: string, values: unknown[]) =>
    (await database(here.server).query<{ detail: string }[]>(`EXPLAIN QUERY PLAN ${sql}`, values)).map(({ detail }) => detail);

  it('what is asked for most is found by an index, and nothing walks over a large table', async () => {
    await here.maren.post('/tasks', { lines: ['Oil the gate by 20 August', 'Buy oil'] });
    await here.maren.post('/events', { title: 'Site walk', start: '2026-08-04T10:00', minutes: 60 });
    await here.maren.post('/captures', { text: 'Ask about the gauge' });
    // What is done in the background comes when it comes; here it is looked at what is asked for.
    await here.server.app.get(Runner).beforeApplicationShutdown();
    await believeLarge();
    const calendar = (await here.maren.get<CalendarInfo[]>('/calendars')).body[0]?.id;
    const asked = await statements(async () => {
      for (const path of [
        '/incoming',
        '/tasks',
        '/agenda?from=2026-08-03&days=14',
        '/now',
        '/reminders',
        '/log?day=2026-08-03',
        '/lists',
        '/outbox',
        `/find?q=gauge`,
        `/calendars/${calendar}/file`,
      ])
        await here.maren.get(path);
    });
    const walks: string[] = [];
    for (const { sql, values } of asked.filter(({ sql }) => /^\s*(?:SELECT|WITH)/i.test(sql)))
      for (const detail of await planOf(sql, values))
        if (
          LARGE.some((table) => new RegExp(`^SCAN (?:"?${table}"?|\\w+)$`, 'i').test(detail)) &&
          LARGE.some((table) => sql.includes(`"${table}"`))
        )
          walks.push(`${detail}: ${sql.replace(/"\w+"\."\w+" AS "\w+",?/g, '')}`);
    // The mapper writes it where it is asked for none of a list.
    expect(walks.filter((one) => !one.includes('(0=1)'))).toEqual([]);
  });

  it('what is in a window is found by what begins near it, what is long, and what has no end', async () => {
    await here.maren.post('/events', { title: 'Site walk', start: '2026-08-04T10:00', minutes: 60 });
    await here.maren.post('/events', { title: 'Away', start: '2026-06-01', end: '2026-08-10', allDay: true });
    await here.maren.post('/events', { title: 'Stand-up', start: '2026-07-01T09:00', minutes: 15, repeat: 'FREQ=WEEKLY' });
    await here.maren.post('/events', { title: 'Over', start: '2026-05-01', end: '2026-07-10', allDay: true });
    const seen = (await here.maren.get<{ entries: { title: string }[] }>('/agenda?from=2026-08-03&days=7')).body.entries;
    expect([...new Set(seen.map(({ title }) => title))].sort()).toEqual(['Away', 'Site walk', 'Stand-up']);
    await believeLarge();
    const sql = IN_WINDOW.replace(/:\w+/g, '?');
    const plan = await planOf(sql, sql.match(/\?/g)?.map(() => 1) ?? []);
    expect(
      plan.filter((detail) => detail.startsWith('SEARCH')).map((detail) => detail.replace('SEARCH event USING ', '')),
    ).toEqual([
      expect.stringMatching(/INDEX event_window \(ownerId=\? AND startAt>\? AND startAt<\?\)$/),
      expect.stringMatching(/INDEX event_long \(ownerId=\? AND endAt>\?\)$/),
      expect.stringMatching(/INDEX event_endless \(ownerId=\? AND startAt<\?\)$/),
    ]);
  });

  it('taking away names its rows by their keys, not by all that somebody has', async () => {
    const owner = await ownerId();
    await here.maren.post('/events', { title: 'Site walk', start: '2026-08-04T10:00', minutes: 60 });
    await believeLarge();
    const deletes: string[] = [];
    const writing = database(here.server);
    const usual = writing.logger;
    await here.server.app.get(Kernel).transact(bySystem(owner), async (work) => {
      const quiet = { log() {}, logQueryError() {}, logQuerySlow() {}, logSchemaBuild() {}, logMigration() {} };
      writing.logger = { ...quiet, logQuery: (sql: string) => void (/^DELETE FROM "event"/.test(sql) && deletes.push(sql)) };
      await work.removeAll('event', await work.manager.findBy(Event, { ownerId: owner }));
    });
    writing.logger = usual;
    expect(deletes).toHaveLength(1);
    expect(await planOf(deletes[0] ?? '', [owner, 'x'])).toEqual(['SEARCH event USING INDEX sqlite_autoindex_event_1 (id=?)']);
  });

  it('the sizes are known after the start, and anew after many rows were written', async () => {
    const known = async () =>
      (await database(here.server).query<{ stat: string }[]>(`SELECT "stat" FROM "sqlite_stat1" WHERE "tbl" = 'task' LIMIT 1`))[0]
        ?.stat;
    await tasks(300);
    await here.server.app.get(Statistics).gather();
    expect(Number((await known())?.split(' ')[0])).toBeGreaterThanOrEqual(300);
    // The connection that reads goes by them: of tasks of one owner those on few days are found by the day.
    const reading = here.server.app.get(DataSource);
    await reading.query('SELECT 1 FROM "task" LIMIT 1');
    await tasks(3000, (at) => ({
      id: `u${at}`,
      plannedDay: `2026-${String(8 + (at % 3)).padStart(2, '0')}-${String(1 + (at % 28)).padStart(2, '0')}`,
    }));
    await here.server.app.get(Statistics).gather();
    await reading.query('SELECT 1 FROM "task" LIMIT 1');
    const [plan] = await reading.query<{ detail: string }[]>(
      `EXPLAIN QUERY PLAN SELECT * FROM "task" WHERE "ownerId" = 'x' AND "id" IN (${Array.from({ length: 400 }, () => `'x'`).join()})`,
    );
    expect(plan?.detail).toBe('SEARCH task USING INDEX sqlite_autoindex_task_1 (id=?)');
  });
});

describe('what touches very much', () => {
  it('a unit of ten thousand rows lets others read in between', async () => {
    const owner = await ownerId();
    let turns = 0;
    let going = true;
    const others = (async () => {
      while (going) {
        await here.maren.get('/health');
        turns += 1;
      }
    })();
    await here.server.app.get(Kernel).transact(bySystem(owner), async (work) => {
      const at = { start: '2026-08-04T10:00', end: '2026-08-04T11:00', allDay: false, zone: 'Europe/Vienna' };
      const calendar = await work.insert('calendar', {
        ...{
          name: 'Fen',
          code: 'FE',
          hue: 0,
          origin: 'own' as const,
          main: true,
          busy: true,
          shown: true,
          position: 0,
          sourceId: null,
        },
      });
      const rows = Array.from({ length: 10_000 }, (_, index) =>
        work.fresh('event', { ...blankEvent(at, 'Europe/Vienna'), calendarId: calendar.id, uid: `u${index}`, title: 'Round' }),
      );
      const before = turns;
      await work.insertAll('event', rows);
      await work.removeAll('event', rows);
      expect(turns).toBeGreaterThan(before);
    });
    going = false;
    await others;
  });

  it('all tasks come in pages, packed where that is understood, and are the same list', async () => {
    await tasks(1500);
    const all = (await here.maren.get<TaskInfo[]>('/tasks')).body;
    expect(all.map(({ title }) => title)).toEqual(Array.from({ length: 1500 }, (_, at) => `Gauge ${at}`));
    const headers = here.maren.signedHeaders();
    const sizeOf = async (encoding: string) => {
      const response = await fetch(`${here.server.url}/api/tasks`, { headers: { ...headers, 'Accept-Encoding': encoding } });
      return [response.headers.get('content-encoding'), (await response.arrayBuffer()).byteLength] as const;
    };
    expect((await sizeOf('identity'))[0]).toBeNull();
    expect((await sizeOf('gzip'))[0]).toBe('gzip');
    expect(gunzipSync).toBeDefined();
    expect((await here.maren.get<TaskInfo[]>(`/tasks?ids=${all[3]?.id},${all[1]?.id}`)).body.map(({ title }) => title)).toEqual([
      'Gauge 1',
      'Gauge 3',
    ]);
    expect((await here.maren.get<TaskInfo[]>('/tasks?list=nothing')).body).toEqual([]);
  });

  it('a proposal over more tasks than a plan holds takes the most pressing, and says how many more there are', async () => {
    await tasks(6000, (at) => ({ deadline: at === 5999 ? '2026-08-04' : '2026-08-10' }));
    const pool = here.server.app.get(PlanningPool);
    // A plan for as many as it can hold takes its time; which are taken is what is asked here.
    const usual = pool.plan.bind(pool);
    pool.plan = (stretch) => usual(stretch, 40);
    const { body } = await here.maren.get<Proposal>('/plan/proposal?days=2');
    pool.plan = usual;
    expect([...body.blocks, ...body.without].map(({ title }) => title)).toContain('Gauge 5999');
    expect(body.further).toBe(5960);
  });

  it('a time that no calendar has is refused, and one long ago is counted by itself', async () => {
    for (const start of ['0001-01-01T10:00', '9999-12-31T23:00'])
      expect((await here.maren.get(`/cost?start=${start}`)).status).toBe(400);
    const { status, body } = await here.maren.get<YesCost>('/cost?start=1901-01-01T10:00&minutes=60');
    expect([status, body.minutes]).toEqual([200, 0]);
    expect((await here.maren.post('/events', { title: 'x', start: '9999-12-31T10:00', minutes: 60 })).status).toBe(400);
  });
});
