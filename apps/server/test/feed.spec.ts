import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { database, type Outside, clear, until, withOutside, type Caller, type Running } from './harness';

interface Entry {
  title: string;
  start: string;
  calendar: string;
  showAs: string;
}
interface Info {
  id: string;
  problem: string;
  progress: unknown;
  held: { events: number };
  lastSuccess: string | null;
  calendarId: string;
}

let server: Running;
let outside: Outside;
let maren: Caller;
let id: string;
let odd: Server;
let oddUrl: string;
/** What the odd server does next. */
let answer: (path: string, end: (body: string, type?: string) => void, write: (text: string) => void) => void = (_path, end) =>
  end('');

const info = async (one = id) => (await maren.get<Info>(`/sources/${one}`)).body;
const entries = async () => (await maren.get<{ entries: Entry[] }>('/agenda?from=2026-08-03&days=21')).body.entries;
const look = (one = id) => maren.post(`/sources/${one}/run`);

beforeAll(async () => {
  ({ server, outside, maren } = await withOutside());
  odd = createServer((request, response) => {
    answer(
      request.url ?? '',
      (body, type = 'text/calendar') => response.writeHead(200, { 'Content-Type': type }).end(body),
      (text) => response.write(text),
    );
  });
  await new Promise<void>((resolve) => odd.listen(0, '127.0.0.1', resolve));
  oddUrl = `http://127.0.0.1:${(odd.address() as AddressInfo).port}`;
});

afterAll(async () => {
  odd.closeAllConnections();
  odd.close();
  await server.stop();
  outside.stop();
  clear(server.data);
});

describe('a calendar feed', () => {
  it('is subscribed to with a calendar of its own, in the zone that the file defines', async () => {
    const input = {
      kind: 'feed',
      name: 'County hearings',
      address: `${outside.url}/calendars/county-hearings.ics`,
      settings: { busy: false },
    };
    expect((await maren.post<{ sentence: string }>('/sources/look', input)).body.sentence).toBe('3 events in this calendar');
    id = (await maren.post<Info>('/sources', input)).body.id;
    await until(async () => (await info()).held.events === 3, 'three events');
    const found = (await entries()).filter((one) => one.calendar === 'County hearings');
    expect(found.map((one) => [one.title, one.start.slice(0, 16)])).toContainEqual([
      'Hearing: ditch at Lower Fen',
      '2026-08-06T14:30',
    ]);
    expect((await maren.post<{ error: { message: string } }>('/sources', input)).body.error.message).toBe(
      'This is connected already.',
    );
  });

  it('follows what appears, changes and vanishes, and asks with its ETag', async () => {
    await outside.act('/calendars/county-hearings', {
      uid: 'hearing-2',
      title: 'Hearing: ditch at Lower Fen',
      day: '2026-08-07',
      start: '09:00',
      end: '10:00',
    });
    await outside.act('/calendars/county-hearings', { uid: 'hearing-3', remove: '1' });
    await outside.act('/calendars/county-hearings', {
      title: 'Hearing: fences',
      day: '2026-08-05',
      start: '11:00',
      end: '12:00',
    });
    await look();
    await until(async () => (await entries()).some((one) => one.title === 'Hearing: fences'), 'the new event');
    await until(async () => (await info()).progress === null, 'the end of the look');
    const titles = (await entries()).map((one) => `${one.title} ${one.start.slice(0, 16)}`);
    expect(titles).toContain('Hearing: ditch at Lower Fen 2026-08-07T09:00');
    expect(titles.some((one) => one.includes('dogs'))).toBe(false);
    const before = await info();
    await look();
    await until(async () => (await info()).lastSuccess !== before.lastSuccess, 'an answer “not modified”');
    expect((await info()).held.events).toBe(3);
  });

  it.each([
    ['html', /does not give a calendar at this address/],
    ['loop', /sends on from one address to the next without end/],
    ['endless', /MB, or never ends|is larger than|did not answer/],
  ])(
    'that answers with “%s” is said so, and what was there stays',
    async (mood, sentence) => {
      await outside.act('/calendars/mood', { mood });
      await look();
      await until(async () => sentence.test((await info()).problem), 'the sentence');
      expect((await info()).held.events).toBe(3);
      await outside.act('/calendars/mood', { mood: 'well' });
      await look();
      await until(async () => (await info()).problem === '', 'health again');
    },
    60_000,
  );

  it('that does not answer says so within ten seconds', async () => {
    answer = () => undefined;
    const started = Date.now();
    const { status, body } = await maren.post<{ error: { message: string } }>('/sources/look', {
      kind: 'feed',
      name: 'Silent',
      address: `${oddUrl}/a.ics`,
    });
    expect([status, body.error.message]).toEqual([502, expect.stringMatching(/did not answer within 8 seconds/)]);
    expect(Date.now() - started).toBeLessThan(10_000);
  });

  it('that breaks off in the middle changes nothing for good: what was there stays, and it is read again', async () => {
    const event = (at: number) =>
      `BEGIN:VEVENT\r\nUID:e${at}\r\nDTSTART:20260804T080000Z\r\nDTEND:20260804T090000Z\r\nSUMMARY:Odd ${at}\r\nEND:VEVENT\r\n`;
    const head = 'BEGIN:VCALENDAR\r\nVERSION:2.0\r\n';
    answer = (_path, end) => end(`${head}${event(1)}${event(2)}END:VCALENDAR\r\n`);
    const odd1 = (await maren.post<Info>('/sources', { kind: 'feed', name: 'Odd', address: `${oddUrl}/odd.ics` })).body.id;
    await until(async () => (await info(odd1)).held.events === 2, 'two events');
    answer = (_path, end) => end(`${head}${event(1)}BEGIN:VEVENT\r\nUID:e3`);
    await look(odd1);
    await until(async () => /broke off in the middle/.test((await info(odd1)).problem), 'the sentence');
    expect((await info(odd1)).held.events).toBe(2);
  });

  it('with a rule that repeats every second leaves that event out and takes the others; two with one UID are one', async () => {
    const event = (uid: string, title: string, rule = '') =>
      `BEGIN:VEVENT\r\nUID:${uid}\r\nDTSTART:20260805T080000Z\r\nDTEND:20260805T090000Z\r\nSUMMARY:${title}\r\n${rule}END:VEVENT\r\n`;
    answer = (_path, end) =>
      end(
        `BEGIN:VCALENDAR\r\n${event('s', 'Every second', 'RRULE:FREQ=SECONDLY\r\n')}${event('t', 'Twin one')}${event('t', 'Twin two')}END:VCALENDAR\r\n`,
      );
    const one = (await maren.post<Info>('/sources', { kind: 'feed', name: 'Rules', address: `${oddUrl}/rules.ics` })).body.id;
    await until(async () => (await info(one)).held.events === 1, 'one event');
    expect((await entries()).filter((entry) => /Every second|Twin/.test(entry.title)).map((entry) => entry.title)).toEqual([
      'Twin two',
    ]);
  });

  it('goes with its events and its calendar when it is removed', async () => {
    const { calendarId } = await info();
    await maren.call('DELETE', `/api/sources/${id}`);
    const [row] = await database(server).query<{ events: number; calendars: number }[]>(
      'SELECT (SELECT COUNT(*) FROM event WHERE calendarId = ?) AS events, (SELECT COUNT(*) FROM calendar WHERE id = ?) AS calendars',
      [calendarId, calendarId],
    );
    expect(row).toMatchObject({ events: 0, calendars: 0 });
  });
});
