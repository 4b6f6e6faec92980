import type { DayLogInfo, Done, LogEntryInfo } from '@corvun/contract';
import { Entry } from '../src/kernel/entry.entity';
import { OutboxEntry } from '../src/sources/outbox.entity';
import { database, ownServer, sendMail, until, type Page } from './harness';

// It is Monday, 3 August 2026, 10:50 in Vienna.
const here = ownServer('test');
const TODAY = '2026-08-03';
const log = async (day = TODAY) => (await here.maren.get<DayLogInfo>(`/log?day=${day}`)).body.entries;
const find = async (words: string) => (await here.maren.get<DayLogInfo[]>(`/log/find?q=${encodeURIComponent(words)}`)).body;
const told = (entries: readonly LogEntryInfo[]) =>
  entries.map(({ kind, at, title, text }) => [kind, at?.slice(11, 16) ?? '', title, text]);
const task = async (line: string, change: object = {}) => {
  const id = (await here.maren.post<{ ids: string[] }>('/tasks', { lines: [line] })).body.ids[0] ?? '';
  if (Object.keys(change).length) await here.maren.patch(`/tasks/${id}`, change);
  return id;
};
const spend = (id: string, start: string, minutes: number) => here.maren.post<Done>(`/tasks/${id}/time`, { start, minutes });
const done = (id: string) => here.maren.patch(`/tasks/${id}`, { status: 'COMPLETED' });
const event = (input: object) => here.maren.post('/events', { minutes: 30, ...input });
const line = (input: object) => here.maren.post<{ id: string; decision: string }>('/log/lines', { day: TODAY, ...input });
const undo = () => here.maren.post('/decisions/undo');
const markdown = async (query: string) => {
  const response = await fetch(`${here.server.url}/api/log/out?${query}`, { headers: here.maren.signedHeaders() });
  return { status: response.status, name: response.headers.get('content-disposition'), text: await response.text() };
};

it('tells what was attended, done, worked on, decided and written, in order, each with its way back', async () => {
  await event({ title: 'Stand-up', start: '2026-08-03T09:00', guests: ['Anna <anna@x.example>', 'Oda <oda@x.example>'] });
  await event({ title: 'Runs still', start: '2026-08-03T10:30', minutes: 60 });
  await event({ title: 'Volunteer day', start: TODAY, allDay: true, showAs: 'busy' });
  const quote = await task('Read the quote', { estimate: 30 });
  await spend(quote, '2026-08-03T09:40', 45);
  await done(quote);
  const chapter = await task('Results chapter', { estimate: 240 });
  await spend(chapter, '2026-08-02T15:00', 30);
  await spend(chapter, '2026-08-03T08:00', 40);
  await spend(chapter, '2026-08-03T10:30', 20);
  await here.maren.post('/notes', { title: 'Boat' });
  await line({ text: 'Fog until nine', time: '07:45' });
  await line({ text: 'A good day' });
  const entries = await log();
  expect(told(entries)).toEqual([
    ['attended', '', 'Volunteer day', 'all day'],
    ['line', '07:45', 'Fog until nine', ''],
    ['spent', '08:00', 'Results chapter', '1 h of 4 h, 1 h 30 in all, still open'],
    ['attended', '09:00', 'Stand-up', 'attended, 30 min, with Anna, Oda'],
    ['done', '09:40', 'Read the quote', 'done, planned 30 min, took 45 min'],
    ['written', '10:50', 'Boat', 'a page was begun'],
    ['line', '', 'A good day', ''],
  ]);
  expect(entries.find(({ kind }) => kind === 'done')?.thing).toEqual({ kind: 'task', id: quote, occurrence: null });
  expect(told(await log('2026-08-02'))).toEqual([
    ['spent', '15:00', 'Results chapter', '30 min of 4 h, 1 h 30 in all, still open'],
  ]);
  expect(await log('2026-08-01')).toEqual([]);
});

