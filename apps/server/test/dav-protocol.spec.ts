import type { CalendarInfo, SourceLook } from '@corvun/contract';
import { vevent } from '../../../testing/calendar-object';
import { asProgram } from './calendar-program';
import { database, ownServer } from './harness';

const here = ownServer('test', { CORVUN_ALLOW_PRIVATE: '1' });
const { program, home, agenda } = asProgram(here);
const NS = 'xmlns:d="DAV:" xmlns:c="urn:ietf:params:xml:ns:caldav" xmlns:a="http://apple.com/ns/ical/"';
const plain = (text: string) => text.replace(/\r?\n[ \t]/g, '').replace(/&quot;/g, '"');
const FILTER = '<c:filter><c:comp-filter name="VCALENDAR"><c:comp-filter name="VEVENT"/></c:comp-filter></c:filter>';
const query = (data: string) =>
  `<c:calendar-query ${NS}><d:prop><d:getetag/><c:calendar-data>${data}</c:calendar-data></d:prop>${FILTER}</c:calendar-query>`;
const SERIES = vevent(
  'series',
  ...[
    'DTSTART;TZID=Europe/Vienna:20260803T090000',
    'DURATION:PT30M',
    'RRULE:FREQ=WEEKLY;COUNT=30',
    'SUMMARY:Stand-up',
    'X-GAUGE:14',
  ],
).replace(
  'END:VCALENDAR',
  [
    ...['BEGIN:VEVENT', 'UID:series', 'DTSTAMP:20260801T000000Z', 'RECURRENCE-ID;TZID=Europe/Vienna:20260810T090000'],
    ...['DTSTART;TZID=Europe/Vienna:20260811T100000', 'DURATION:PT30M', 'SUMMARY:Late', 'END:VEVENT', 'END:VCALENDAR'],
  ].join('\r\n'),
);
const names = async () => (await here.maren.get<CalendarInfo[]>('/calendars')).body;

