import type { AgendaEntry, Added, CalendarInfo, DecisionAnswer, TaskInfo } from '@corvun/contract';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { DAVClient, type DAVCalendar, type DAVObject } from 'tsdav';
import { vevent, vtodo } from '../../../testing/calendar-object';
import { HUES } from '../src/dav/properties';
import { ownServer } from './harness';

const here = ownServer('test');
const EMAIL = 'maren@alderfen.example';
const token = async (may: 'read' | 'write' = 'write') =>
  (await here.maren.post<{ token: string }>('/tokens', { name: 'Telephone', may })).body.token;
const basic = (secret: string, email = EMAIL) => `Basic ${Buffer.from(`${email}:${secret}`).toString('base64')}`;
const main = async () => (await here.maren.get<CalendarInfo[]>('/calendars')).body.find((one) => one.main)?.id ?? '';
const agenda = async (from = '2026-08-04', days = 7) =>
  (await here.maren.get<{ entries: AgendaEntry[] }>(`/agenda?from=${from}&days=${days}`)).body.entries;
const event = async (title: string, more: object = {}) =>
  (await here.maren.post<DecisionAnswer>('/events', { title, start: '2026-08-04T10:00', minutes: 60, ...more })).body.made[0]
    ?.id ?? '';

/** A program that speaks CalDAV. */
async function program(
  secret: string,
): Promise<{ client: DAVClient; calendars: DAVCalendar[]; of: (name: string) => DAVCalendar }> {
  const client = new DAVClient({
    serverUrl: here.server.url,
    credentials: { username: EMAIL, password: secret },
    authMethod: 'Basic',
    defaultAccountType: 'caldav',
  });
  await client.login();
  const calendars = await client.fetchCalendars();
  const of = (name: string) => calendars.find(({ displayName }) => displayName === name) as DAVCalendar;
  return { client, calendars, of };
}
/** Asks for tasks; a program that says nothing is given events. */
const TASKS = [
  {
    'comp-filter': {
      _attributes: { name: 'VCALENDAR' },
      'comp-filter': { _attributes: { name: 'VTODO' } },
    },
  },
];
/** As `curl` sends it. */
const ask = (secret: string, method: string, path: string, body = '', headers: Record<string, string> = {}) =>
  fetch(`${here.server.url}${path}`, {
    method,
    redirect: 'manual',
    headers: { Authorization: basic(secret), ...headers },
    ...(body ? { body } : {}),
  });

