import type { TaskFull, TaskInfo } from '@corvun/contract';
import { clear, database, firstAccount, sendMail, startServer, until, type Caller, type Page, type Running } from './harness';

interface Refused {
  error: { code: string; message: string; fields?: Record<string, string>; present?: Record<string, unknown> };
}
interface Added {
  ids: string[];
  sentence: string;
}

let server: Running;
let maren: Caller;
let list: string;

beforeAll(async () => {
  server = await startServer('empty');
  maren = await firstAccount(server);
  list = (await maren.post<{ id: string }>('/lists', { name: 'Grant report' })).body.id;
  await maren.post('/lists', { name: 'Field season' });
});
afterAll(async () => {
  await server.stop();
  clear(server.data);
});

const add = async (...lines: string[]) => (await maren.post<Added>('/tasks', { lines, list })).body.ids;
const one = async (...lines: string[]) => (await add(...lines))[0] ?? '';
const open = async (id: string) => (await maren.get<TaskFull>(`/tasks/${id}`)).body;
const change = <T = { task: TaskInfo; sentence: string }>(id: string, body: object) => maren.patch<T>(`/tasks/${id}`, body);
const undo = () => maren.post<{ sentence: string }>('/decisions/undo');
const titles = async () =>
  (await maren.get<TaskInfo[]>(`/tasks?list=${list}`)).body.filter((task) => !task.parentId).map((task) => task.title);
const steps = async (id: string) => (await open(id)).steps.map((step) => `${step.parentId === id ? '' : '- '}${step.title}`);

describe('everything of a task', () => {
  it('is changed field by field, comes back as it was said, and each change is taken back by itself', async () => {
    const id = await one('Results chapter');
    const fields = {
      title: 'Interim report, results chapter',
      notes: 'Keep to **three questions**.',
      tags: ['write'],
      priority: 'high',
      estimate: 240,
      spent: 120,
      billable: true,
      concentration: 'deep',
      plannedWeek: '2026-W33',
      deadline: '2026-08-31',
      deadlineFixed: true,
      notBefore: '2026-08-10',
      repeat: 'FREQ=MONTHLY;BYMONTHDAY=-1',
      repeatFrom: 'completion',
      reminder: '2026-08-20T09:00',
      waitingOn: 'Anna Reiter',
      waitingUntil: '2026-08-18',
      assignedTo: 'Jonas Vale',
      links: [{ url: 'https://alderfen.example/report', title: 'The form' }],
    };
    for (const [field, value] of Object.entries(fields))
      expect([field, (await change(id, { [field]: value })).status]).toEqual([field, 200]);
    expect(await open(id)).toMatchObject(fields);
    expect((await open(id)).waitingSince).toContain('2026-08-03');
    expect((await undo()).body.sentence).toContain('1 link');
    expect(await open(id)).toMatchObject({ ...fields, links: [] });
  });

  it.each([
    ['repeat', 'DAILY0', 'is no rule that can be followed'],
    ['repeat', 'FREQ=NEVER', 'is no rule'],
    ['reminder', '2026-08-20', 'YYYY-MM-DDTHH:MM'],
    ['links', [{ url: 'javascript:alert(1)', title: 'x' }], 'begins with http'],
    ['spent', -1, 'whole number of minutes'],
    ['title', '   ', 'more than spaces'],
    ['waitingUntil', '2026-02-30', 'not a day in the calendar'],
    ['list', 'Nowhere', 'There is no list “Nowhere”'],
  ])('refuses %s: %j with a sentence and changes nothing', async (field, value, words) => {
    const id = await one('Compare figures');
    const { status, body } = await change<Refused>(id, { [field]: value, priority: 'high' });
    expect(status).toBeGreaterThanOrEqual(400);
    expect(JSON.stringify(body.error)).toContain(words);
    expect((await open(id)).priority).toBe('normal');
  });

  it('shows the next five dates of a repeat', async () => {
    const id = await one('Read the gauge');
    await change(id, { repeat: 'FREQ=WEEKLY;BYDAY=TU', plannedDay: '2026-08-04' });
    expect((await open(id)).nextDays).toEqual(['2026-08-04', '2026-08-11', '2026-08-18', '2026-08-25', '2026-09-01']);
  });

  it('lets two windows change different fields, and shows both sides where they change the same', async () => {
    const id = await one('Order sedge plugs');
    const { version, title, estimate } = await open(id);
    expect((await change(id, { estimate: 20, version, was: { estimate } })).status).toBe(200);
    expect((await change(id, { title: 'Order sedge plugs, 400', version, was: { title } })).status).toBe(200);
    expect(await open(id)).toMatchObject({ title: 'Order sedge plugs, 400', estimate: 20 });
    const { status, body } = await change<Refused>(id, { estimate: 45, version, was: { estimate } });
    expect([status, body.error.code, body.error.fields]).toEqual([
      409,
      'changed-meanwhile',
      { estimate: 'Changed meanwhile in another place.' },
    ]);
    expect(body.error.present).toMatchObject({ estimate: 20, title: 'Order sedge plugs, 400' });
    // What both made of it is no conflict, and without what it was before every later change is one.
    expect((await change(id, { estimate: 20, version, was: { estimate } })).status).toBe(200);
    expect((await change(id, { tags: ['site'], version })).status).toBe(409);
  });
});

