import { Caller, clear, firstAccount, sendMail, startServer, type Page, type Running } from './harness';

interface Task {
  id: string;
  title: string;
  notes: string;
  parentId: string | null;
  incomingId: string | null;
  listId: string | null;
  status: string;
  spent: number;
  estimate: number | null;
  repeat: string | null;
  waitingOn: string | null;
  deadline: string | null;
  deadlineFixed: boolean;
  attachmentList: { id: string; name: string }[];
  blocks: { start: string; end: string }[];
}
interface Full {
  state: string;
  attachmentList: { id: string; name: string }[];
  person: { name: string; messages: number } | null;
  made: { kind: string; id: string; title: string }[];
}
interface Note {
  id: string;
  title: string;
  text: string;
  version: number;
  from: { id: string; attachmentList: { name: string }[] }[];
}
interface Decided {
  sentence: string;
  made: { kind: string; id: string; title: string }[];
  error?: { message: string; fields?: Record<string, string> };
}

let server: Running;
let maren: Caller;

const withFiles = (subject: string) =>
  [
    'From: Ines Aalto <ines@aalto-timber.example>',
    'To: maren@capture.example',
    `Subject: ${subject}`,
    'MIME-Version: 1.0',
    'Content-Type: multipart/mixed; boundary=b',
    '',
    '--b',
    'Content-Type: text/plain; charset=utf-8',
    '',
    'Could you choose the boards? * One * or [two](x)',
    '- no list',
    '1. none either',
    '===',
    '--b',
    'Content-Type: application/pdf; name="quote.pdf"',
    'Content-Disposition: attachment; filename="quote.pdf"',
    '',
    'quote',
    '--b',
    'Content-Type: text/plain; name="terms.txt"',
    'Content-Disposition: attachment; filename="terms.txt"',
    '',
    'terms',
    '--b--',
    '',
  ].join('\r\n');

async function arrive(subject: string): Promise<string> {
  await sendMail(server.smtpPort, { to: 'maren@capture.example', raw: withFiles(subject) });
  const { body } = await maren.get<Page>('/incoming?limit=500');
  return body.items.find((line) => line.subject === subject)?.id ?? '';
}
const decide = (incoming: string, more: object) => maren.post<Decided>('/decisions', { incoming: [incoming], ...more });
const tasks = async () => (await maren.get<Task[]>('/tasks')).body;
const taskOf = async (id: string) => (await tasks()).find((task) => task.incomingId === id);
const full = async (id: string) => (await maren.get<Full>(`/incoming/${id}`)).body;
const undo = () => maren.post('/decisions/undo');

beforeAll(async () => {
  server = await startServer('empty');
  maren = await firstAccount(server);
  await maren.post('/lists', { name: 'Boardwalk repair' });
});
afterAll(async () => {
  await server.stop();
  clear(server.data);
});