it('what is for whole days stands on each of them that has begun', async () => {
  const camp = { title: 'Volunteer camp', start: '2026-08-01', end: '2026-08-05', allDay: true, showAs: 'busy' };
  await here.maren.post('/events', camp);
  const on = async (day: string) => told(await log(day)).map(([, , title]) => title);
  expect(await on('2026-07-31')).toEqual([]);
  for (const day of ['2026-08-01', '2026-08-02', TODAY]) expect([day, await on(day)]).toEqual([day, ['Volunteer camp']]);
  expect(await on('2026-08-04')).toEqual([]);
});

it('a step is told with its task where both were done, else by itself', async () => {
  const fence = await task('Mend the fence');
  const lines = ['Set the posts', 'Pull the wire'];
  const [posts = '', wire = ''] = (await here.maren.post<{ ids: string[] }>('/tasks', { lines, parent: fence })).body.ids;
  await spend(posts, '2026-08-03T08:00', 40);
  await done(posts);
  expect(told(await log())).toEqual([['done', '08:00', 'Set the posts', 'done, took 40 min, a step of “Mend the fence”']]);
  await done(wire);
  await done(fence);
  const [entry, ...more] = await log();
  expect([entry?.title, more]).toEqual(['Mend the fence', []]);
  expect(entry?.parts.map(({ title, text }) => [title, text])).toEqual([
    ['Set the posts', 'done, took 40 min'],
    ['Pull the wire', 'done'],
  ]);
});

it('decisions of one go are one entry, with each of them below; what is taken back is gone', async () => {
  for (const subject of ['Gate key', 'Seed order', 'Newsletter'])
    await sendMail(here.server.smtpPort, {
      to: 'maren@alderfen.example',
      raw: `From: Ines <ines@aalto-timber.example>\r\nSubject: ${subject}\r\n\r\nHello`,
    });
  const items = await until(async () => {
    const { body } = await here.maren.get<Page>('/incoming');
    return body.items.length === 3 && body.items;
  }, 'three mails');
  const decide = (at: number, to: string) => here.maren.post('/decisions', { incoming: [items[at]?.id], to });
  await decide(0, 'drop');
  await decide(1, 'drop');
  await decide(2, 'reference');
  const [entry, ...more] = await log();
  expect(more).toEqual([]);
  expect(entry).toMatchObject({
    kind: 'sorted',
    title: 'Sorted 3 incoming',
    text: '1 kept for reference, 2 dropped',
    thing: null,
  });
  expect(entry?.parts.map(({ title, text, thing }) => [title, text, thing?.kind])).toEqual([
    ['Gate key', 'dropped', 'incoming'],
    ['Seed order', 'dropped', 'incoming'],
    ['Newsletter', 'kept for reference', 'incoming'],
  ]);
  await undo();
  await undo();
  expect(told(await log())).toEqual([['sorted', '10:50', 'Gate key', 'sorted: dropped']]);
});

it('what went out is told once it is sent, but not what Corvun mails to oneself', async () => {
  const rows = database(here.server).getRepository(OutboxEntry);
  const { id: owner } = (await here.maren.get<{ id: string }>('/me')).body;
  const mail = (id: string, to: string, sentAt: number | null) => ({
    ...{ id, ownerId: owner, version: 1, created: 0, changed: 0, sourceId: null, counterpartId: null, kind: 'mail' as const },
    ...{
      what: `Mail ${id}`,
      state: sentAt === null ? ('waiting' as const) : ('sent' as const),
      attempts: 1,
      nextTry: 0,
      problem: '',
    },
    ...{ sentAt, payload: { to: [{ name: '', address: to }], from: { name: '', address: 'maren@alderfen.example' } } },
  });
  const at = Date.UTC(2026, 7, 3, 7, 15);
  await rows.insert([
    mail('one', 'oda@x.example', at),
    mail('two', 'oda@x.example', null),
    mail('self', 'maren@alderfen.example', at),
  ]);
  expect(told(await log())).toEqual([['sent', '09:15', 'Mail one', 'sent']]);
});

it('passes of a day are told', async () => {
  const pass = (await here.maren.post<{ id: string }>('/passes', { kind: 'close-day' })).body.id;
  await here.maren.patch(`/passes/${pass}`, { state: 'done' });
  expect(told(await log())).toEqual([['pass', '10:50', 'The day was closed', '']]);
});

