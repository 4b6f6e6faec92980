import type {
  AgendaEntry,
  CalendarInfo,
  DecisionAnswer,
  ListInfo,
  OutboxInfo,
  SourceInfo,
  SourceLook,
  TaskInfo,
} from '@corvun/contract';
import { vevent, vtodo } from '../../../testing/calendar-object';
import { Radicale, radicaleIsHere } from '../../../testing/radicale';
import { ownServer, sendMail, until, type Line, type Page } from './harness';

const here = ownServer('test', { CORVUN_ALLOW_PRIVATE: '1' });
const walk = (...more: string[]) =>
  vevent('walk', 'SUMMARY:Site walk', 'DTSTART:20260804T080000Z', 'DTEND:20260804T090000Z', 'X-GAUGE:north', ...more);

const account = { kind: 'account', name: 'Office calendars', account: 'maren', secret: 'fen-water' };
const sources = async () => (await here.maren.get<SourceInfo[]>('/sources')).body;
const one = async () => (await sources())[0] as SourceInfo;
const agenda = async () => (await here.maren.get<{ entries: AgendaEntry[] }>('/agenda?from=2026-08-03&days=14')).body.entries;
const titles = async () => (await agenda()).filter(({ kind }) => kind === 'event').map(({ title, start }) => `${title} ${start}`);
const tasks = async () => (await here.maren.get<TaskInfo[]>('/tasks')).body;
const waiting = async () =>
  (await here.maren.get<OutboxInfo[]>('/outbox')).body.filter(({ state, kind }) => state === 'waiting' && kind === 'entry');
const conflicts = async () => (await here.maren.get<Page>('/incoming?limit=50')).body.items as (Line & { kind: string })[];

async function connect(url: string): Promise<string> {
  const answer = await here.maren.post<SourceInfo>('/sources', {
    ...account,
    address: url,
    settings: { collections: (await look(url)).body.settings.collections },
  });
  await until(async () => (await one()).lastSuccess || (await one()).problem, 'a first look');
  expect((await one()).problem).toBe('');
  return answer.body.id;
}
const look = (url: string, more: object = {}) =>
  here.maren.post<SourceLook>('/sources/look', { ...account, address: url, ...more });
async function again(): Promise<void> {
  const before = (await one()).lastTry;
  await here.maren.post(`/sources/${(await one()).id}/run`);
  await until(async () => (await one()).progress === null && (await one()).lastTry !== before, 'the end of the look');
}
const sent = () => until(async () => (await waiting()).length === 0, 'everything to be sent');

const suite = radicaleIsHere ? describe : describe.skip;