describe('before it leaves, a task', () => {
  it('is given notes, steps, a repeat and its deadline’s kind, and undo takes all of it back', async () => {
    const id = await arrive('Boards');
    await decide(id, {
      to: 'list',
      list: 'Boardwalk repair',
      notes: 'Larch or oak.',
      steps: ['Measure', 'Order'],
      repeat: 'FREQ=MONTHLY',
      deadline: '2026-08-14',
      fixed: true,
      priority: 'high',
      tags: ['money'],
    });
    const task = await taskOf(id);
    expect(task).toMatchObject({
      notes: 'Larch or oak.',
      repeat: 'FREQ=MONTHLY',
      deadline: '2026-08-14',
      deadlineFixed: true,
      priority: 'high',
      tags: ['money'],
    });
    const steps = (await tasks()).filter((one) => one.parentId === task?.id);
    expect(steps.map((one) => [one.title, one.listId])).toEqual([
      ['Measure', task?.listId],
      ['Order', task?.listId],
    ]);
    await undo();
    expect((await tasks()).some((one) => one.id === task?.id || one.parentId === task?.id)).toBe(false);
  });

  it('carries the attachments along that are kept, all when nothing is said, none when none is', async () => {
    const [one, all, none] = [await arrive('Keep one'), await arrive('Keep all'), await arrive('Keep none')];
    const [quote] = (await full(one)).attachmentList;
    await decide(one, { to: 'shelf', keep: [quote?.id] });
    await decide(all, { to: 'shelf' });
    await decide(none, { to: 'shelf', keep: [] });
    const names = async (id: string) => (await taskOf(id))?.attachmentList.map((file) => file.name);
    expect(await names(one)).toEqual(['quote.pdf']);
    expect(await names(all)).toEqual(['quote.pdf', 'terms.txt']);
    expect(await names(none)).toEqual([]);
    expect((await full(one)).attachmentList).toHaveLength(2);
  });

  it.each<[object, RegExp]>([
    [{ keep: ['nothing-like-it'] }, /no attachment/],
    [{ repeat: 'weekly' }, /FREQ=/],
    [{ steps: [''] }, /1 to 500/],
    [{ deadline: '2026-02-30' }, /not a date/],
  ])('is refused with %j, and stays in the inbox', async (more, message) => {
    const id = await arrive(`Refused ${JSON.stringify(more)}`);
    const { status, body } = await decide(id, { to: 'shelf', ...more });
    expect([400, 422]).toContain(status);
    expect(JSON.stringify(body.error)).toMatch(message);
    expect((await full(id)).state).toBe('waiting');
  });
});

describe('time', () => {
  it('is several blocks for one task, in order, and one undo takes them back', async () => {
    const id = await arrive('Chapter two');
    const slots = [
      { start: '2026-08-05T14:00', minutes: 60 },
      { start: '2026-08-04T09:00', minutes: 90 },
    ];
    const { body } = await decide(id, { to: 'time', slots });
    expect(body.sentence).toMatch(/has 2 blocks of time, the first on Tue 4 Aug at 9:00, 2 h 30 in all$/);
    const task = await taskOf(id);
    expect(task?.estimate).toBe(150);
    expect(task?.blocks.map((block) => block.start.slice(0, 16))).toEqual(['2026-08-04T09:00', '2026-08-05T14:00']);
    await undo();
    expect(await taskOf(id)).toBeUndefined();
  });

  it('cannot be the same twice', async () => {
    const id = await arrive('Twice');
    const slots = [
      { start: '2026-08-05T14:00', minutes: 60 },
      { start: '2026-08-05T14:30', minutes: 60 },
    ];
    expect((await decide(id, { to: 'time', slots })).body.error?.fields).toEqual({
      slots: 'Two of the blocks are at the same time.',
    });
    expect((await decide(id, { to: 'time', slots: [{ start: 'soon', minutes: 5 }] })).status).toBe(400);
  });
});

describe('hand over, person and done', () => {
  it('waits on somebody until a day', async () => {
    const id = await arrive('Ask the crew');
    const { body } = await decide(id, { to: 'hand-over', with: 'Jonas', deadline: '2026-08-07' });
    expect(body.sentence).toMatch(/waits on Jonas, until Fri 7 Aug$/);
    expect(await taskOf(id)).toMatchObject({ waitingOn: 'Jonas', deadline: '2026-08-07' });
  });

  it('a new sender becomes a card, the next message shows it, and what they wrote waits', async () => {
    const [first, second] = [await arrive('Hello'), await arrive('Hello again')];
    expect((await full(second)).person).toBeNull();
    await decide(first, { to: 'person' });
    expect(await full(first)).toMatchObject({ state: 'waiting', person: { name: 'Ines Aalto' } });
    expect((await maren.get<object[]>('/people')).body).toMatchObject([
      { name: 'Ines Aalto', address: 'ines@aalto-timber.example' },
    ]);
    expect((await full(second)).person).toMatchObject({ name: 'Ines Aalto', messages: expect.any(Number) as number });
    expect((await decide(second, { to: 'person' })).body.sentence).toMatch(/is from Ines Aalto, known already/);
    // The second made nothing, so what is taken back is the card.
    expect((await maren.post('/decisions/undo')).status).toBe(200);
    for (const id of [first, second]) expect(await full(id)).toMatchObject({ state: 'waiting', person: null });
  });

  it('done counts its minutes', async () => {
    const id = await arrive('Rang them');
    expect((await decide(id, { to: 'done', minutes: 5 })).body.sentence).toMatch(/is done, 5 min$/);
    expect(await taskOf(id)).toMatchObject({ status: 'COMPLETED', spent: 5 });
  });
});