describe('what a calendar program may ask for', () => {
  it('dates one by one in UTC; changed dates of a stretch; parts of an object', async () => {
    const [ask, path] = [await program(), await home()];
    await ask('PUT', `${path}series.ics`, SERIES);
    const asked = async (data: string) => plain(await (await ask('REPORT', path, query(data), { Depth: '1' })).text());
    const dates = await asked('<c:expand start="20260803T000000Z" end="20261101T000000Z"/>');
    expect(dates).not.toMatch(/RRULE|VTIMEZONE|TZID/);
    expect(dates.match(/BEGIN:VEVENT/g)).toHaveLength(13);
    expect(dates).toMatch(/DTSTART:20260803T070000Z\s+DTEND:20260803T073000Z\s+RECURRENCE-ID:20260803T070000Z/);
    expect(dates).toMatch(/DTSTART:20260811T080000Z\s+DTEND:20260811T083000Z\s+RECURRENCE-ID:20260810T070000Z/);
    expect(dates).toContain('DTSTART:20261026T080000Z');
    expect(dates.match(/X-GAUGE:14/g)).toHaveLength(12);

    const near = '<c:limit-recurrence-set start="20260810T000000Z" end="20260812T000000Z"/>';
    const far = '<c:limit-recurrence-set start="20260901T000000Z" end="20260912T000000Z"/>';
    expect((await asked(near)).match(/BEGIN:VEVENT/g)).toHaveLength(2);
    expect((await asked(far)).match(/BEGIN:VEVENT/g)).toHaveLength(1);
    const multi = `<c:calendar-multiget ${NS}><d:prop><c:calendar-data>${far}</c:calendar-data></d:prop><d:href>${path}series.ics</d:href></c:calendar-multiget>`;
    expect((await (await ask('REPORT', path, multi)).text()).match(/BEGIN:VEVENT/g)).toHaveLength(1);

    const event = '<c:comp name="VEVENT"><c:prop name="UID"/><c:prop name="SUMMARY" novalue="yes"/></c:comp>';
    const part = await asked(`<c:comp name="VCALENDAR"><c:prop name="VERSION"/>${event}</c:comp>`);
    expect(part).toMatch(/BEGIN:VCALENDAR\s+VERSION:2.0\s+BEGIN:VEVENT\s+UID:series\s+SUMMARY:\s+END:VEVENT/);
    expect(part).not.toMatch(/DTSTART|X-GAUGE|VTIMEZONE|PRODID/);
  });

  it('too many dates of a series are not told, and other kinds of text are not known', async () => {
    const [ask, path] = [await program(), await home()];
    await ask('PUT', `${path}series.ics`, SERIES.replace('FREQ=WEEKLY;COUNT=30', 'FREQ=HOURLY'));
    const long = '<c:expand start="20260803T000000Z" end="20961101T000000Z"/>';
    expect((await ask('REPORT', path, query(long), { Depth: '1' })).status).toBe(507);
    const other = query('').replace('<c:calendar-data>', '<c:calendar-data content-type="application/calendar+json">');
    expect((await ask('REPORT', path, other, { Depth: '1' })).status).toBe(403);
  });

  it('busy time that may yet be free is said to be so', async () => {
    const [ask, path] = [await program(), await home()];
    await ask('PUT', `${path}a.ics`, vevent('a', 'DTSTART:20260804T080000Z', 'DTEND:20260804T100000Z', 'SUMMARY:Firm'));
    const open = ['DTSTART:20260804T090000Z', 'DTEND:20260804T110000Z', 'STATUS:TENTATIVE', 'SUMMARY:Open'];
    await ask('PUT', `${path}b.ics`, vevent('b', ...open));
    const body = `<c:free-busy-query ${NS}><c:time-range start="20260804T000000Z" end="20260805T000000Z"/></c:free-busy-query>`;
    const lines = (await (await ask('REPORT', path, body)).text()).split('\r\n').filter((line) => line.startsWith('FREEBUSY'));
    expect(lines).toEqual([
      'FREEBUSY:20260804T080000Z/20260804T100000Z',
      'FREEBUSY;FBTYPE=BUSY-TENTATIVE:20260804T100000Z/20260804T110000Z',
    ]);
  });

  it('who there is: whoever asks; what they may is said', async () => {
    const ask = await program();
    const report = async (body: string) => (await ask('REPORT', '/dav/principal/', body)).text();
    const search = (match: string) =>
      `<d:principal-property-search ${NS}><d:property-search><d:prop><d:displayname/></d:prop><d:match>${match}</d:match></d:property-search><d:prop><d:displayname/></d:prop></d:principal-property-search>`;
    expect(await report(search('maren'))).toContain('Maren');
    expect(await report(search('somebody'))).not.toContain('<d:response>');
    expect(await report(`<d:principal-match ${NS}><d:self/></d:principal-match>`)).toContain('/dav/principal/');
    expect(await report(`<d:principal-search-property-set ${NS}/>`)).toContain('<d:displayname/>');
    const expand = `<d:expand-property ${NS}><d:property name="current-user-principal"><d:property name="displayname"/></d:property></d:expand-property>`;
    expect(await report(expand)).toMatch(/current-user-principal><d:response>.*Maren/s);
    const props = `<d:propfind ${NS}><d:prop><d:acl/><d:supported-privilege-set/><d:group-membership/><d:current-user-privilege-set/></d:prop></d:propfind>`;
    const said = await (await ask('PROPFIND', '/dav/principal/', props, { Depth: '0' })).text();
    expect(said).not.toContain('404');
    expect(said).toContain('<c:read-free-busy/>');
    expect((await ask('OPTIONS', '/dav/')).headers.get('DAV')).toBe('1, 3, access-control, calendar-access');
    expect((await ask('ACL', '/dav/home/', '<d:acl xmlns:d="DAV:"/>')).status).toBe(403);
  });
});

