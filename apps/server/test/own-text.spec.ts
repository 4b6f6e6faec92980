import type { AgendaEntry, CalendarInfo, DecisionAnswer, TaskInfo } from '@corvun/contract';
import { object, vevent, vtodo } from '../../../testing/calendar-object';
import { Clock } from '../src/base/clock';
import { Retention } from '../src/kernel/retention';
import { asProgram } from './calendar-program';
import { database, multipart, ownServer } from './harness';

const DAY = 86_400_000;
const here = ownServer('test');
const { program, home, agenda } = asProgram(here);

/** What nobody here reads, and what is read in part only. */
const STRANGE = [
  'X-GAUGE;X-BANK="north;1":14\\,5',
  'ATTACH;FMTTYPE=application/pdf;FILENAME=plan.pdf:https://files.aalto-timber.example/plan.pdf',
  'ATTACH;VALUE=BINARY;ENCODING=BASE64:AAECAwQF',
  'GEO:47.6;12.9',
  'CONFERENCE;VALUE=URI;FEATURE=PHONE;LABEL=By telephone:tel:+43-1-555',
  'CONFERENCE;VALUE=URI;FEATURE=VIDEO;LABEL=Join:https://rooms.aalto-timber.example/hut',
  'RELATED-TO;RELTYPE=SIBLING:another@x',
  'RESOURCES:Ladder,Boat',
  'CATEGORIES:Fen,North bank',
  'CATEGORIES:Third',
  'COMMENT;LANGUAGE=en:Ask at the gate',
  'CONTACT:Ines Aalto\\, the yard',
  'PRIORITY:3',
  'COLOR:teal',
  'IMAGE;VALUE=URI;DISPLAY=BADGE:https://files.aalto-timber.example/badge.png',
  'REQUEST-STATUS:2.0;Success',
  'SUMMARY;LANGUAGE=en;ALTREP="cid:title":Choose the handrail',
  'STRUCTURED-DATA;VALUE=TEXT:{"a":1}',
];
const GUESTS = [
  'ORGANIZER;CN=Maren Holt;SENT-BY="mailto:office@alderfen.example":mailto:maren@alderfen.example',
  'ATTENDEE;CUTYPE=ROOM;ROLE=NON-PARTICIPANT;PARTSTAT=ACCEPTED;CN=Hut:mailto:hut@alderfen.example',
  'ATTENDEE;ROLE=OPT-PARTICIPANT;RSVP=TRUE;PARTSTAT=DELEGATED;DELEGATED-TO="mailto:tom@x.example":mailto:bo@x.example',
  'ATTENDEE;MEMBER="mailto:all@x.example";DELEGATED-FROM="mailto:bo@x.example";PARTSTAT=TENTATIVE:mailto:tom@x.example',
];
const ALARM = [
  ...['BEGIN:VALARM', 'UID:alarm-1', 'ACTION:DISPLAY', 'TRIGGER:-PT15M', 'REPEAT:2', 'DURATION:PT5M'],
  ...['ACKNOWLEDGED:20260801T000000Z', 'DESCRIPTION:Boots', 'X-SOUND:bell', 'END:VALARM'],
];
const INSIDE = ['BEGIN:X-BOAT', 'X-OARS:2', 'END:X-BOAT', 'BEGIN:VLOCATION', 'UID:place', 'NAME:Hut', 'END:VLOCATION'];
const TIMES = ['DTSTART;TZID=Europe/Vienna:20260804T101530', 'DTEND;TZID=Europe/Vienna:20260804T111545', 'SEQUENCE:4'];
const WHOLE = vevent('whole', ...TIMES, ...STRANGE, ...GUESTS, ...INSIDE, ...ALARM).replace(
  'BEGIN:VEVENT',
  'X-OFFICE:Alderfen\r\nBEGIN:VEVENT',
);

const plain = (text: string) => text.replace(/\r\n[ \t]/g, '');
const has = (text: string, lines: readonly string[]) => lines.filter((line) => !plain(text).includes(`${line}\r\n`));
const without = (text: string, ...kinds: RegExp[]) =>
  plain(text)
    .split('\r\n')
    .filter((line) => !kinds.some((kind) => kind.test(line)))
    .join('\n');