describe('steps', () => {
  it('are made by pasting lines, go two levels deep, and become tasks of their own', async () => {
    const id = await one('Repair the boardwalk');
    const { ids } = (await maren.post<Added>('/tasks', { lines: ['Measure 45 min', '', '  Order boards ++ '], parent: id })).body;
    expect(await steps(id)).toEqual(['Measure', 'Order boards']);
    expect((await open(id)).steps.map((step) => [step.estimate, step.priority, step.listId])).toEqual([
      [45, 'normal', list],
      [null, 'high', list],
    ]);
    const [measure = '', boards = ''] = ids;
    await change(boards, { parent: measure });
    expect(await steps(id)).toEqual(['Measure', '- Order boards']);
    const deep = await change<Refused>(await one('Too deep'), { parent: boards });
    expect([deep.status, deep.body.error.message]).toEqual([
      422,
      'Steps have steps, and those have none: it would be too deep there.',
    ]);
    expect((await change<Refused>(id, { parent: boards })).body.error.message).toBe('A task cannot be a step of itself.');
    await change(boards, { parent: null, after: id });
    expect((await open(boards)).parentId).toBeNull();
    expect((await open(id)).steps).toHaveLength(1);
    await undo();
    expect(await steps(id)).toEqual(['Measure', '- Order boards']);
  });

  it('stay open when their task is done, or are done with it, as it is said', async () => {
    const id = await one('Hut roof');
    await maren.post('/tasks', { lines: ['Buy felt', 'Nail it'], parent: id });
    await change(id, { status: 'COMPLETED' });
    expect((await open(id)).steps.map((step) => step.status)).toEqual(['NEEDS-ACTION', 'NEEDS-ACTION']);
    await undo();
    await change(id, { status: 'COMPLETED', steps: 'done' });
    expect((await open(id)).steps.map((step) => step.status)).toEqual(['COMPLETED', 'COMPLETED']);
    await undo();
    expect((await open(id)).steps.map((step) => step.status)).toEqual(['NEEDS-ACTION', 'NEEDS-ACTION']);
  });

  it('leave their task when they alone go to another list', async () => {
    const id = await one('Sluice');
    const [step = ''] = (await maren.post<Added>('/tasks', { lines: ['Grease the rack'], parent: id })).body.ids;
    expect((await change(step, { list: 'Field season' })).body.sentence).toBe(
      '“Grease the rack”: on Field season, a task of its own',
    );
    expect((await open(step)).parentId).toBeNull();
    await undo();
    expect((await open(step)).parentId).toBe(id);
    await maren.post('/tasks/change', { ids: [id, step], change: { list: 'Field season' } });
    expect((await open(step)).parentId).toBe(id);
  });

  it('go along to another list', async () => {
    const id = await one('Reed count');
    await maren.post('/tasks', { lines: ['Book the boat'], parent: id });
    await change(id, { list: 'Field season' });
    const full = await open(id);
    expect(full.steps.map((step) => step.listId)).toEqual([full.listId]);
    expect(full.listId).not.toBe(list);
  });
});

it('a line with a day and a time has its time set aside', async () => {
  expect((await open(await one('Ring the county tomorrow 10:00 for 20 min'))).allBlocks).toMatchObject([
    { start: '2026-08-04T10:00:00+02:00', end: '2026-08-04T10:20:00+02:00' },
  ]);
});

it('a line of nothing but a day is a title after all, and blank lines are refused', async () => {
  expect(await open(await one('tomorrow'))).toMatchObject({ title: 'tomorrow', plannedDay: null });
  const { status, body } = await maren.post<Refused>('/tasks', { lines: ['  ', ''] });
  expect([status, body.error.message]).toEqual([422, 'Write what there is to do.']);
});

describe('the order by hand', () => {
  it('holds for a task and for many, and is taken back as one', async () => {
    const made = await add('First', 'Second', 'Third', 'Fourth');
    const own = async () => (await titles()).filter((title) => /^(?:First|Second|Third|Fourth)$/.test(title));
    expect(await own()).toEqual(['First', 'Second', 'Third', 'Fourth']);
    await change(made[3] ?? '', { after: made[0] });
    expect(await own()).toEqual(['First', 'Fourth', 'Second', 'Third']);
    await maren.post('/tasks/change', { ids: [made[2], made[0]], change: { priority: 'low' }, after: null });
    expect((await titles()).slice(0, 2)).toEqual(['Third', 'First']);
    await undo();
    expect(await own()).toEqual(['First', 'Fourth', 'Second', 'Third']);
    expect((await open(made[0] ?? '')).priority).toBe('normal');
    expect((await change<Refused>(made[0] ?? '', { after: 'nothing' })).status).toBe(422);
  });

  it('puts new ones where they are wanted', async () => {
    const [above = ''] = await add('Above', 'Below');
    await maren.post('/tasks', { lines: ['Between'], list, after: above });
    expect((await titles()).filter((title) => /^(?:Above|Between|Below)$/.test(title))).toEqual(['Above', 'Between', 'Below']);
  });
});

