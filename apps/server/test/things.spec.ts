import { type Caller, clear, startServer, type Page, type Running, firstAccount } from './harness';

interface Task {
  id: string;
  title: string;
  listId: string | null;
  tags: string[];
  priority: string;
  estimate: number | null;
  status: string;
  completed: string | null;
  plannedDay: string | null;
  plannedWeek: string | null;
  deadline: string | null;
  deadlineFixed: boolean;
  repeat: string | null;
  shelved: boolean;
  waitingOn: string | null;
  version: number;
  blocks: { id: string; start: string; end: string }[];
}

interface Failure {
  error: { code: string; message: string; fields?: Record<string, string>; present?: { title?: string } };
}

let server: Running;
let maren: Caller;

beforeAll(async () => {
  server = await startServer('empty');
  maren = await firstAccount(server);
});

afterAll(async () => {
  await server.stop();
  clear(server.data);
});

const capture = async (text: string) =>
  (await maren.post<{ kind: string; id: string; made: { kind: string; id: string }[] }>('/captures', { text })).body;
const taskOf = async (made: { kind: string; id: string }[]) => {
  const id = made.find((thing) => thing.kind === 'task')?.id;
  return (await maren.get<Task>(`/tasks/${id}`)).body;
};

describe('lists', () => {
  it('get a code of their own, and a name only once', async () => {
    for (const name of ['Permits', 'People', 'Pe']) expect((await maren.post('/lists', { name })).status).toBe(201);
    const { body } = await maren.get<{ name: string; code: string }[]>('/lists');
    expect(body.map((list) => [list.name, list.code])).toEqual([
      ['Permits', 'PE'],
      ['People', 'P1'],
      ['Pe', 'P2'],
    ]);
    const again = await maren.post<Failure>('/lists', { name: 'permits' });
    expect([again.status, again.body.error.fields]).toEqual([422, { name: 'There is a list “permits” already.' }]);
    expect((await maren.post('/lists', { name: '   ' })).status).toBe(422);
  });

  it('count what is open on them', async () => {
    await capture('Ask for the form >Permits');
    const { made } = await capture('Ask for the map >Permits');
    const open = async () =>
      (await maren.get<{ name: string; open: number }[]>('/lists')).body.find((list) => list.name === 'Permits')?.open;
    expect(await open()).toBe(2);
    const task = await taskOf(made);
    await maren.patch(`/tasks/${task.id}`, { status: 'COMPLETED' });
    expect(await open()).toBe(1);
  });
});

describe('captured tasks', () => {
  it('keep everything that was said', async () => {
    const { kind, made } = await capture('Send the map due Friday 17:00 for 45 min #write #call ++ >Permits');
    expect(kind).toBe('task');
    expect(await taskOf(made)).toMatchObject({
      title: 'Send the map',
      tags: ['write', 'call'],
      priority: 'high',
      estimate: 45,
      deadline: '2026-08-07T17:00',
      deadlineFixed: true,
      plannedDay: null,
    });
    expect((await maren.get<{ name: string }[]>('/tags')).body.map((tag) => tag.name)).toEqual(['call', 'write']);
  });

  it('in a week have no day, and with a time have a block', async () => {
    expect(await taskOf((await capture('Sort photos in week 34')).made)).toMatchObject({
      plannedDay: null,
      plannedWeek: '2026-W34',
    });
    const timed = await taskOf((await capture('Walk the bank Thursday 13:15 for 1h30')).made);
    expect(timed).toMatchObject({
      plannedDay: '2026-08-06',
      estimate: 90,
      blocks: [{ start: '2026-08-06T13:15:00+02:00', end: '2026-08-06T14:45:00+02:00' }],
    });
  });

  it('that repeat begin on the first day that the rule names', async () => {
    expect(await taskOf((await capture('Water the plugs every Thursday')).made)).toMatchObject({
      plannedDay: '2026-08-06',
      repeat: 'FREQ=WEEKLY;BYDAY=TH',
    });
    expect(await taskOf((await capture('Read the gauge every day')).made)).toMatchObject({ plannedDay: '2026-08-03' });
    expect(await taskOf((await capture('Pay every last Friday')).made)).toMatchObject({ plannedDay: '2026-08-28' });
  });

  it('without a list keep the words that name none', async () => {
    const { kind } = await capture('Buy twine >Nowhere');
    expect(kind).toBe('incoming');
    const { body } = await maren.get<Page>('/incoming');
    expect(body.items[0]?.subject).toBe('Buy twine >Nowhere');
  });

  it('from a web page keep its address and the selected text', async () => {
    const made = await maren.post<{ id: string }>('/captures', {
      text: 'Read this',
      url: 'https://fen.example/peat',
      note: 'Peat keeps water.',
    });
    const { body } = await maren.get<{ text: string }>(`/incoming/${made.body.id}`);
    expect(body.text).toBe('Read this\n\nPeat keeps water.\n\nhttps://fen.example/peat');
    expect((await maren.post('/captures', { text: 'x', url: 'javascript:alert(1)' })).status).toBe(400);
  });
});