suite('a calendar account, at Radicale (skipped where Debian’s package is not installed)', () => {
  let radicale: Radicale;
  let fen = '';

  beforeEach(async () => {
    radicale = new Radicale();
    await radicale.start();
    fen = await radicale.make('Fen', 'VEVENT');
  });
  afterEach(() => radicale.end());

  it('is found by its address alone, and says what would come; a wrong password and a wrong place are said so', async () => {
    await radicale.make('Gauges', 'VTODO');
    await radicale.put(`${fen}walk.ics`, walk());
    const { body } = await look(radicale.url);
    expect(body.choices.map(({ name, count, chosen }) => [name, count, chosen]).sort()).toEqual([
      ['Fen', 1, true],
      ['Gauges', 0, false],
    ]);
    expect(body.sentence).toBe('1 of 1 entry: 1 calendar');
    const wrong = await look(radicale.url, { secret: 'wrong' });
    const refused = { error: { message: expect.stringMatching(/does not accept the name and password/) as string } };
    expect(wrong).toMatchObject({ status: 502, body: refused });
  });

  it('brings events in, changed dates, too; what is changed on one side is changed on the other, and nothing there is lost', async () => {
    await radicale.put(`${fen}walk.ics`, walk('RRULE:FREQ=WEEKLY;COUNT=2'));
    await connect(radicale.url);
    expect(await titles()).toEqual(['Site walk 2026-08-04T10:00:00+02:00', 'Site walk 2026-08-11T10:00:00+02:00']);
    const [calendar] = (await here.maren.get<CalendarInfo[]>('/calendars')).body.filter(({ name }) => name === 'Fen');
    expect(calendar).toMatchObject({ origin: 'connected', busy: true });

    const [first] = (await agenda()).filter(({ kind }) => kind === 'event');
    await here.maren.patch(`/events/${first?.id}`, {
      title: 'Site walk, north bank',
      scope: 'all',
      occurrence: first?.occurrence,
    });
    await sent();
    const after = await radicale.text(`${fen}walk.ics`);
    expect(after).toContain('SUMMARY:Site walk\\, north bank');
    expect(after).toContain('X-GAUGE:north');
    expect(after).toContain('RRULE:FREQ=WEEKLY;COUNT=2');

    await radicale.put(
      `${fen}walk.ics`,
      after.replace('DTEND:20260804T090000Z', 'DTEND:20260804T093000Z').replace('END:VEVENT', 'LOCATION:Gate 3\r\nEND:VEVENT'),
    );
    await again();
    expect((await agenda()).filter(({ kind }) => kind === 'event').map(({ title, end }) => `${title} ${end}`)).toEqual([
      'Site walk, north bank 2026-08-04T11:30:00+02:00',
      'Site walk, north bank 2026-08-11T11:30:00+02:00',
    ]);
    expect(await waiting()).toEqual([]);
    const { history } = (await here.maren.get<{ history: { what: string }[] }>(`/events/${first?.id}`)).body;
    const told = history.map(({ what }) => what);
    expect(told).toEqual(['came in', expect.stringContaining('Site walk'), 'changed there: time, place']);
  });

  it('makes, moves one date and takes away there what is made, moved and taken away here; undo goes there, too', async () => {
    await connect(radicale.url);
    const calendarId = (await one()).settings.collections?.[0]?.calendarId;
    const made = await here.maren.post<DecisionAnswer>('/events', {
      title: 'Gauge reading',
      start: '2026-08-05T09:00',
      minutes: 30,
      calendarId,
      repeat: 'FREQ=WEEKLY;COUNT=3',
    });
    const id = made.body.made[0]?.id ?? '';
    await sent();
    const [name = ''] = await radicale.names(fen);
    expect(await radicale.text(`${fen}${name}`)).toContain('SUMMARY:Gauge reading');
    await here.maren.patch(`/events/${id}`, { start: '2026-08-12T11:00', occurrence: '2026-08-12T09:00', scope: 'this' });
    await sent();
    expect(await radicale.text(`${fen}${name}`)).toMatch(/RECURRENCE-ID;TZID=Europe\/Vienna:20260812T090000/);
    await here.maren.post('/decisions/undo');
    await sent();
    expect(await radicale.text(`${fen}${name}`)).not.toContain('RECURRENCE-ID');
    await here.maren.remove(`/events/${id}?scope=all&occurrence=2026-08-05T09:00`);
    await sent();
    expect(await radicale.names(fen)).toEqual([]);
    await here.maren.post('/decisions/undo');
    await sent();
    expect(await radicale.names(fen)).toHaveLength(1);
    expect((await titles())[0]).toBe('Gauge reading 2026-08-05T09:00:00+02:00');
  });

  it('merges what both sides changed, and shows both where they changed the same', async () => {
    await radicale.put(`${fen}walk.ics`, walk());
    const source = await connect(radicale.url);
    const [event] = (await agenda()).filter(({ kind }) => kind === 'event');
    await here.maren.patch(`/sources/${source}`, { state: 'paused' });
    await here.maren.patch(`/events/${event?.id}`, { location: 'Hide 2', title: 'Walk with Bo' });
    await radicale.put(`${fen}walk.ics`, walk('CATEGORIES:Field').replace('SUMMARY:Site walk', 'SUMMARY:Walk with Ines'));
    await here.maren.patch(`/sources/${source}`, { state: 'active' });
    await until(async () => (await conflicts()).length === 1, 'the conflict');
    await sent();
    const there = await radicale.text(`${fen}walk.ics`);
    expect([/LOCATION:Hide 2/, /SUMMARY:Walk with Ines/, /CATEGORIES:Field/].every((part) => part.test(there))).toBe(true);
    const { id = '' } = (await conflicts())[0] ?? {};
    const { body } = await here.maren.get<{ conflict: { fields: object[] }; text: string }>(`/incoming/${id}`);
    expect(body.conflict.fields).toEqual([
      { field: 'title', name: 'Title', base: 'Site walk', here: 'Walk with Bo', there: 'Walk with Ines' },
    ]);
    await here.maren.post(`/incoming/${id}/settle`, { keep: 'here' });
    await sent();
    expect(await radicale.text(`${fen}walk.ics`)).toContain('SUMMARY:Walk with Bo');
    expect((await conflicts()).length).toBe(0);
  });

  it('a list comes in with dates, done and steps, and goes back; what is deleted there while open is asked about', async () => {
    const gauges = await radicale.make('Gauges', 'VTODO');
    await radicale.put(`${gauges}step.ics`, vtodo('step', 'SUMMARY:Buy the staff gauge', 'RELATED-TO:above'));
    await radicale.put(
      `${gauges}above.ics`,
      vtodo('above', 'SUMMARY:Mend the gauge', 'DUE;VALUE=DATE:20260807', 'PRIORITY:1', 'X-OWNER:Bo'),
    );
    await radicale.put(`${gauges}old.ics`, vtodo('old', 'SUMMARY:Long done', 'STATUS:COMPLETED', 'COMPLETED:20240101T000000Z'));
    await connect(radicale.url);
    const { id: listId } = (await here.maren.get<ListInfo[]>('/lists')).body.find(({ name }) => name === 'Gauges') as ListInfo;
    const all = await tasks();
    const above = all.find(({ title }) => title === 'Mend the gauge') as TaskInfo;
    const step = all.find(({ title }) => title === 'Buy the staff gauge') as TaskInfo;
    expect(above).toMatchObject({ deadline: '2026-08-07', priority: 'high', listId });
    expect(step.parentId).toBe(above.id);
    expect(all.some(({ title }) => title === 'Long done')).toBe(false);

    await here.maren.patch(`/tasks/${step.id}`, { status: 'COMPLETED' });
    await here.maren.patch(`/tasks/${above.id}`, { deadline: '2026-08-10' });
    await here.maren.post('/tasks', { lines: ['Read the levels'], list: listId });
    await sent();
    expect(await radicale.text(`${gauges}step.ics`)).toMatch(/STATUS:COMPLETED/);
    const kept = await radicale.text(`${gauges}above.ics`);
    expect([/DUE;VALUE=DATE:20260810/, /X-OWNER:Bo/, /PRIORITY:1/].every((part) => part.test(kept))).toBe(true);
    expect(await radicale.names(gauges)).toHaveLength(4);

    await radicale.put(
      `${gauges}above.ics`,
      kept.replace('SUMMARY:Mend', 'SUMMARY:Repair').replace('END:VTODO', 'STATUS:IN-PROCESS\r\nEND:VTODO'),
    );
    await again();
    expect((await tasks()).find(({ id }) => id === above.id)).toMatchObject({ title: 'Repair the gauge', status: 'IN-PROCESS' });
    await radicale.ask('DELETE', `${gauges}above.ics`);
    await again();
    const { id = '', subject } = (await conflicts())[0] ?? {};
    expect(subject).toBe('Repair the gauge');
    await here.maren.post(`/incoming/${id}/settle`, { keep: 'here' });
    await sent();
    expect((await radicale.names(gauges)).length).toBe(4);
    expect((await tasks()).filter(({ title }) => title === 'Repair the gauge')).toHaveLength(1);
  });

  it('says what it keeps and what not: a deleted calendar, an event every second, one with 2 MB; a server that is away', async () => {
    await radicale.put(`${fen}walk.ics`, walk());
    await radicale.put(`${fen}tick.ics`, vevent('tick', 'SUMMARY:Tick', 'DTSTART:20260804T080000Z', 'RRULE:FREQ=SECONDLY'));
    await radicale.put(
      `${fen}long.ics`,
      vevent('long', 'SUMMARY:Long', 'DTSTART:20260804T080000Z', `DESCRIPTION:${'peat '.repeat(400_000)}`),
    );
    await connect(radicale.url);
    expect((await titles()).length).toBe(1);
    expect((await one()).left).toMatch(/^2 entries of it are not here\. /);
    await again();
    expect(await radicale.names(fen)).toHaveLength(3);

    await radicale.ask('DELETE', fen);
    await here.maren.post(`/sources/${(await one()).id}/run`);
    await until(async () => (await one()).problem, 'the problem');
    expect((await one()).problem).toBe('“Fen” is not there any more. What was here of it stays.');
    expect((await titles()).length).toBe(1);

    await radicale.stop();
    await here.maren.post(`/sources/${(await one()).id}/run`);
    await until(async () => /nothing listens/.test((await one()).problem), 'the other problem');
    expect((await titles()).length).toBe(1);
  });

  it('an invitation in it is answered from the inbox, once for all: by mail, too, it is the same one', async () => {
    const asked = (...more: string[]) =>
      vevent(
        'round@x.example',
        ...['SUMMARY:Round of the hides', 'DTSTART:20260806T080000Z', 'DTEND:20260806T090000Z', 'SEQUENCE:1'],
        ...['ORGANIZER;CN=Ines Aalto:mailto:ines@aalto-timber.example', ...more],
        'ATTENDEE;RSVP=TRUE;PARTSTAT=NEEDS-ACTION:mailto:maren@alderfen.example',
      );
    await radicale.put(`${fen}round.ics`, asked());
    await connect(radicale.url);
    const invited = async () => (await conflicts()).map(({ id, subject, kind }) => ({ id, subject, kind }));
    expect(await invited()).toMatchObject([{ subject: 'Round of the hides', kind: 'invitation' }]);
    const standing = async () =>
      (await agenda()).filter(({ kind }) => kind === 'event').map(({ title, status }) => [title, status]);
    expect(await standing()).toEqual([['Round of the hides', 'TENTATIVE']]);
    await sendMail(here.server.smtpPort, {
      from: 'Ines Aalto <ines@aalto-timber.example>',
      to: 'maren@alderfen.example',
      subject: 'Round of the hides',
      text: 'Will you come?',
      icalEvent: { method: 'REQUEST', content: asked().replace('VERSION:2.0', 'VERSION:2.0\r\nMETHOD:REQUEST') },
    });
    await until(
      async () => (await invited())[0]?.subject === 'Round of the hides' && (await invited()).length === 1,
      'one of both',
    );
    expect(await standing()).toHaveLength(1);
    const { body } = await here.maren.get<{ joined: object[] }>(`/incoming/${(await invited())[0]?.id}`);
    expect(body.joined).toHaveLength(1);
    const { status } = await here.maren.post('/decisions', { incoming: [(await invited())[0]?.id], to: 'answer', reply: 'yes' });
    expect(status).toBe(200);
    const [held] = await waiting();
    expect(await radicale.text(`${fen}round.ics`)).toContain('PARTSTAT=NEEDS-ACTION');
    await here.maren.post(`/outbox/${held?.id}/now`);
    await sent();
    const there = await radicale.text(`${fen}round.ics`);
    expect(there).toMatch(/ATTENDEE;PARTSTAT=ACCEPTED;RSVP=TRUE:mailto:maren@alderfen\.example/);
    expect(there).not.toContain('STATUS:');
    await again();
    expect([await standing(), await invited()]).toEqual([[['Round of the hides', 'CONFIRMED']], []]);
  });

  it('an invitation that came by mail first stands in the account from then on, once, and is asked once', async () => {
    const asked = vevent(
      'round@x.example',
      ...['SUMMARY:Round of the hides', 'DTSTART:20260806T080000Z', 'DTEND:20260806T090000Z'],
      'ORGANIZER:mailto:ines@aalto-timber.example',
      'ATTENDEE;PARTSTAT=NEEDS-ACTION:mailto:maren@alderfen.example',
    );
    await sendMail(here.server.smtpPort, {
      from: 'Ines Aalto <ines@aalto-timber.example>',
      to: 'maren@alderfen.example',
      subject: 'Round of the hides',
      text: 'Will you come?',
      icalEvent: { method: 'REQUEST', content: asked.replace('VERSION:2.0', 'VERSION:2.0\r\nMETHOD:REQUEST') },
    });
    await radicale.put(`${fen}round.ics`, asked);
    await connect(radicale.url);
    const standing = (await agenda()).filter(({ kind }) => kind === 'event');
    expect(standing.map(({ calendar, status }) => [calendar, status])).toEqual([['Fen', 'TENTATIVE']]);
    expect(await conflicts()).toHaveLength(1);
    expect(await waiting()).toEqual([]);
  });

  it('takes no calendar that is not its own, whatever is asked for', async () => {
    const { id: own } = (await here.maren.post<{ id: string }>('/calendars', { name: 'Hides' })).body;
    const collections = [{ id: `events:${fen}`, name: 'Fen', calendarId: own }];
    await here.maren.post('/sources', { ...account, address: radicale.url, settings: { collections } });
    const after = (await here.maren.get<CalendarInfo[]>('/calendars')).body;
    expect(after.find(({ id }) => id === own)?.origin).toBe('own');
    const used = (await one()).settings.collections?.[0]?.calendarId;
    expect(after.find(({ id }) => id === used)).toMatchObject({ name: 'Fen', origin: 'connected' });
  });

  it('made the main calendar, what is decided goes there by itself', async () => {
    await connect(radicale.url);
    const calendars = async () => (await here.maren.get<CalendarInfo[]>('/calendars')).body;
    const there = (await calendars()).find(({ name }) => name === 'Fen');
    const { status } = await here.maren.patch(`/calendars/${there?.id}`, { main: true });
    expect([status, (await calendars()).filter(({ main }) => main).map(({ name }) => name)]).toEqual([200, ['Fen']]);
    await here.maren.post('/captures', { text: 'Meet Ines 6 August 14:00 for 45 min' });
    await sent();
    const [name = ''] = await radicale.names(fen);
    expect(await radicale.text(`${fen}${name}`)).toMatch(/DTSTART;TZID=Europe\/Vienna:20260806T140000/);
  });

  it('removed, it leaves everything here as the user’s own, and changes nothing there', async () => {
    await radicale.put(`${fen}walk.ics`, walk());
    const source = await connect(radicale.url);
    await here.maren.remove(`/sources/${source}`);
    expect(await titles()).toEqual(['Site walk 2026-08-04T10:00:00+02:00']);
    const fenHere = (await here.maren.get<CalendarInfo[]>('/calendars')).body.find(({ name }) => name === 'Fen');
    expect(fenHere?.origin).toBe('own');
    expect(await radicale.names(fen)).toEqual(['walk.ics']);
  });
});