it('a line is written, changed, taken away and taken back; what is none is refused', async () => {
  const { id } = (await line({ text: '  Fog  ' })).body;
  await here.maren.patch(`/log/lines/${id}`, { text: 'Fog until ten' });
  expect(told(await log())).toEqual([['line', '', 'Fog until ten', '']]);
  expect((await here.maren.remove(`/log/lines/${id}`)).status).toBe(200);
  expect(await log()).toEqual([]);
  await undo();
  await undo();
  expect(told(await log())).toEqual([['line', '', 'Fog', '']]);
  expect((await line({ text: '   ' })).status).toBe(400);
  expect((await line({ text: 'Fog', time: '25:00' })).status).toBe(400);
  expect((await line({ text: 'Fog', day: '2026-02-30' })).status).toBe(400);
  expect((await here.maren.patch(`/log/lines/aaaaaaaaaaaaaaaaaaaa`, { text: 'x' })).status).toBe(404);
});

it('is searched: days with what was, of every kind, the latest first', async () => {
  await event({ title: 'Boat inspection', start: '2026-07-06T09:00', repeat: 'FREQ=WEEKLY' });
  const boat = await task('Paint the boat');
  await spend(boat, '2026-07-21T15:00', 30);
  await done(boat);
  await task('Sell the boat');
  await line({ day: '2026-07-30', text: 'The boat leaks' });
  await here.maren.post('/notes', { title: 'Boats we like' });
  expect((await find('boat')).map(({ day, entries }) => [day, entries.map(({ title }) => title).sort()])).toEqual([
    ['2026-08-03', ['Boat inspection', 'Boats we like', 'Paint the boat']],
    ['2026-07-30', ['The boat leaks']],
    ['2026-07-27', ['Boat inspection']],
    ['2026-07-21', ['Paint the boat']],
    ['2026-07-20', ['Boat inspection']],
    ['2026-07-13', ['Boat inspection']],
    ['2026-07-06', ['Boat inspection']],
  ]);
  expect(await find('submarine')).toEqual([]);
  expect((await find('"boat leaks"')).map(({ day }) => day)).toEqual(['2026-07-30']);
});

it('goes out as Markdown, a day or many', async () => {
  await line({ text: 'Fog until *nine*', time: '07:45' });
  await line({ day: '2026-07-30', text: 'The boat leaks' });
  const one = await markdown('from=2026-08-03&to=2026-08-03');
  expect([one.name, one.text]).toEqual([
    'attachment; filename="day log 2026-08-03.md"',
    '# Mon 3 Aug 2026\n\n- 7:45 Fog until \\*nine\\*\n',
  ]);
  const many = await markdown('from=2026-07-01&to=2026-08-03');
  expect(many.text).toBe('# Thu 30 Jul 2026\n\n- The boat leaks\n\n# Mon 3 Aug 2026\n\n- 7:45 Fog until \\*nine\\*\n');
  expect((await markdown('from=2026-08-03&to=2026-08-01')).status).toBe(422);
  expect((await markdown('from=2020-08-03&to=2026-08-01')).status).toBe(422);
});

it('a page stands on each day on which it was written, and not where that was taken back', async () => {
  const { id } = (await here.maren.post<{ id: string }>('/notes', { title: 'Reed' })).body;
  const entries = database(here.server).getRepository(Entry);
  /** Writes on it as if on an earlier day. */
  const write = async (text: string, at: string) => {
    const { decision } = (await here.maren.patch<Done>(`/notes/${id}`, { text })).body;
    await entries.update({ id: decision }, { at: Date.parse(at) });
  };
  const told = async (day: string) => (await log(day)).filter(({ title }) => title === 'Reed').map(({ text }) => text);
  await write('one', '2026-07-13T09:00:00+02:00');
  await write('two', '2026-07-13T11:00:00+02:00');
  await write('three', '2026-07-14T11:00:00+02:00');
  await undo();
  expect(await told('2026-07-13')).toEqual(['written on']);
  expect((await log('2026-07-13')).find(({ title }) => title === 'Reed')?.at).toMatch(/T11:00/);
  expect(await told('2026-07-14')).toEqual([]);
  expect(await told(TODAY)).toEqual(['a page was begun']);
});