describe('captured events', () => {
  it('go to the main calendar, which is made when there is none', async () => {
    const { kind, id } = await capture('Lunch with Ines Thursday 12:30-13:30');
    expect(kind).toBe('event');
    const { body } = await maren.get<{ entries: { id: string; start: string; end: string; calendar: string }[] }>(
      '/agenda?from=2026-08-06',
    );
    expect(body.entries.find((one) => one.id === id)).toMatchObject({
      start: '2026-08-06T12:30:00+02:00',
      end: '2026-08-06T13:30:00+02:00',
      calendar: 'Mine',
    });
  });

  it('that end after midnight end on the next day, and repeating ones repeat', async () => {
    const { id } = await capture('Party Saturday 22:00-02:00');
    const { body } = await maren.get<{ entries: { id: string; end: string }[] }>('/agenda?from=2026-08-08');
    expect(body.entries.find((one) => one.id === id)?.end).toBe('2026-08-09T02:00:00+02:00');
    const repeating = await capture('Meeting every Monday 10 Aug 9:00-9:30');
    const weeks = await Promise.all(
      ['2026-08-10', '2026-08-17'].map((day) => maren.get<{ entries: { id: string }[] }>(`/agenda?from=${day}`)),
    );
    expect(weeks.map((week) => week.body.entries.some((one) => one.id === repeating.id))).toEqual([true, true]);
  });

  it('can be taken out of the calendar again', async () => {
    const { id } = await capture('Workshop 21 August 10:00-12:00');
    expect((await maren.call('DELETE', `/api/events/${id}`)).status).toBe(200);
    const { body } = await maren.get<{ entries: { id: string }[] }>('/agenda?from=2026-08-21');
    expect(body.entries.some((one) => one.id === id)).toBe(false);
  });
});

describe('changing a task', () => {
  it('refuses an old version and shows the present state', async () => {
    const task = await taskOf((await capture('Repair the gate tomorrow')).made);
    expect((await maren.patch(`/tasks/${task.id}`, { title: 'Repair both gates', version: task.version })).status).toBe(200);
    const { status, body } = await maren.patch<Failure>(`/tasks/${task.id}`, { title: 'Repair no gate', version: task.version });
    expect([status, body.error.code, body.error.present?.title]).toEqual([409, 'changed-meanwhile', 'Repair both gates']);
  });

  it('changes only what is said', async () => {
    const before = await taskOf((await capture('Count orchids tomorrow for 30 min #survey by Friday')).made);
    await maren.patch(`/tasks/${before.id}`, { estimate: 60 });
    const { estimate, version: _version, ...rest } = (await maren.get<Task & { history: unknown }>(`/tasks/${before.id}`)).body;
    expect(estimate).toBe(60);
    expect(rest).toEqual({ ...before, estimate: undefined, version: undefined, history: rest.history });
  });

  it('gives a day or a week, never both', async () => {
    const task = await taskOf((await capture('Plan the count tomorrow')).made);
    await maren.patch(`/tasks/${task.id}`, { plannedWeek: '2026-W35' });
    expect((await maren.get<Task>(`/tasks/${task.id}`)).body).toMatchObject({ plannedDay: null, plannedWeek: '2026-W35' });
    await maren.patch(`/tasks/${task.id}`, { plannedDay: '2026-08-12' });
    expect((await maren.get<Task>(`/tasks/${task.id}`)).body).toMatchObject({ plannedDay: '2026-08-12', plannedWeek: null });
  });

  it.each<[object, string]>([
    [{ plannedDay: '2026-02-30' }, '2026-02-30 is not a day in the calendar.'],
    [{ plannedWeek: '2026-W60' }, '2026-W60 is not a week in the calendar.'],
    [{ deadline: '2026-06-31' }, '2026-06-31 is not a date.'],
    [{ list: 'Nowhere' }, 'There is no list “Nowhere”.'],
    [{ estimate: 0 }, 'The duration is a whole number of minutes from 1 to 6000.'],
    [{ title: '' }, 'The title has 1 to 500 characters.'],
    [{ colour: 'red' }, 'There is no field called "colour".'],
  ])('refuses %j with a sentence', async (change, sentence) => {
    const task = await taskOf((await capture('Something tomorrow')).made);
    const { status, body } = await maren.patch<Failure>(`/tasks/${task.id}`, change);
    expect([status >= 400, body.error.message]).toEqual([true, sentence]);
    expect((await maren.get<Task>(`/tasks/${task.id}`)).body.version).toBe(task.version);
  });

  it('ticked and opened again keeps no trace of having been done', async () => {
    const task = await taskOf((await capture('Sweep the hut tomorrow')).made);
    await maren.patch(`/tasks/${task.id}`, { status: 'COMPLETED' });
    expect((await maren.get<Task>(`/tasks/${task.id}`)).body.completed).toMatch(/^2026-08-03T/);
    await maren.patch(`/tasks/${task.id}`, { status: 'NEEDS-ACTION' });
    expect((await maren.get<Task>(`/tasks/${task.id}`)).body.completed).toBeNull();
  });
});

