import { Entry } from '../src/kernel/entry.entity';
import { Kernel, bySource, bySystem, byUser } from '../src/kernel/kernel.service';
import { log } from '../src/kernel/log';
import { Retention, TAKEN_BACK_FOR, TOLD_FOR } from '../src/kernel/retention';
import { RESHAPES, SHAPE, renamed, reshaped } from '../src/kernel/shapes';
import { blankTask } from '../src/decisions/blanks';
import { Task } from '../src/tasks/task.entity';
import { DataSource } from 'typeorm';
import { type Caller, clear, database, firstAccount, startServer, type Running } from './harness';

const DAY = 86_400_000;
let server: Running;
let maren: Caller;
let kernel: Kernel;
let owner: string;

beforeAll(async () => {
  server = await startServer('empty');
  maren = await firstAccount(server);
  owner = (await maren.get<{ id: string }>('/me')).body.id;
  kernel = server.app.get(Kernel);
});

afterAll(async () => {
  await server.stop();
  clear(server.data);
});

const newTask = (title: string) => ({ ...blankTask(), title, position: 0 });
const entries = () =>
  database(server)
    .getRepository(Entry)
    .find({ order: { revision: 'ASC' } });
const last = async () => (await entries()).at(-1);

describe('what is written', () => {
  it('is in the log, whoever wrote it; only what a user did and was told can be taken back', async () => {
    await kernel.transact(bySource(owner, 'feed'), (work) => work.insert('task', newTask('From the feed')));
    expect(await last()).toMatchObject({ actor: 'source', actorId: 'feed', state: 'final', shape: SHAPE, sentence: '' });
    await kernel.transact(bySystem(owner), (work) => work.insert('task', newTask('From itself')));
    expect(await last()).toMatchObject({ actor: 'system', actorId: null, state: 'final' });
    expect((await maren.post('/decisions/undo')).status).toBe(409);
    const { decision, sentence } = await kernel.transact(byUser({ id: owner }), async (work) => {
      await work.insert('task', newTask('By hand'));
      work.say({ action: 'capture', sentence: '“By hand” is there' });
    });
    expect([(await last())?.id, sentence]).toEqual([decision, '“By hand” is there']);
    expect((await maren.post<{ sentence: string }>('/decisions/undo')).body.sentence).toBe('“By hand” is there');
  });

  it('leaves of a changed row the columns that changed, and of one that no one takes back no copy', async () => {
    const { result: task } = await kernel.transact(bySource(owner), (work) => work.insert('task', newTask('Long')));
    expect((await last())?.changes).toEqual([{ kind: 'task', id: task.id, before: null, after: {} }]);
    const notes = 'x'.repeat(100_000);
    for (let at = 0; at < 20; at += 1) await maren.patch(`/tasks/${task.id}`, { notes: `${notes}${at}` });
    await maren.patch(`/tasks/${task.id}`, { title: 'Longer' });
    expect((await last())?.changes).toEqual([
      { kind: 'task', id: task.id, before: { title: 'Long' }, after: { title: 'Longer' } },
    ]);
  });

  it('is told once to whoever acts on it, also on what others do about it; a circle is refused whole', async () => {
    const seen: string[] = [];
    const turns = { spin: false };
    const tag = (name: string) => ({ name, hue: 0 });
    kernel.follow({
      name: 'counts tasks of rules',
      actors: ['rule'],
      follow: async (work, changes) => {
        seen.push(`first: ${changes.map(({ kind }) => kind).join()}`);
        if (turns.spin || changes.some(({ kind }) => kind === 'task')) await work.insert('tag', tag(`first ${seen.length}`));
      },
    });
    kernel.follow({
      name: 'counts tags of rules',
      actors: ['rule'],
      follow: async (work, changes) => {
        seen.push(`second: ${changes.map(({ kind }) => kind).join()}`);
        if (turns.spin) await work.insert('tag', tag(`second ${seen.length}`));
      },
    });
    const byRule = { actor: { kind: 'rule', id: 'r' }, owner } as const;
    await kernel.transact(byRule, (work) => work.insert('task', newTask('Ruled')));
    expect(seen).toEqual(['first: task', 'second: task', 'second: tag']);
    expect((await last())?.changes.map(({ kind }) => kind)).toEqual(['task', 'tag']);
    turns.spin = true;
    const before = await entries();
    await expect(kernel.transact(byRule, (work) => work.insert('task', newTask('Spun')))).rejects.toThrow(/circle/);
    turns.spin = false;
    expect(await entries()).toEqual(before);
    expect(await database(server).getRepository(Task).existsBy({ title: 'Spun' })).toBe(false);
  });

  it('is not seen by anyone who reads before it is on disk, and never where it was taken back', async () => {
    const reading = server.app.get(DataSource).getRepository(Task);
    const attempt = kernel.transact(bySystem(owner), async (work) => {
      const { id } = await work.insert('task', newTask('Half'));
      expect([await work.manager.existsBy(Task, { id }), await reading.existsBy({ id })]).toEqual([true, false]);
      throw new Error('No.');
    });
    await expect(attempt).rejects.toThrow('No.');
    expect(await reading.existsBy({ title: 'Half' })).toBe(false);
    await expect(server.app.get(DataSource).query('DELETE FROM task')).rejects.toThrow(/readonly|read.only|query_only/i);
  });
});