const entry = async (title: string) => (await agenda()).find((one) => one.title === title) as AgendaEntry;

describe('an object is kept as it came', () => {
  it('what a program puts is what it gets, letter by letter', async () => {
    const [ask, path] = [await program(), await home()];
    expect((await ask('PUT', `${path}whole.ics`, WHOLE)).status).toBe(201);
    expect(await (await ask('GET', `${path}whole.ics`)).text()).toBe(WHOLE);
    const again = await ask('PUT', `${path}whole.ics`, WHOLE);
    expect(again.headers.get('ETag')).toBe((await ask('GET', `${path}whole.ics`)).headers.get('ETag'));
    const ends = WHOLE.replace(/\r\n/g, '\n');
    expect((await ask('PUT', `${path}whole.ics`, ends)).headers.get('ETag')).toBeNull();
    expect(await (await ask('GET', `${path}whole.ics`)).text()).toBe(WHOLE);
    const data = await (await ask('REPORT', path, QUERY, { Depth: '1' })).text();
    expect(data.replace(/&quot;/g, '"').replace(/&#13;/g, '')).toContain('X-GAUGE;X-BANK="north;1":14');
  });

  it('a change here writes its own lines; taken back, it is the same text again', async () => {
    const [ask, path] = [await program(), await home()];
    await ask('PUT', `${path}whole.ics`, WHOLE);
    const get = async () => (await ask('GET', `${path}whole.ics`)).text();
    const before = await get();
    const { id } = await entry('Choose the handrail');
    await here.maren.patch(`/events/${id}`, { title: 'Choose the step' });
    const after = await get();
    expect(plain(after)).toContain('SUMMARY:Choose the step\r\n');
    const changed = /^(?:SUMMARY|DTSTAMP|LAST-MODIFIED|SEQUENCE)/;
    expect(without(after, changed)).toBe(without(before, changed));
    await here.maren.patch(`/events/${id}`, { alarms: [{ trigger: '-PT15M' }, { trigger: '-PT1H' }] });
    expect(has(await get(), [...ALARM, 'TRIGGER:-PT1H'])).toEqual([]);
    await here.maren.post('/decisions/undo');
    await here.maren.post('/decisions/undo');
    expect(await get()).toBe(before);
  });

  it('what goes to another calendar, a changed date and a parted series take everything along', async () => {
    const [ask, path] = [await program(), await home()];
    const series = WHOLE.replace('SEQUENCE:4', 'SEQUENCE:4\r\nRRULE:FREQ=DAILY;COUNT=5');
    await ask('PUT', `${path}whole.ics`, series);
    const { id } = await entry('Choose the handrail');
    await here.maren.patch(`/events/${id}`, { occurrence: '2026-08-05T10:15', scope: 'this', location: 'Gate 3' });
    const parted = await here.maren.patch(`/events/${id}`, {
      occurrence: '2026-08-07T10:15',
      scope: 'following',
      location: 'Hut',
    });
    expect(parted.status).toBe(200);
    const calendars = (await here.maren.get<CalendarInfo[]>('/calendars')).body;
    const second = await home('Home');
    const to = second.slice('/dav/home/cal-'.length, -1);
    expect(calendars.some((one) => one.id === to)).toBe(false);
    await here.maren.patch(`/events/${id}`, { calendarId: to, scope: 'all', occurrence: '2026-08-04T10:15' });
    const got = await (await ask('GET', `${second}whole.ics`)).text();
    expect(got.match(/X-GAUGE/g)).toHaveLength(2);
    expect(plain(got)).toMatch(/RECURRENCE-ID[^:]*:20260805T101500/);
    expect(plain(got)).toContain('LOCATION:Gate 3\r\n');
    const file = String((await here.maren.get<string>('/calendars/file')).body);
    expect(file.match(/X-GAUGE/g)).toHaveLength(3);
    expect(file.match(/BEGIN:X-BOAT/g)).toHaveLength(3);
    expect(new Set(plain(file).match(/\r\nUID:.*@corvun/g)).size).toBe(1);
  });

  it('of a task: all of it, and that it is dropped; the name of its list is no category', async () => {
    const ask = await program();
    await here.maren.post('/lists', { name: 'Gauges' });
    const [list] = (await here.maren.get<{ id: string; name: string }[]>('/lists')).body.filter(({ name }) => name === 'Gauges');
    const path = `/dav/home/list-${list?.id ?? ''}/`;
    const lines = [
      ...['DTSTART;TZID=Europe/Vienna:20260804T091530', 'DUE;TZID=Europe/Vienna:20260805T170030', 'PERCENT-COMPLETE:40'],
      ...['LOCATION:Weir', 'URL:https://aalto-timber.example/gauge', 'CLASS:CONFIDENTIAL', 'SEQUENCE:7', 'PRIORITY:3'],
      ...['STATUS:IN-PROCESS', 'RELATED-TO:not-here@x', 'CATEGORIES:Fen,North bank', 'X-GAUGE:14', 'GEO:47.6;12.9', ...ALARM],
    ];
    const text = vtodo('gauge', 'SUMMARY:Read the gauge', ...lines);
    expect((await ask('PUT', `${path}gauge.ics`, text)).status).toBe(201);
    const get = async () => (await ask('GET', `${path}gauge.ics`)).text();
    expect(has(await get(), lines)).toEqual([]);
    const [task] = (await here.maren.get<TaskInfo[]>('/tasks')).body;
    await here.maren.patch(`/tasks/${task?.id ?? ''}`, { notes: 'Both of them', priority: 'low' });
    const changed = await get();
    expect(has(changed, ['DESCRIPTION:Both of them', 'PRIORITY:9', ...lines.filter((line) => line !== 'PRIORITY:3')])).toEqual(
      [],
    );
    expect((await ask('PUT', `${path}gauge.ics`, changed.replace('STATUS:IN-PROCESS', 'STATUS:CANCELLED'))).status).toBe(204);
    expect(await get()).toContain('STATUS:CANCELLED');
    expect((await ask('DELETE', `${path}gauge.ics`)).status).toBe(204);
    expect((await ask('GET', `${path}gauge.ics`)).status).toBe(404);
    expect((await ask('PUT', `${path}gauge.ics`, text)).status).toBe(201);
    expect(has(await get(), lines)).toEqual([]);
  });

  it('a file that is read in goes out as it was, also into the next account; a later one changes what it says', async () => {
    const zone = ['BEGIN:VTIMEZONE', 'TZID:Hut', 'BEGIN:STANDARD', 'DTSTART:19700101T000000'];
    const end = ['TZOFFSETFROM:+0130', 'TZOFFSETTO:+0130', 'END:STANDARD', 'END:VTIMEZONE'];
    const inner = (text: string) => text.replace(/^[^]*?(?=BEGIN:V(?:EVENT|TODO))|END:VCALENDAR[^]*$/g, '').trimEnd();
    const event = inner(WHOLE).replace(/TZID=Europe\/Vienna/g, 'TZID=Hut');
    const todo = inner(vtodo('gauge', 'SUMMARY:Read the gauge', 'PERCENT-COMPLETE:40', 'PRIORITY:3', 'X-GAUGE:14'));
    const file = object(...zone, ...end, event, todo);
    const take = async (text: string) => (await here.maren.post<{ updated: number }>('/import', multipart('all.ics', text))).body;
    await take(file);
    const out = String((await here.maren.get<string>('/calendars/file')).body);
    const lines = plain(file)
      .split('\r\n')
      .filter((line) => !/^(?:PRODID|END:VCALENDAR)|^$/.test(line));
    expect(has(out, lines)).toEqual([]);
    expect((await take(file.replace(/DTSTAMP:20260801/g, 'DTSTAMP:20260802'))).updated).toBe(0);
    expect((await take(file.replace('X-OARS:2', 'X-OARS:3').replace('SEQUENCE:4', 'SEQUENCE:5'))).updated).toBe(1);
    expect(String((await here.maren.get<string>('/calendars/file')).body)).toContain('X-OARS:3');
  });

  it('of a series with many changed dates the calendar around them is kept once, and comes back as it was', async () => {
    const [ask, path] = [await program(), await home()];
    const part = (...lines: string[]) =>
      ['BEGIN:VEVENT', 'UID:many', 'DTSTAMP:20260801T000000Z', ...lines, 'SUMMARY:Stand-up', 'END:VEVENT'].join('\r\n');
    const dates = Array.from({ length: 200 }, (_, at) => {
      const day = new Date(Date.UTC(2026, 7, 4 + at)).toISOString().slice(0, 10).replace(/-/g, '');
      return part(`RECURRENCE-ID;TZID=Europe/Vienna:${day}T090000`, `DTSTART;TZID=Europe/Vienna:${day}T100000`);
    });
    const series = part('DTSTART;TZID=Europe/Vienna:20260804T090000', 'RRULE:FREQ=DAILY;COUNT=300');
    const text = object(`X-LONG:${'x'.repeat(60)}\r\n ${`${'y'.repeat(60)}\r\n `.repeat(3000)}z`, series, ...dates);
    expect((await ask('PUT', `${path}many.ics`, text)).status).toBe(201);
    expect(await (await ask('GET', `${path}many.ics`)).text()).toBe(text);
    const [kept] = await database(here.server).query<{ size: number }[]>(
      'SELECT SUM(length("around")) AS "size" FROM "own_text"',
    );
    expect(kept?.size).toBeLessThan(2 * text.length);
  });

  it('a text that no row names any more goes when nothing can be taken back to it, and not before', async () => {
    const [ask, path] = [await program(), await home()];
    await ask('PUT', `${path}whole.ics`, WHOLE);
    await ask('PUT', `${path}whole.ics`, WHOLE.replace('X-OARS:2', 'X-OARS:3'));
    const texts = async () => (await database(here.server).query<unknown[]>('SELECT 1 FROM "own_text"')).length;
    const [retention, now] = [here.server.app.get(Retention), here.server.app.get(Clock).now()];
    expect(await texts()).toBe(2);
    await retention.shorten(now);
    await retention.shorten(now + 89 * DAY);
    expect(await texts()).toBe(2);
    await here.maren.post('/decisions/undo');
    expect(await (await ask('GET', `${path}whole.ics`)).text()).toContain('X-OARS:2');
    await retention.shorten(now + 91 * DAY);
    expect(await texts()).toBe(2);
    await retention.shorten(now + 182 * DAY);
    expect(await texts()).toBe(1);
    expect(await (await ask('GET', `${path}whole.ics`)).text()).toContain('X-OARS:2');
  });

  it('the meeting link leaves as CONFERENCE and URL, and comes back from there', async () => {
    const [ask, path] = [await program(), await home()];
    const calendarId = path.slice('/dav/home/cal-'.length, -1);
    const link = 'https://rooms.alderfen.example/walk';
    const input = { title: 'Weir walk', start: '2026-08-04T10:00', minutes: 60, calendarId, meetingLink: link };
    const { body } = await here.maren.post<DecisionAnswer>('/events', input);
    const id = body.made[0]?.id ?? '';
    const [row] = await database(here.server).query<{ uid: string }[]>('SELECT "uid" FROM "event" WHERE "id" = ?', [id]);
    const at = `${path}${encodeURIComponent(`${row?.uid ?? ''}.ics`)}`;
    const text = await (await ask('GET', at)).text();
    expect(has(text, [`CONFERENCE;VALUE=URI;FEATURE=VIDEO:${link}`, `URL:${link}`])).toEqual([]);
    expect((await ask('PUT', at, text.replace('SUMMARY:Weir walk', 'SUMMARY:Weir'))).status).toBe(204);
    expect((await here.maren.get<{ meetingLink: string; link: string }>(`/events/${id}`)).body).toMatchObject({
      meetingLink: link,
      link: '',
    });
    expect(has(await (await ask('GET', at)).text(), ['SUMMARY:Weir', `URL:${link}`])).toEqual([]);
  });
});

const QUERY = `<c:calendar-query xmlns:d="DAV:" xmlns:c="urn:ietf:params:xml:ns:caldav"><d:prop><c:calendar-data/></d:prop>
  <c:filter><c:comp-filter name="VCALENDAR"><c:comp-filter name="VEVENT"><c:prop-filter name="X-GAUGE"/></c:comp-filter></c:comp-filter></c:filter></c:calendar-query>`;