describe('a calendar program', () => {
  it('finds the account by itself, and calendars and lists by their names', async () => {
    await here.maren.post('/lists', { name: 'Gauges' });
    await event('Site walk');
    const { calendars } = await program(await token('read'));
    expect(calendars.map(({ displayName, components }) => [displayName, components?.join()])).toEqual(
      expect.arrayContaining([
        ['Mine', 'VEVENT'],
        ['Gauges', 'VTODO'],
      ]),
    );
    const secret = await token();
    expect((await ask(secret, 'PROPFIND', '/.well-known/caldav')).headers.get('location')).toBe('/dav/');
    const theme = readFileSync(join(__dirname, '../../../packages/theme/theme.css'), 'utf8');
    expect([...theme.matchAll(/--hue-\d: #(\w+);/g)].slice(0, 10).map(([, hue]) => hue)).toEqual(HUES);
    const options = await ask(secret, 'OPTIONS', '/dav/');
    expect([options.status, options.headers.get('dav')]).toEqual([200, '1, 3, access-control, calendar-access']);
  });

  it('reads, makes, changes and takes away events, a changed date of a series among them, and sees what changed here', async () => {
    const id = await event('Site walk', { repeat: 'FREQ=DAILY;COUNT=3' });
    const { client, of } = await program(await token());
    const calendar = of('Mine');
    const [first] = await client.fetchCalendarObjects({ calendar });
    expect(String(first?.data)).toMatch(
      /SUMMARY:Site walk[^]*RRULE:FREQ=DAILY;COUNT=3|RRULE:FREQ=DAILY;COUNT=3[^]*SUMMARY:Site walk/,
    );
    const uid = /UID:(.+)/.exec(String(first?.data))?.[1]?.trim() ?? '';
    const series = [
      'DTSTART;TZID=Europe/Vienna:20260804T110000',
      'DURATION:PT1H',
      'RRULE:FREQ=DAILY;COUNT=3',
      'SUMMARY:Long walk',
    ];
    const changed = vevent(uid, ...series).replace(
      'END:VCALENDAR',
      [
        ...['BEGIN:VEVENT', `UID:${uid}`, 'DTSTAMP:20260801T000000Z', 'RECURRENCE-ID;TZID=Europe/Vienna:20260805T110000'],
        ...['DTSTART;TZID=Europe/Vienna:20260805T150000', 'DURATION:PT30M', 'SUMMARY:Short walk', 'END:VEVENT', 'END:VCALENDAR'],
      ].join('\r\n'),
    );
    const put = await client.updateCalendarObject({ calendarObject: { ...(first as DAVObject), data: changed } });
    expect(put.status).toBe(204);
    expect((await agenda()).map(({ title, start }) => `${start?.slice(5, 16)} ${title}`)).toEqual([
      '08-04T11:00 Long walk',
      '08-05T15:00 Short walk',
      '08-06T11:00 Long walk',
    ]);
    expect((await client.updateCalendarObject({ calendarObject: { ...(first as DAVObject), data: changed } })).status).toBe(412);

    const made = await client.createCalendarObject({
      calendar,
      filename: 'a name of its own.ics',
      iCalString: vevent('outside-1', 'DTSTART;VALUE=DATE:20260807', 'SUMMARY:Open day'),
    });
    expect(made.status).toBe(201);
    const objects = await client.fetchCalendarObjects({ calendar });
    expect(objects.map(({ url }) => decodeURIComponent(url.split('/').at(-1) ?? '')).sort()).toEqual(
      ['a name of its own.ics', `${uid}.ics`].sort(),
    );
    const own = objects.find(({ url }) => url.includes('name')) as DAVObject;
    expect((await client.deleteCalendarObject({ calendarObject: own })).status).toBe(204);
    expect((await agenda()).some(({ title }) => title === 'Open day')).toBe(false);
    await here.maren.post('/decisions/undo');
    expect((await agenda()).some(({ title }) => title === 'Open day')).toBe(true);
    await here.maren.remove(`/events/${id}`);
    expect((await client.fetchCalendarObjects({ calendar })).map(({ data }) => /SUMMARY:(.*)/.exec(String(data))?.[1])).toEqual([
      'Open day',
    ]);
  });

  it('reads, makes, ends and takes away tasks with their steps, deadlines and priorities', async () => {
    await here.maren.post('/lists', { name: 'Gauges' });
    await here.maren.post('/tasks', { lines: ['Read the gauge by 20 August 30m'], list: 'Gauges' });
    const { client, of } = await program(await token());
    const calendar = of('Gauges');
    const read = () => client.fetchCalendarObjects({ calendar, filters: TASKS });
    const put = (uid: string, ...lines: string[]) =>
      client.createCalendarObject({ calendar, filename: `${uid}.ics`, iCalString: vtodo(uid, ...lines) });
    expect(
      (await put('todo-1', 'SUMMARY:Oil the gate', 'PRIORITY:1', 'DUE;VALUE=DATE:20260810', 'DESCRIPTION:Both hinges')).status,
    ).toBe(201);
    expect((await put('todo-2', 'SUMMARY:Buy oil', 'RELATED-TO:todo-1')).status).toBe(201);
    const tasks = async () => (await here.maren.get<TaskInfo[]>('/tasks')).body;
    const [gate, oil] = ['Oil the gate', 'Buy oil'];
    const found = await tasks();
    const parent = found.find(({ title }) => title === gate);
    expect(parent).toMatchObject({ priority: 'high', deadline: '2026-08-10', notes: 'Both hinges', status: 'NEEDS-ACTION' });
    expect(found.find(({ title }) => title === oil)?.parentId).toBe(parent?.id);
    expect(String((await read()).find(({ url }) => url.includes('todo-2'))?.data)).toMatch(
      /UID:todo-2\r\n[^]*RELATED-TO[^:]*:todo-1\r\n/,
    );

    const done = (await read()).find(({ url }) => url.includes('todo-1')) as DAVObject;
    const data = String(done.data).replace('END:VTODO', 'STATUS:COMPLETED\r\nEND:VTODO');
    expect((await client.updateCalendarObject({ calendarObject: { ...done, data } })).status).toBe(204);
    expect((await tasks()).find(({ title }) => title === gate)?.status).toBe('COMPLETED');
    const step = (await read()).find(({ url }) => url.includes('todo-2')) as DAVObject;
    expect((await client.deleteCalendarObject({ calendarObject: step })).status).toBe(204);
    expect((await read()).map(({ data: text }) => /SUMMARY:(.*)/.exec(String(text))?.[1]).sort()).toEqual([
      'Oil the gate',
      'Read the gauge',
    ]);
  });

  it('ticks off a task that repeats, and finds the next one beside it', async () => {
    await here.maren.post('/lists', { name: 'Gauges' });
    const { client, of } = await program(await token());
    const calendar = of('Gauges');
    const lines = ['SUMMARY:Read the gauge', 'DUE;VALUE=DATE:20260803', 'RRULE:FREQ=WEEKLY'];
    await client.createCalendarObject({ calendar, filename: 'weekly.ics', iCalString: vtodo('weekly', ...lines) });
    const objects = () => client.fetchCalendarObjects({ calendar, filters: TASKS });
    const [first] = await objects();
    const data = vtodo('weekly', ...lines, 'STATUS:COMPLETED', 'COMPLETED:20260803T090000Z');
    expect((await client.updateCalendarObject({ calendarObject: { ...(first as DAVObject), data } })).status).toBe(204);
    const tasks = (await here.maren.get<TaskInfo[]>('/tasks')).body;
    expect(tasks.map(({ status, deadline, repeat }) => [status, deadline, repeat]).sort()).toEqual([
      ['COMPLETED', '2026-08-03', null],
      ['NEEDS-ACTION', '2026-08-10', 'FREQ=WEEKLY'],
    ]);
    const found = await objects();
    expect(found.map(({ data: text }) => /^DUE.*:(\d+)/m.exec(String(text))?.[1]).sort()).toEqual(['20260803', '20260810']);
  });

  it('learns with one question what changed and what went since it last asked', async () => {
    await here.maren.post('/lists', { name: 'Gauges' });
    const one = await event('One');
    await event('Two', { start: '2026-08-05T10:00' });
    const secret = await token('read');
    const path = `/dav/home/cal-${await main()}/`;
    const sync = async (state = '') => {
      const body = `<d:sync-collection xmlns:d="DAV:"><d:sync-token>${state}</d:sync-token><d:sync-level>1</d:sync-level><d:prop><d:getetag/></d:prop></d:sync-collection>`;
      const answer = await ask(secret, 'REPORT', path, body);
      const text = await answer.text();
      const responses = text.split('<d:response>').slice(1);
      return {
        status: answer.status,
        there: responses.filter((part) => part.includes('getetag')).length,
        gone: responses.filter((part) => part.includes('404 Not Found')).length,
        state: /<d:sync-token>([^<]*)</.exec(text)?.[1] ?? '',
      };
    };
    const first = await sync();
    expect(first).toMatchObject({ status: 207, there: 2, gone: 0 });
    expect(await sync(first.state)).toMatchObject({ there: 0, gone: 0 });
    await here.maren.patch(`/events/${one}`, { title: 'One more' });
    await event('Three', { start: '2026-08-06T10:00' });
    const second = await sync(first.state);
    expect(second).toMatchObject({ there: 2, gone: 0 });
    await here.maren.post('/decisions/undo');
    await here.maren.remove(`/events/${one}`);
    const third = await sync(second.state);
    expect(third).toMatchObject({ there: 0, gone: 2 });
    await here.maren.post('/decisions/undo');
    expect(await sync(third.state)).toMatchObject({ there: 1, gone: 0 });
    expect((await sync('data:,corvun-999999')).status).toBe(403);
  });

  it('is told plainly what it may not do, and nothing is lost', async () => {
    const id = await event('Site walk');
    await here.maren.post<Added>('/lists', { name: 'Gauges' });
    const [reader, writer] = [await token('read'), await token()];
    const path = `/dav/home/cal-${await main()}/`;
    const put = (secret: string, name: string, text: string, headers: Record<string, string> = {}) =>
      ask(secret, 'PUT', `${path}${name}`, text, { 'Content-Type': 'text/calendar', ...headers });
    const fine = vevent('a', 'DTSTART:20260804T080000Z', 'SUMMARY:A');
    expect((await put(reader, 'a.ics', fine)).status).toBe(403);
    expect((await ask('wrong', 'PROPFIND', '/dav/')).status).toBe(401);
    expect((await fetch(`${here.server.url}/dav/`, { headers: { Authorization: basic(writer, 'eve@x.example') } })).status).toBe(
      401,
    );
    const refused = async (text: string) => {
      const answer = await put(writer, 'a.ics', text);
      return [answer.status, /<c:([a-z-]+)/.exec(await answer.text())?.[1]];
    };
    expect(await refused('<html>no calendar</html>')).toEqual([403, 'valid-calendar-data']);
    expect(await refused(vtodo('t', 'SUMMARY:x'))).toEqual([403, 'supported-calendar-component']);
    expect(
      await refused(
        fine.replace(
          'END:VCALENDAR',
          `${vevent('b', 'DTSTART:20260804T080000Z').split('\r\n').slice(3, -2).join('\r\n')}\r\nEND:VCALENDAR`,
        ),
      ),
    ).toEqual([403, 'valid-calendar-object-resource']);
    expect(await refused(fine.replace('SUMMARY', 'RRULE:FREQ=SECONDLY\r\nSUMMARY'))).toEqual([
      403,
      'valid-calendar-object-resource',
    ]);
    expect((await put(writer, 'a.ics', `${fine}${' '.repeat(3_000_000)}`)).status).toBe(413);
    expect((await put(writer, 'a.ics', fine)).status).toBe(201);
    expect((await put(writer, 'a.ics', fine, { 'If-None-Match': '*' })).status).toBe(412);
    const twice = await put(writer, 'b.ics', fine);
    expect([twice.status, await twice.text()]).toEqual([403, expect.stringContaining(`<d:href>${path}a.ics</d:href>`)]);
    expect((await ask(writer, 'DELETE', path)).status).toBe(403);
    expect((await ask(writer, 'MKCALENDAR', '/dav/home/new/')).status).toBe(405);
    expect((await ask(writer, 'PROPFIND', '/dav/', '', { Depth: 'infinity' })).status).toBe(403);
    expect((await ask(writer, 'PROPFIND', '/dav/', '<!DOCTYPE x [<!ENTITY y "z">]><x/>', { Depth: '0' })).status).toBe(400);
    expect((await ask(writer, 'GET', '/dav/home/cal-nothing/x.ics')).status).toBe(404);
    expect((await agenda()).map(({ title }) => title).sort()).toEqual(['A', 'Site walk']);
    expect((await here.maren.get(`/events/${id}`)).status).toBe(200);
    const api = await fetch(`${here.server.url}/api/captures`, {
      method: 'POST',
      headers: { Authorization: `Bearer ${reader}`, 'Content-Type': 'application/json' },
      body: '{"text":"x"}',
    });
    expect(api.status).toBe(403);
  });
});

describe('the examples of RFC 4791', () => {
  const query = (inner: string) =>
    `<?xml version="1.0" encoding="utf-8" ?><C:calendar-query xmlns:D="DAV:" xmlns:C="urn:ietf:params:xml:ns:caldav"><D:prop><D:getetag/><C:calendar-data/></D:prop><C:filter><C:comp-filter name="VCALENDAR">${inner}</C:comp-filter></C:filter></C:calendar-query>`;
  const titles = async (secret: string, path: string, body: string) => {
    const answer = await ask(secret, 'REPORT', path, body, { Depth: '1', 'Content-Type': 'application/xml' });
    return [answer.status, ...[...(await answer.text()).matchAll(/SUMMARY:(.+)/g)].map(([, title = '']) => title.trim()).sort()];
  };

  it('7.8.1, 7.8.5, 7.8.6, 7.9.1 and 7.10.1: events by time, by UID and organizer, by address, and busy time', async () => {
    await event('Event 1', { start: '2026-08-02T12:00' });
    await event('Event 2', { start: '2026-08-03T12:00', repeat: 'FREQ=DAILY;COUNT=5' });
    await event('Event 3', { start: '2026-08-10T12:00' });
    const secret = await token('read');
    const path = `/dav/home/cal-${await main()}/`;
    const range = '<C:time-range start="20260804T000000Z" end="20260805T000000Z"/>';
    expect(await titles(secret, path, query(`<C:comp-filter name="VEVENT">${range}</C:comp-filter>`))).toEqual([207, 'Event 2']);
    const uid = /UID:(.+)/
      .exec(await (await ask(secret, 'REPORT', path, query('<C:comp-filter name="VEVENT"/>'), { Depth: '1' })).text())?.[1]
      ?.trim();
    const byUid = `<C:prop-filter name="UID"><C:text-match collation="i;octet">${uid}</C:text-match></C:prop-filter>`;
    expect(await titles(secret, path, query(`<C:comp-filter name="VEVENT">${byUid}</C:comp-filter>`))).toHaveLength(2);
    const none = '<C:prop-filter name="ORGANIZER"><C:is-not-defined/></C:prop-filter>';
    expect(await titles(secret, path, query(`<C:comp-filter name="VEVENT">${none}</C:comp-filter>`))).toHaveLength(4);
    expect(await titles(secret, path, query('<C:comp-filter name="VTODO"/>'))).toEqual([207]);
    const multiget = `<C:calendar-multiget xmlns:D="DAV:" xmlns:C="urn:ietf:params:xml:ns:caldav"><D:prop><D:getetag/><C:calendar-data/></D:prop><D:href>${path}${encodeURIComponent(`${uid}.ics`)}</D:href><D:href>${path}nothing.ics</D:href></C:calendar-multiget>`;
    const answer = await (await ask(secret, 'REPORT', path, multiget)).text();
    expect([answer.match(/BEGIN:VCALENDAR/g)?.length, answer.match(/404 Not Found/g)?.length]).toEqual([1, 1]);
    const busy =
      '<C:free-busy-query xmlns:C="urn:ietf:params:xml:ns:caldav"><C:time-range start="20260804T000000Z" end="20260805T000000Z"/></C:free-busy-query>';
    const free = await (await ask(secret, 'REPORT', path, busy, { Depth: '1' })).text();
    expect(free).toContain('FREEBUSY:20260804T100000Z/20260804T110000Z');
    expect(free).not.toContain('Event');
  });

  it('7.8.9: tasks that are not done', async () => {
    await here.maren.post('/lists', { name: 'Gauges' });
    const { ids } = (await here.maren.post<{ ids: string[] }>('/tasks', { lines: ['Open', 'Over'], list: 'Gauges' })).body;
    await here.maren.patch(`/tasks/${ids[1]}`, { status: 'COMPLETED' });
    const secret = await token('read');
    const { of } = await program(secret);
    const path = new URL(of('Gauges').url).pathname;
    const pending =
      '<C:comp-filter name="VTODO"><C:prop-filter name="COMPLETED"><C:is-not-defined/></C:prop-filter><C:prop-filter name="STATUS"><C:text-match negate-condition="yes">CANCELLED</C:text-match></C:prop-filter></C:comp-filter>';
    expect(await titles(secret, path, query(pending))).toEqual([207, 'Open']);
  });
});