describe('the log', () => {
  it('is kept as long as it says, and what was done stays known', async () => {
    const now = Date.parse('2030-01-01T00:00:00Z');
    const at = (days: number) => ({ ...byUser({ id: owner }), at: now - days * DAY });
    await kernel.transact({ ...bySystem(owner), at: now - (TOLD_FOR + 1) * DAY }, (work) => work.insert('task', newTask('Old')));
    const removed = (await last())?.revision;
    const say = (days: number) =>
      kernel.transact(at(days), async (work) => {
        await work.insert('task', newTask(`${days} days`));
        work.say({ action: 'capture', sentence: `${days} days ago` });
      });
    const [old, young] = [(await say(TAKEN_BACK_FOR + 1)).decision, (await say(TAKEN_BACK_FOR - 1)).decision];
    await server.app.get(Retention).shorten(now);
    const left = new Map((await entries()).map((entry) => [entry.id, entry]));
    expect([...left.values()].some(({ revision }) => revision === removed)).toBe(false);
    expect(left.get(old)).toMatchObject({ state: 'final', changes: [], sentence: `${TAKEN_BACK_FOR + 1} days ago` });
    expect(left.get(young)).toMatchObject({ state: 'done' });
  });

  it('is read in from an export of the version before, which kept whole rows', () => {
    const row = { title: 'Mow', day: null, version: 1 };
    const changes = [
      { kind: 'task', id: 'a', before: null, after: row },
      { kind: 'task', id: 'a', before: row, after: { ...row, day: '2026-08-04', version: 2 } },
    ];
    expect(log.in?.({ id: 'e', sentence: 'Moved', changes }, 'u')).toEqual({
      id: 'e',
      sentence: 'Moved',
      actor: 'user',
      actorId: 'u',
      shape: 1,
      changes: [
        { kind: 'task', id: 'a', before: null, after: { ...row, ownerId: 'u' } },
        { kind: 'task', id: 'a', before: { day: null }, after: { day: '2026-08-04' } },
      ],
    });
  });

  it('is understood after a column was renamed', () => {
    const step = { kind: 'task', id: 'a', before: { day: null }, after: { day: '2026-08-04' } };
    const later = [...RESHAPES, renamed('task', 'day', 'plannedOn'), renamed('event', 'day', 'other')];
    expect(reshaped([step], SHAPE, later)).toEqual([
      { kind: 'task', id: 'a', before: { plannedOn: null }, after: { plannedOn: '2026-08-04' } },
    ]);
    expect(reshaped([step], later.length + 1, later)).toEqual([step]);
  });
});