describe('what a calendar program may change', () => {
  it('the name and the colour of a calendar; of anything else nothing, and then nothing at all', async () => {
    const [ask, path] = [await program(), await home()];
    const patch = (inner: string) => `<d:propertyupdate ${NS}><d:set><d:prop>${inner}</d:prop></d:set></d:propertyupdate>`;
    const done = await ask(
      'PROPPATCH',
      path,
      patch('<d:displayname>North fen</d:displayname><a:calendar-color>#A04050FF</a:calendar-color>'),
    );
    expect(done.status).toBe(207);
    expect(await done.text()).toContain('200 OK');
    expect((await names()).find(({ name }) => name === 'North fen')?.hue).toBe(7);
    const mixed = await (
      await ask('PROPPATCH', path, patch('<d:displayname>Other</d:displayname><a:calendar-order>3</a:calendar-order>'))
    ).text();
    expect(mixed).toMatch(/displayname.*424.*calendar-order.*403.*cannot-modify-protected-property/s);
    expect((await names()).some(({ name }) => name === 'Other')).toBe(false);
    await here.maren.post('/calendars', { name: 'Taken' });
    expect(await (await ask('PROPPATCH', path, patch('<d:displayname>Taken</d:displayname>'))).text()).toMatch(/403.*already/s);
    expect(await (await ask('PROPPATCH', '/dav/home/', patch('<d:displayname>x</d:displayname>'))).text()).toContain('403');
    await here.maren.post('/decisions/undo');
    await here.maren.post('/decisions/undo');
    expect((await names()).some(({ name }) => name === 'Fen')).toBe(true);
  });

  it('moves and copies what is in a calendar with everything of it, and not over what stands there', async () => {
    const [ask, fen] = [await program(), await home()];
    const second = await home('Home');
    await ask('PUT', `${fen}a.ics`, vevent('a', 'DTSTART:20260804T080000Z', 'SUMMARY:Ditch', 'X-GAUGE:14'));
    await ask('PUT', `${second}b.ics`, vevent('b', 'DTSTART:20260804T080000Z', 'SUMMARY:Weir'));
    const to = (path: string, more = {}) => ({ Destination: `${here.server.url}${path}`, ...more });
    expect((await ask('COPY', `${fen}a.ics`, '', to(`${second}b.ics`, { Overwrite: 'F' }))).status).toBe(412);
    expect((await ask('COPY', `${fen}a.ics`, '', to(`${second}a%20copy.ics`))).status).toBe(201);
    expect(await (await ask('GET', `${second}a%20copy.ics`)).text()).toContain('X-GAUGE:14');
    expect((await ask('COPY', `${fen}a.ics`, '', to(`${fen}c.ics`))).status).toBe(403);
    expect((await ask('MOVE', `${fen}a.ics`, '', to(`${fen}named.ics`))).status).toBe(201);
    expect((await ask('GET', `${fen}a.ics`)).status).toBe(404);
    expect((await ask('MOVE', `${fen}named.ics`, '', to(`${second}x.ics`))).status).toBe(403);
    expect((await ask('DELETE', `${second}a%20copy.ics`)).status).toBe(204);
    expect((await ask('MOVE', `${fen}named.ics`, '', to(`${second}b.ics`))).status).toBe(204);
    expect(await (await ask('GET', `${second}b.ics`)).text()).toMatch(/UID:a\r\n[^]*X-GAUGE:14/);
    expect((await ask('GET', `${fen}named.ics`)).status).toBe(404);
    expect((await agenda()).map(({ title }) => title)).toEqual(['Ditch']);
    expect((await ask('MOVE', fen, '', to('/dav/home/other/'))).status).toBe(404);
    expect((await ask('COPY', `${second}b.ics`, '', { Destination: 'https://elsewhere.example/x' })).status).toBe(502);
    expect((await ask('COPY', `${second}b.ics`)).status).toBe(400);
  });

  it('a token that may only read changes nothing', async () => {
    const { token } = (await here.maren.post<{ token: string }>('/tokens', { name: 'Reader', may: 'read' })).body;
    const headers = { Authorization: `Basic ${Buffer.from(`maren@alderfen.example:${token}`).toString('base64')}` };
    const path = await home();
    for (const method of ['PUT', 'DELETE', 'MOVE', 'COPY', 'PROPPATCH'])
      expect((await fetch(`${here.server.url}${path}a.ics`, { method, headers })).status).toBe(403);
  });

  it('a calendar of an account stands there, too, and says where it comes from', async () => {
    const [ask, path] = [await program(), await home()];
    const id = path.slice('/dav/home/cal-'.length, -1);
    const source = { id: 's1', kind: 'account', address: 'https://cal.aalto-timber.example/dav/', calendarId: id };
    const writing = database(here.server);
    const [{ ownerId }] = await writing.query<[{ ownerId: string }]>('SELECT "ownerId" FROM "calendar" LIMIT 1');
    await writing.query(`UPDATE "calendar" SET "origin" = 'connected', "sourceId" = 's1' WHERE "id" = ?`, [id]);
    const columns =
      await writing.query<{ name: string; type: string; dflt_value: string | null; notnull: number }[]>(
        'PRAGMA table_info("source")',
      );
    const settings = JSON.stringify({ collections: [{ id: 'events:/x/', name: 'Fen', calendarId: id }] });
    const known: Record<string, unknown> = { ...source, ownerId, settings, name: 'Aalto', state: 'paused', cursor: '{}' };
    const filled = columns.filter(({ name, notnull }) => name in known || notnull);
    await writing.query(
      `INSERT INTO "source" (${filled.map(({ name }) => `"${name}"`).join(', ')}) VALUES (${filled.map(() => '?').join(', ')})`,
      filled.map(({ name, type }) => known[name] ?? (type === 'integer' ? 0 : '')),
    );
    const body = `<d:propfind ${NS}><d:prop><v:comes-from xmlns:v="urn:corvun:dav"/></d:prop></d:propfind>`;
    expect(await (await ask('PROPFIND', path, body, { Depth: '0' })).text()).toContain('>cal.aalto-timber.example<');

    // Whoever connects to it takes what is its own, and not what it has from elsewhere.
    await home('Home');
    const { token } = (await here.maren.post<{ token: string }>('/tokens', { name: 'Other', may: 'calendars' })).body;
    const login = { account: 'maren@alderfen.example', secret: token };
    const account = { kind: 'account', name: 'Round', address: `${here.server.url}/dav/`, ...login };
    const { choices } = (await here.maren.post<SourceLook>('/sources/look', account)).body;
    const found = choices.map(({ name }) => name);
    expect([found.includes('Home'), found.includes('Fen')]).toEqual([true, false]);
  });
});