describe('blocks', () => {
  it('can be many for one task, move its day only when it stood on it, and give their time back', async () => {
    const task = await taskOf((await capture('Write the report 10 August 9:00 for 2h')).made);
    const second = await maren.post<{ made: { id: string }[] }>('/blocks', {
      taskId: task.id,
      start: '2026-08-11T09:00',
      minutes: 60,
    });
    expect((await maren.get<Task>(`/tasks/${task.id}`)).body).toMatchObject({ plannedDay: '2026-08-10', blocks: [{}, {}] });
    await maren.patch(`/blocks/${second.body.made[0]?.id}`, { start: '2026-08-12T09:00', minutes: 60 });
    expect((await maren.get<Task>(`/tasks/${task.id}`)).body.plannedDay).toBe('2026-08-10');
    await maren.patch(`/blocks/${task.blocks[0]?.id}`, { start: '2026-08-13T09:00', minutes: 60 });
    expect((await maren.get<Task>(`/tasks/${task.id}`)).body.plannedDay).toBe('2026-08-13');
    await maren.call('DELETE', `/api/blocks/${task.blocks[0]?.id}`);
    expect((await maren.get<Task>(`/tasks/${task.id}`)).body.blocks).toHaveLength(1);
  });

  it.each<[object, number]>([
    [{ start: 'soon', minutes: 30 }, 400],
    [{ start: '2026-08-10T09:00', minutes: 0 }, 400],
    [{ start: '2026-08-10T09:00', minutes: 2000 }, 400],
    [{ start: '2026-08-10T09:00' }, 400],
  ])('refuse %j', async (body, status) => {
    const task = await taskOf((await capture('A thing tomorrow')).made);
    expect((await maren.post('/blocks', { taskId: task.id, ...body })).status).toBe(status);
    expect((await maren.post('/blocks', { taskId: 'nosuchtask', start: '2026-08-10T09:00', minutes: 30 })).status).toBe(404);
  });
});

describe('calendars', () => {
  it('that do not count leave their time free, and those that are only hidden do not', async () => {
    await capture('Meeting 24 August 10:00-12:00');
    const [calendar] = (await maren.get<{ id: string }[]>('/calendars')).body;
    const day = async () => {
      const { body } = await maren.get<{ days: { gaps: unknown[]; entries: unknown[]; load: { meetings: number } }[] }>(
        '/days?from=2026-08-24&days=1',
      );
      return [body.days[0]?.load.meetings, body.days[0]?.gaps.length];
    };
    expect(await day()).toEqual([120 + 30, 2]);
    await maren.patch(`/calendars/${calendar?.id}`, { busy: false });
    expect(await day()).toEqual([0, 1]);
    await maren.patch(`/calendars/${calendar?.id}`, { busy: true, shown: false });
    expect(await day()).toEqual([120 + 30, 2]);
    await maren.patch(`/calendars/${calendar?.id}`, { shown: true });
    expect(await day()).toEqual([120 + 30, 2]);
  });
});
