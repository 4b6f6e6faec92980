import fc from 'fast-check';
import { database, Caller, clear, startServer, type Answer, type Page, type Running } from './harness';

interface Task {
  id: string;
  status: string;
  blocks: { id: string }[];
}

let server: Running;
let maren: Caller;

beforeAll(async () => {
  server = await startServer('demo');
  maren = new Caller(server.url);
  await maren.post('/session/demo');
});

afterAll(async () => {
  await server.stop();
  clear(server.data);
});

const TABLES = ['incoming', 'task', 'block', 'event', 'list', 'tag', 'person', 'calendar', 'note'];

/** Everything the user has, apart from the counters that every write moves. */
async function everything(): Promise<string> {
  const source = database(server);
  const dump: unknown[] = [];
  for (const table of TABLES) {
    const rows = await source.query<Record<string, unknown>[]>(`SELECT * FROM "${table}" ORDER BY id`);
    dump.push(rows.map(({ version: _version, changed: _changed, ...row }) => row));
  }
  return JSON.stringify(dump);
}

const inbox = async () => (await maren.get<Page>('/incoming?limit=100')).body.items;
const tasks = async () => (await maren.get<Task[]>('/tasks')).body;

type Doing = (choice: number) => Promise<Answer<object>>;

let named = 0;

/** Does something with a block; where all were given back, a task gets time instead. */
async function withBlock(choice: number, work: (id: string) => ReturnType<Doing>): ReturnType<Doing> {
  const all = await tasks();
  const blocks = all.flatMap((task) => task.blocks);
  const block = blocks[choice % blocks.length];
  if (block) return work(block.id);
  return maren.post('/blocks', { taskId: all[choice % all.length]?.id, start: '2026-08-17T09:00', minutes: 30 });
}

/** What a user may do next; each picks its subject by the number it is given. */
const DOINGS: Record<string, Doing> = {
  list: async (choice) => {
    const lines = await inbox();
    return maren.post('/decisions', {
      incoming: [lines[choice % lines.length]?.id],
      to: 'list',
      list: 'Permits',
      tags: [`tag${choice % 5}`],
    });
  },
  time: async (choice) => {
    const lines = await inbox();
    const start = `2026-08-${String(4 + (choice % 20)).padStart(2, '0')}T10:00`;
    return maren.post('/decisions', { incoming: [lines[choice % lines.length]?.id], to: 'time', start, minutes: 30 });
  },
  event: async (choice) => {
    const lines = await inbox();
    return maren.post('/decisions', { incoming: [lines[choice % lines.length]?.id], to: 'event', start: '2026-08-20T10:00' });
  },
  dropSeveral: async (choice) => {
    const lines = await inbox();
    const ids = [lines[choice % lines.length]?.id, lines[(choice + 1) % lines.length]?.id];
    return maren.post('/decisions', { incoming: ids, to: 'drop' });
  },
  person: async (choice) => {
    const lines = (await inbox()).filter((line) => line.sender.address);
    return maren.post('/decisions', { incoming: [lines[choice % lines.length]?.id], to: 'person' });
  },
  severalBlocks: async (choice) => {
    const lines = await inbox();
    const slot = (hour: number) => ({ start: `2026-08-${String(4 + (choice % 20)).padStart(2, '0')}T${hour}:00`, minutes: 30 });
    return maren.post('/decisions', {
      incoming: [lines[choice % lines.length]?.id],
      to: 'time',
      slots: [slot(15), slot(13)],
      steps: ['Measure', `Order ${choice}`],
      repeat: 'FREQ=WEEKLY',
    });
  },
  reference: async (choice) => {
    const lines = await inbox();
    return maren.post('/decisions', {
      incoming: [lines[choice % lines.length]?.id],
      to: 'reference',
      note: `Page ${choice % 3}`,
    });
  },
  capture: (choice) => maren.post('/captures', { text: `Thought ${choice} #new${choice % 7}` }),
  captureWithTime: (choice) => maren.post('/captures', { text: `Walk ${choice} tomorrow ${8 + (choice % 9)}:15 >Home` }),
  tick: async (choice) => {
    const all = await tasks();
    const task = all[choice % all.length];
    return maren.patch(`/tasks/${task?.id}`, { status: task?.status === 'COMPLETED' ? 'NEEDS-ACTION' : 'COMPLETED' });
  },
  edit: async (choice) => {
    const all = await tasks();
    const change = [
      { title: `Renamed ${choice}` },
      { plannedDay: '2026-08-12' },
      { list: null },
      { shelved: true },
      { estimate: 15 },
    ][choice % 5];
    return maren.patch(`/tasks/${all[choice % all.length]?.id}`, change);
  },
  moveBlock: (choice) =>
    withBlock(choice, (id) => maren.patch(`/blocks/${id}`, { start: '2026-08-13T13:00', minutes: 15 + (choice % 4) * 15 })),
  addBlock: async (choice) => {
    const all = await tasks();
    return maren.post('/blocks', { taskId: all[choice % all.length]?.id, start: '2026-08-14T09:00', minutes: 45 });
  },
  freeBlock: (choice) => withBlock(choice, (id) => maren.remove(`/blocks/${id}`)),
  newList: () => maren.post('/lists', { name: `List ${(named += 1)}` }),
  hideCalendar: async (choice) => {
    const calendars = (await maren.get<{ id: string; shown: boolean }[]>('/calendars')).body;
    const calendar = calendars[choice % calendars.length];
    return maren.patch(`/calendars/${calendar?.id}`, { shown: !calendar?.shown });
  },
};