describe('many together', () => {
  it('take one change, tags added and taken off, all or none', async () => {
    const ids = await add('Call the county #call', 'Call the fund #call');
    const { body } = await maren.post<{ sentence: string }>('/tasks/change', {
      ids,
      change: { deadline: '2026-08-14', list: 'Field season' },
      addTags: ['money'],
      removeTags: ['call'],
    });
    expect(body.sentence).toBe('2 tasks: on Field season, due Fri 14 Aug, #money added, #call taken off');
    expect((await open(ids[1] ?? '')).tags).toEqual(['money']);
    await undo();
    expect(await open(ids[1] ?? '')).toMatchObject({ tags: ['call'], deadline: null, listId: list });
    const wrong = await maren.post<Refused>('/tasks/change', { ids, change: { deadline: '2026-02-30' } });
    expect([wrong.status, wrong.body.error.message]).toEqual([400, '2026-02-30 is not a date.']);
    expect((await maren.post('/tasks/change', { ids: ['nobody'], change: {} })).status).toBe(404);
  });
});

describe('what happened to a task', () => {
  it('is told in order and in words, with its time and its files', async () => {
    const id = await one('Send the readings');
    await change(id, { deadline: '2026-08-28', deadlineFixed: true });
    await change(id, { deadline: '2026-08-31' });
    const block = await maren.post<{ made: { id: string }[] }>('/blocks', { taskId: id, start: '2026-08-04T10:15', minutes: 90 });
    await maren.patch(`/blocks/${block.body.made[0]?.id}`, { start: '2026-08-05T14:00', minutes: 30 });
    await maren.remove(`/blocks/${block.body.made[0]?.id}`);
    await change(id, { notes: 'x' });
    await undo();
    expect((await open(id)).history.map(({ by, what }) => `${by}: ${what}`)).toEqual([
      'you: written down',
      'you: due Fri 28 Aug, fixed',
      'you: due Mon 31 Aug, was Fri 28 Aug',
      'you: time set aside: Tue 4 Aug, 10:15, 1 h 30, on Tue 4 Aug, takes 1 h 30',
      'you: time moved to Wed 5 Aug, 14:00, on Wed 5 Aug',
      'you: time given back: Wed 5 Aug, 14:00',
      'you: notes changed',
      'you: turned back: notes changed',
    ]);
  });

  it('begins with the message it came from, and knows what else came of it', async () => {
    await sendMail(server.smtpPort, { to: 'maren@capture.example', subject: 'Gauge 14', text: 'Could you send the readings?' });
    await until(async () => (await maren.get<Page>('/incoming')).body.total === 1, 'the mail in the inbox');
    const incoming = (await maren.get<Page>('/incoming')).body.items[0]?.id ?? '';
    const decided = await maren.post<{ made: { id: string }[] }>('/decisions', {
      incoming: [incoming],
      to: 'list',
      list: 'Grant report',
      title: 'Send the readings',
      also: [{ title: 'Ask for the gauge' }],
    });
    const full = await open(decided.body.made[0]?.id ?? '');
    expect(full.origin).toMatchObject({ id: incoming, subject: 'Gauge 14' });
    expect(full.besides.map(({ title }) => title)).toEqual(['Ask for the gauge']);
    expect(full.history[0]).toMatchObject({ by: 'you', what: 'made from the message' });
  });

  it('can be taken back and done again where it is from before a column was there', async () => {
    const id = await one('From before');
    await database(server).query(
      `UPDATE "entry" SET "changes" = json_remove("changes", '$[0].after.links', '$[0].after.repeatFrom')
       WHERE "revision" = (SELECT max("revision") FROM "entry_about" WHERE "rowId" = ?)`,
      [id],
    );
    await undo();
    await maren.post('/decisions/redo');
    expect(await open(id)).toMatchObject({ title: 'From before', links: [], repeatFrom: 'schedule' });
  });

  it('is found by the index of the log, which follows what is taken out of the log', async () => {
    const id = await one('Oil the tools');
    const rows = () => database(server).query<unknown[]>(`SELECT * FROM "entry_about" WHERE "rowId" = ?`, [id]);
    expect(await rows()).toHaveLength(1);
    await database(server).query(
      `DELETE FROM "entry" WHERE "revision" IN (SELECT "revision" FROM "entry_about" WHERE "rowId" = ?)`,
      [id],
    );
    expect(await rows()).toHaveLength(0);
    expect((await open(id)).history).toEqual([]);
  });
});
