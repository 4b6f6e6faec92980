import { Clock } from '../src/base/clock';
import { Jobs } from '../src/due/jobs';
import { Runner, pauseAfter, type DueKind } from '../src/due/runner';
import { clear, database, startServer, until, type Running } from './harness';

/** Things whose times stand in a table, as those of the server do; a list is enough for a table here. */
class Table implements DueKind {
  readonly ran: string[] = [];
  readonly open: (() => void)[] = [];
  most = 0;
  private running = 0;

  constructor(
    readonly name: string,
    readonly atOnce: number,
    readonly rows: { key: string; at: number }[],
  ) {}

  due(now: number, most: number) {
    const rows = this.rows.filter((row) => row.at <= now).sort((a, b) => a.at - b.at);
    return Promise.resolve(rows.slice(0, most).map((row) => ({ key: row.key, run: () => this.run(row) })));
  }

  private async run(row: { key: string; at: number }): Promise<void> {
    this.most = Math.max(this.most, (this.running += 1));
    this.ran.push(row.key);
    await new Promise<void>((resolve) => this.open.push(resolve));
    this.rows.splice(this.rows.indexOf(row), 1);
    this.running -= 1;
  }
}

describe('the runner', () => {
  let now = 1000;
  const clock = { now: () => now } as Clock;
  const settled = () => new Promise((resolve) => setImmediate(resolve));

  it('runs what is due, one of a key at a time, and not more of a kind than it may', async () => {
    const runner = new Runner(clock);
    const table = new Table(
      'things',
      2,
      ['a', 'b', 'c', 'd'].map((key, at) => ({ key, at: at === 3 ? 5000 : at })),
    );
    runner.register(table);
    for (let look = 0; look < 3; look += 1) {
      runner.soon();
      await settled();
    }
    expect([table.ran, runner.isRunning('a'), runner.start('things', { key: 'a', run: () => Promise.resolve() })]).toEqual([
      ['a', 'b'],
      true,
      false,
    ]);
    table.open.splice(0).forEach((end) => end());
    await settled();
    await settled();
    expect([table.ran, table.most]).toEqual([['a', 'b', 'c'], 2]);
    table.open.splice(0).forEach((end) => end());
    await settled();
    // The clock jumps over what was due, and back: it is done once.
    now = 9000;
    runner.soon();
    await settled();
    now = 1000;
    table.open.splice(0).forEach((end) => end());
    await settled();
    now = 9000;
    runner.soon();
    await settled();
    expect(table.ran).toEqual(['a', 'b', 'c', 'd']);
  });

  it('does not try what failed again at once, although it is due still', async () => {
    const runner = new Runner(clock);
    let tries = 0;
    const run = () => Promise.reject(new Error(`The disk is full (${(tries += 1)}).`));
    runner.register({ name: 'failing', atOnce: 1, due: () => Promise.resolve([{ key: 'f', run }]) });
    runner.soon();
    for (let turn = 0; turn < 20; turn += 1) await settled();
    expect(tries).toBe(1);
    runner.soon();
    for (let turn = 0; turn < 20; turn += 1) await settled();
    expect(tries).toBe(2);
  });

  it('tells what runs to end, waits for it, and begins nothing more', async () => {
    const runner = new Runner(clock);
    let stopped = false;
    runner.start('long', {
      key: 'x',
      run: (signal) =>
        new Promise<void>((resolve) =>
          signal.addEventListener('abort', () => {
            stopped = true;
            resolve();
          }),
        ),
    });
    const end = runner.nextEnd('x');
    await settled();
    await runner.beforeApplicationShutdown();
    await end;
    expect([stopped, runner.isEnding, runner.start('long', { key: 'y', run: () => Promise.resolve() })]).toEqual([
      true,
      true,
      false,
    ]);
  });

  it('pauses longer and longer, and as long as it is asked to', () => {
    expect([1, 2, 3, 20].map((failures) => pauseAfter(failures) / 1000)).toEqual([15, 30, 60, 1800]);
    expect(pauseAfter(5, 7)).toBe(7000);
  });
});

describe('jobs in the database', () => {
  let server: Running;
  beforeAll(async () => {
    server = await startServer('empty');
  });
  afterAll(async () => {
    await server.stop();
    clear(server.data);
  });

  const rows = () =>
    database(server).query<{ key: string; tries: number; problem: string; dueAt: number }[]>(
      `SELECT * FROM "job" WHERE "kind" LIKE 'test%'`,
    );

  it('are done when they are due; one that fails says why and comes again later; none is there twice', async () => {
    const jobs = server.app.get(Jobs);
    const now = server.app.get(Clock).now();
    const done: string[] = [];
    jobs.register('test-once', (job) => {
      done.push(job.key);
      return Promise.resolve(null);
    });
    jobs.register('test-fails', () => Promise.reject(new Error('The barn is locked.')));
    await jobs.ensure('one', 'test-once', now + 3_600_000);
    await jobs.ensure('one', 'test-once', now);
    await jobs.ensure('one', 'test-once', now + 60_000);
    await jobs.ensure('two', 'test-fails', now);
    await until(async () => (await rows()).some((row) => row.tries === 1), 'a first failure');
    await until(() => Promise.resolve(done.length > 0), 'the job');
    expect(done).toEqual(['one']);
    const [left] = await rows();
    expect(left).toMatchObject({ key: 'two', problem: 'The barn is locked.' });
    expect(left?.dueAt).toBeGreaterThan(now + 10_000);
  });
});