const doing = fc.tuple(fc.constantFrom(...Object.keys(DOINGS)), fc.integer({ min: 0, max: 10_000 }));

describe('undo', () => {
  it('takes any sequence of doings back exactly, and redo does it again exactly', async () => {
    await fc.assert(
      fc.asyncProperty(fc.array(doing, { minLength: 1, maxLength: 8 }), async (sequence) => {
        const states = [await everything()];
        for (const [name, choice] of sequence) {
          const answer = await DOINGS[name]?.(choice);
          if (!answer || answer.status >= 300)
            throw new Error(`${name} ${choice}: ${answer?.status} ${JSON.stringify(answer?.body)}`);
          const state = await everything();
          // What changes nothing, such as taking a task off no list, is no doing and is not taken back.
          if ('decision' in answer.body && answer.body.decision === '') expect(state).toBe(states.at(-1));
          else states.push(state);
        }
        for (let at = states.length - 2; at >= 0; at -= 1) {
          expect((await maren.post('/decisions/undo')).status).toBe(200);
          expect(await everything()).toBe(states[at]);
        }
        for (let at = 1; at < states.length; at += 1) {
          expect((await maren.post('/decisions/redo')).status).toBe(200);
          expect(await everything()).toBe(states[at]);
        }
        for (let at = 1; at < states.length; at += 1) await maren.post('/decisions/undo');
      }),
      { numRuns: 6 },
    );
  });

  it('a change that changes nothing is no doing: what was done before is taken back', async () => {
    const [task] = await tasks();
    const called = (title: string) => maren.patch<{ decision: string }>(`/tasks/${task?.id}`, { title });
    const before = await everything();
    const first = await called('Mend the gate at last');
    const again = await called('Mend the gate at last');
    expect([first.body.decision !== '', again.body.decision]).toEqual([true, '']);
    expect((await maren.post('/decisions/undo')).status).toBe(200);
    expect(await everything()).toBe(before);
  });

  it('goes at least fifty steps deep', async () => {
    const before = await everything();
    for (let at = 0; at < 55; at += 1) await maren.post('/captures', { text: `Deep thought ${at}` });
    for (let at = 54; at >= 0; at -= 1) {
      const { body } = await maren.post<{ sentence: string }>('/decisions/undo');
      expect(body.sentence).toBe(`“Deep thought ${at}” waits in the inbox`);
    }
    expect(await everything()).toBe(before);
  });

  it('what a source changed since is not overwritten, and does not stand in the way of what was done before', async () => {
    const { body } = await maren.post<{ id: string }>('/captures', { text: 'Mow the bank tomorrow' });
    const outside = (title: string) => database(server).query('UPDATE task SET title = ? WHERE id = ?', [title, body.id]);
    await maren.patch(`/tasks/${body.id}`, { title: 'Mow the north bank' });
    await outside('Changed from outside');
    const before = await everything();
    const { status, body: refused } = await maren.post<{ error: { code: string; message: string } }>('/decisions/undo');
    expect([status, refused.error.code]).toEqual([409, 'changed-since']);
    expect(refused.error.message).toContain('stays as it is');
    expect(await everything()).toBe(before);
    expect((await maren.post('/decisions/undo')).status).toBe(200);
    expect((await tasks()).some((task) => task.id === body.id)).toBe(false);
  });

  it('leaves a list to which something from outside was put meanwhile', async () => {
    await maren.post('/captures', { text: 'Mow the west bank tomorrow' });
    const { id } = (await maren.post<{ id: string }>('/lists', { name: 'Banks' })).body;
    await database(server).query('UPDATE task SET listId = ? WHERE title = ?', [id, 'Mow the west bank']);
    const before = await everything();
    const { status, body: refused } = await maren.post<{ error: { code: string } }>('/decisions/undo');
    expect([status, refused.error.code]).toEqual([409, 'changed-since']);
    expect(await everything()).toBe(before);
    await database(server).query('UPDATE task SET listId = NULL WHERE listId = ?', [id]);
    expect((await maren.post('/decisions/undo')).status).toBe(200);
    expect((await tasks()).some((task) => task.id === id)).toBe(false);
  });

  it('takes back only what was done: another column that a source changed meanwhile stays', async () => {
    const { body } = await maren.post<{ id: string }>('/captures', { text: 'Mow the south bank tomorrow' });
    await maren.patch(`/tasks/${body.id}`, { priority: 'high' });
    await database(server).query('UPDATE task SET title = ? WHERE id = ?', ['Mow it all', body.id]);
    expect((await maren.post('/decisions/undo')).status).toBe(200);
    const [row] = await database(server).query<{ title: string; priority: string }[]>('SELECT * FROM task WHERE id = ?', [
      body.id,
    ]);
    expect([row?.title, row?.priority]).toEqual(['Mow it all', 'normal']);
    await maren.post('/decisions/undo');
  });

  it('lists the latest doings with what was undone marked', async () => {
    await maren.post('/captures', { text: 'one' });
    await maren.post('/captures', { text: 'two' });
    await maren.post('/decisions/undo');
    const { body } = await maren.get<{ sentence: string; undone: boolean }[]>('/decisions');
    expect(body.slice(0, 2).map((one) => [one.sentence, one.undone])).toEqual([
      ['“two” waits in the inbox', true],
      ['“one” waits in the inbox', false],
    ]);
  });
});

describe('two windows at once', () => {
  it('write one after the other: nothing is lost, nothing is mixed up', async () => {
    const before = (await inbox()).length;
    const answers = await Promise.all(Array.from({ length: 30 }, (_, at) => maren.post('/captures', { text: `At once ${at}` })));
    expect(answers.every((answer) => answer.status === 201)).toBe(true);
    expect((await maren.get<Page>('/incoming')).body.total).toBe(before + 30);
    const { body } = await maren.get<{ id: string }[]>('/decisions');
    expect(new Set(body.map((one) => one.id)).size).toBe(body.length);
  });

  it('decide the same thing: one wins, the other is told', async () => {
    const [line] = await inbox();
    const answers = await Promise.all(['drop', 'reference'].map((to) => maren.post('/decisions', { incoming: [line?.id], to })));
    expect(answers.map((answer) => answer.status).sort()).toEqual([200, 409]);
  });
});