describe('a reference', () => {
  it('is written into a new note, the next one into the same, each with its original', async () => {
    const [one, two] = [await arrive('Board prices'), await arrive('More prices')];
    const { body } = await decide(one, { to: 'reference', note: 'Timber' });
    expect(body.sentence).toMatch(/is in the note “Timber”$/);
    const note = body.made.find((made) => made.kind === 'note');
    await decide(two, { to: 'reference', note: note?.id, title: 'More of them' });
    const page = (await maren.get<Note>(`/notes/${note?.id}`)).body;
    expect(page.from.map((from) => from.id)).toEqual([one, two]);
    expect(page.from[0]?.attachmentList.map((file) => file.name)).toEqual(['quote.pdf', 'terms.txt']);
    expect(page.text).toContain(`[the original](/sort/${one})`);
    expect(page.text).toContain('## More of them');
    expect(page.text).toContain(
      ['> Could you choose the boards? \\* One \\* or \\[two\\](x)', '> \\- no list', '> 1\\. none either', '> \\==='].join('\n'),
    );
    expect((await full(two)).made).toMatchObject([{ kind: 'note', id: note?.id }]);
    await undo();
    expect((await maren.get<Note>(`/notes/${note?.id}`)).body.from).toHaveLength(1);
    await undo();
    expect((await maren.get(`/notes/${note?.id}`)).status).toBe(404);
    expect((await full(one)).state).toBe('waiting');
  });

  it('is only kept when no note is named', async () => {
    const id = await arrive('Keep this');
    await decide(id, { to: 'reference' });
    expect((await full(id)).made).toMatchObject([{ kind: 'reference', id }]);
    expect((await maren.get<Note[]>('/notes')).body).toEqual([]);
  });
});

describe('notes', () => {
  it('are written, found, refused when changed meanwhile, and taken away with undo', async () => {
    const { body } = await maren.post<{ id: string }>('/notes', { title: ' Field hut ' });
    const note = async () => (await maren.get<Note>(`/notes/${body.id}`)).body;
    expect((await note()).title).toBe('Field hut');
    await maren.patch(`/notes/${body.id}`, { text: 'The key hangs behind the *barometer*.', version: 1 });
    expect((await maren.patch(`/notes/${body.id}`, { text: 'late', version: 1 })).status).toBe(409);
    const found = await maren.get<{ found: { id: string; thing: string }[] }>('/find?q=barometer');
    expect(found.body.found).toMatchObject([{ id: body.id, thing: 'note' }]);
    const only = await maren.get<{ found: { id: string }[] }>(`/find?q=${encodeURIComponent('hut +note')}`);
    expect(only.body.found.map((one) => one.id)).toEqual([body.id]);
    expect((await maren.patch(`/notes/${body.id}`, { title: '  ' })).status).toBe(422);
    await maren.remove(`/notes/${body.id}`);
    expect((await maren.get(`/notes/${body.id}`)).status).toBe(404);
    await undo();
    expect((await note()).text).toContain('barometer');
  });

  it('are nobody else’s', async () => {
    const { body } = await maren.post<{ id: string }>('/notes', { title: 'Mine' });
    expect((await new Caller(server.url).get(`/notes/${body.id}`)).status).toBe(401);
  });
});
