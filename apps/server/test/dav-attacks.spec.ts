import { vevent } from '../../../testing/calendar-object';
import { asProgram } from './calendar-program';
import { database, ownServer } from './harness';

const here = ownServer('test', { CORVUN_READ_TIME: '3000', CORVUN_ALLOW_PRIVATE: '1' });
const { program, home, agenda } = asProgram(here);

describe('a calendar program that means harm', () => {
  it('the same UID in two calendars stands under its name in each', async () => {
    const ask = await program();
    const first = await home();
    const second = await home('Home');
    const object = vevent('same', 'DTSTART:20260804T080000Z', 'SUMMARY:Ditch');
    expect((await ask('PUT', `${first}one.ics`, object)).status).toBe(201);
    expect((await ask('PUT', `${second}two.ics`, object)).status).toBe(201);
    expect((await ask('GET', `${first}one.ics`)).status).toBe(200);
    expect((await ask('GET', `${second}two.ics`)).status).toBe(200);
    expect((await ask('DELETE', `${first}one.ics`)).status).toBe(204);
    expect((await ask('GET', `${second}two.ics`)).status).toBe(200);
  });

  it('a date that is said twice, a name that is none, deep questions: each is refused with a reason', async () => {
    const ask = await program();
    const path = await home();
    const series = vevent('s', 'DTSTART:20260804T080000Z', 'RRULE:FREQ=DAILY;COUNT=5', 'SUMMARY:Sluice');
    const date = series
      .replace(/[^]*(BEGIN:VEVENT[^]*END:VEVENT)[^]*/, '$1')
      .replace(/RRULE.*/, 'RECURRENCE-ID:20260805T080000Z');
    const twice = series.replace('END:VCALENDAR', `${date}\r\n${date}\r\nEND:VCALENDAR`);
    expect((await ask('PUT', `${path}s.ics`, twice)).status).toBe(403);
    expect((await ask('PUT', `${path}a%00b.ics`, series)).status).toBe(403);
    expect((await ask('GET', `${path}a%00b.ics`)).status).toBe(404);
    const deep = `<d:propfind xmlns:d="DAV:">${'<d:prop xmlns:p="urn:x">'.repeat(20_000)}`;
    expect((await ask('PROPFIND', path, deep, { Depth: '0' })).status).toBe(400);
    expect(await agenda()).toEqual([]);
  });

  it('asks for one address five thousand times and gets it once; for a thousand that are gone, and is told of each', async () => {
    const ask = await program();
    const path = await home();
    await ask('PUT', `${path}a.ics`, vevent('a', 'DTSTART:20260804T080000Z', 'SUMMARY:Ditch'));
    const multiget = (hrefs: string) =>
      `<c:calendar-multiget xmlns:d="DAV:" xmlns:c="urn:ietf:params:xml:ns:caldav"><d:prop><c:calendar-data/></d:prop>${hrefs}</c:calendar-multiget>`;
    const count = async (hrefs: string) => {
      const text = await (await ask('REPORT', path, multiget(hrefs))).text();
      return [text.match(/BEGIN:VCALENDAR/g)?.length ?? 0, text.match(/404 Not Found/g)?.length ?? 0];
    };
    expect(await count(`<d:href>${path}a.ics</d:href>`.repeat(5000))).toEqual([1, 0]);
    expect(await count(Array.from({ length: 1000 }, (_, at) => `<d:href>${path}gone-${at}.ics</d:href>`).join(''))).toEqual([
      0, 1000,
    ]);
  });

  it('learns of 1,500 that went with one question', async () => {
    const ask = await program();
    const path = await home();
    const calendarId = path.slice('/dav/home/cal-'.length, -1);
    const sync = async (token: string) => {
      const body = `<d:sync-collection xmlns:d="DAV:"><d:sync-token>${token}</d:sync-token><d:sync-level>1</d:sync-level><d:prop><d:getetag/></d:prop></d:sync-collection>`;
      const text = await (await ask('REPORT', path, body)).text();
      return { gone: text.match(/404 Not Found/g)?.length ?? 0, token: /<d:sync-token>([^<]*)</.exec(text)?.[1] ?? '' };
    };
    await ask('PUT', `${path}kept.ics`, vevent('kept', 'DTSTART:20260804T080000Z', 'SUMMARY:Kept'));
    const { token } = await sync('');
    const writing = database(here.server);
    const [{ ownerId }] = await writing.query<[{ ownerId: string }]>('SELECT "ownerId" FROM "calendar" LIMIT 1');
    for (let at = 0; at < 1500; at += 1)
      await writing.query(
        'INSERT INTO "dav_gone" ("id", "ownerId", "collection", "name", "since", "at") VALUES (?, ?, ?, ?, ?, ?)',
        [
          ...[`g${at}`, ownerId, `cal-${calendarId}`, at === 0 ? 'kept.ics' : `gone-${at}.ics`],
          ...[Number(token.replace(/\D/g, '')), 0],
        ],
      );
    expect((await sync(token)).gone).toBe(1499);
  });

  it('asks for a range without an end over series without an end', async () => {
    const ask = await program();
    const path = await home();
    for (let at = 0; at < 12; at += 1)
      await ask(
        'PUT',
        `${path}s${at}.ics`,
        vevent(
          `s${at}`,
          'DTSTART:20260804T080000Z',
          `RRULE:FREQ=${at % 2 ? 'HOURLY' : 'YEARLY;BYMONTH=2;BYMONTHDAY=30'}`,
          `SUMMARY:S${at}`,
        ),
      );
    const range = (from: string) =>
      `<c:calendar-query xmlns:d="DAV:" xmlns:c="urn:ietf:params:xml:ns:caldav"><d:prop><d:getetag/></d:prop><c:filter><c:comp-filter name="VCALENDAR"><c:comp-filter name="VEVENT"><c:time-range start="${from}"/></c:comp-filter></c:comp-filter></c:filter></c:calendar-query>`;
    const answer = await ask('REPORT', path, range('20270101T000000Z'), { Depth: '1' });
    expect([answer.status, (await answer.text()).match(/getetag/g)?.length]).toEqual([207, 12]);
    const busy =
      '<c:free-busy-query xmlns:c="urn:ietf:params:xml:ns:caldav"><c:time-range start="20260801T000000Z"/></c:free-busy-query>';
    expect((await ask('REPORT', path, busy)).status).toBe(507);
    const month = busy.replace('Z"/>', 'Z" end="20260815T000000Z"/>');
    expect((await ask('REPORT', path, month)).status).toBe(200);
  });

  it('asks with a filter that is not known here, and is told so instead of getting everything', async () => {
    const ask = await program();
    const path = await home();
    const query = (inner: string) =>
      `<c:calendar-query xmlns:d="DAV:" xmlns:c="urn:ietf:params:xml:ns:caldav"><d:prop><d:getetag/></d:prop><c:filter><c:comp-filter name="VCALENDAR"><c:comp-filter name="VEVENT">${inner}</c:comp-filter></c:comp-filter></c:filter></c:calendar-query>`;
    for (const [inner, condition] of [
      ['<c:prop-filter name="ATTENDEE"><c:param-filter name="PARTSTAT"/></c:prop-filter>', 'supported-filter'],
      ['<c:comp-filter name="VALARM"/>', 'supported-filter'],
      ['<c:prop-filter name="DTSTART"><c:time-range start="20260801T000000Z"/></c:prop-filter>', 'supported-filter'],
      [
        '<c:prop-filter name="SUMMARY"><c:text-match collation="i;unicode-casemap">x</c:text-match></c:prop-filter>',
        'supported-collation',
      ],
    ]) {
      const answer = await ask('REPORT', path, query(inner ?? ''), { Depth: '1' });
      expect([answer.status, /<c:([a-z-]+)/.exec(await answer.text())?.[1]]).toEqual([403, condition]);
    }
  });
});
