import type { AgendaEntry, CalendarInfo, ListInfo } from '@corvun/contract';
import { execFile } from 'node:child_process';
import { existsSync, mkdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { object, vevent, vtodo } from '../../../testing/calendar-object';
import { Radicale, radicaleIsHere } from '../../../testing/radicale';
import { clear, ownServer, tempFolder } from './harness';

const run = promisify(execFile);
const PYTHON = '/usr/bin/python3';
const CALDAV = '/usr/lib/python3/dist-packages/caldav';
const VDIRSYNCER = '/usr/bin/vdirsyncer';
const EMAIL = 'maren@alderfen.example';

const here = ownServer('test', { CORVUN_ALLOW_PRIVATE: '1' });
const token = async () => (await here.maren.post<{ token: string }>('/tokens', { name: 'Program', may: 'calendars' })).body.token;
const idOf = async (kind: 'calendars' | 'lists', name: string) => {
  await here.maren.post(`/${kind}`, { name });
  const { body } = await here.maren.get<(CalendarInfo | ListInfo)[]>(`/${kind}`);
  return body.find((one) => one.name === name)?.id ?? '';
};
const plain = (text: string) => text.replace(/\r?\n[ \t]/g, '');
/** Lines of a component, in any order, without how often it was written. */
const linesOf = (text: string) =>
  plain(/BEGIN:V(?:EVENT|TODO)[^]*END:V(?:EVENT|TODO)/.exec(text)?.[0] ?? '')
    .split(/\r?\n/)
    .filter((line) => !/^(?:DTSTAMP|LAST-MODIFIED|SEQUENCE|CREATED)/.test(line))
    .sort();

(existsSync(CALDAV) ? it : it.skip)(
  'a Python program makes, finds, changes and takes away; nothing that it put is lost',
  async () => {
    await idOf('calendars', 'Fen');
    await idOf('lists', 'Gauges');
    const script = join(__dirname, '../../../testing/caldav-program.py');
    const args = [script, `${here.server.url}/dav/`, EMAIL, await token(), 'Fen', 'Gauges'];
    const { stdout } = await run(PYTHON, args);
    const seen = JSON.parse(stdout) as Record<'event' | 'todo' | 'done', string> & {
      calendars: string[];
      dates: string[];
      open: string[];
      left: string[];
      after: number;
      changes: string[];
    };
    expect(seen.calendars).toEqual(expect.arrayContaining(['Fen', 'Gauges']));
    expect(seen.dates).toEqual(['04', '11', '18'].map((day) => `2026-08-${day} 07:00:00+00:00`));
    expect(linesOf(seen.event)).toEqual(
      expect.arrayContaining([
        ...['X-GAUGE;X-BANK=north:14', 'CATEGORIES:Fen,North bank', 'SUMMARY:Read both gauges', 'RRULE:FREQ=WEEKLY;COUNT=3'],
        ...['ATTACH;FMTTYPE=application/pdf:https://files.aalto-timber.example/plan.pdf', 'UID:bell', 'TRIGGER:-PT10M'],
      ]),
    );
    expect(linesOf(seen.todo)).toEqual(expect.arrayContaining(['PRIORITY:3', 'PERCENT-COMPLETE:40', 'X-GAUGE:14']));
    expect([seen.open, seen.left]).toEqual([['Oil the gate'], []]);
    expect(seen.done).toMatch(/STATUS:COMPLETED/);
    expect(seen.after).toBe(0);
    expect(seen.changes).toHaveLength(1);
  },
);

const OBJECTS: Record<string, string> = {
  'a.ics': vevent(
    'a',
    ...[
      'DTSTART;TZID=Europe/Vienna:20260804T090030',
      'DTEND;TZID=Europe/Vienna:20260804T100000',
      'SUMMARY:Ditch',
      'GEO:47.6;12.9',
    ],
    ...['X-GAUGE:14', 'CATEGORIES:Fen,North bank', 'ATTACH:https://files.aalto-timber.example/plan.pdf', 'RESOURCES:Boat'],
    ...['BEGIN:VALARM', 'UID:bell', 'ACTION:DISPLAY', 'TRIGGER:-PT10M', 'DESCRIPTION:Boots', 'END:VALARM'],
  ),
  'b.ics': vevent(
    'b',
    ...['DTSTART;VALUE=DATE:20260805', 'SUMMARY:Open day', 'CONFERENCE;VALUE=URI;FEATURE=AUDIO:tel:+43-1-555', 'X-A;X-B="c;d":e'],
    ...['ORGANIZER;SENT-BY="mailto:office@alderfen.example":mailto:maren@alderfen.example'],
    'ATTENDEE;ROLE=CHAIR;CUTYPE=GROUP;PARTSTAT=DELEGATED;DELEGATED-TO="mailto:tom@x.example":mailto:bo@x.example',
  ),
  'c.ics': object(
    ...['BEGIN:VEVENT', 'UID:c', 'DTSTAMP:20260801T000000Z', 'DTSTART:20260806T080000Z', 'DURATION:PT30M', 'SUMMARY:Stand-up'],
    ...['RRULE:FREQ=DAILY;COUNT=5', 'X-GAUGE:15', 'END:VEVENT', 'BEGIN:VEVENT', 'UID:c', 'DTSTAMP:20260801T000000Z'],
    ...[
      'RECURRENCE-ID:20260807T080000Z',
      'DTSTART:20260807T100000Z',
      'DURATION:PT30M',
      'SUMMARY:Late',
      'X-GAUGE:16',
      'END:VEVENT',
    ],
  ),
};
const TODO = vtodo(
  'd',
  ...[
    'SUMMARY:Oil the gate',
    'DTSTART;TZID=Europe/Vienna:20260804T091500',
    'DUE;TZID=Europe/Vienna:20260805T170000',
    'PRIORITY:2',
  ],
  ...[
    'STATUS:IN-PROCESS',
    'PERCENT-COMPLETE:40',
    'LOCATION:Weir',
    'URL:https://aalto-timber.example/gate',
    'CLASS:PRIVATE',
    'SEQUENCE:7',
  ],
);

(existsSync(VDIRSYNCER) && radicaleIsHere ? it : it.skip)(
  'a program that keeps two servers alike finds both the same, and loses nothing on the way there and back',
  async () => {
    const radicale = new Radicale();
    const folder = tempFolder();
    try {
      await radicale.start();
      const [fen, gauges] = [await radicale.make('Fen', 'VEVENT'), await radicale.make('Gauges', 'VTODO')];
      for (const [name, text] of Object.entries(OBJECTS)) await radicale.put(`${fen}${name}`, text);
      await radicale.put(`${gauges}d.ics`, TODO);
      const [calendar, list] = [`cal-${await idOf('calendars', 'Fen')}`, `list-${await idOf('lists', 'Gauges')}`];
      const password = await token();
      mkdirSync(join(folder, 'status'));
      writeFileSync(
        join(folder, 'config'),
        [
          ...['[general]', `status_path = "${join(folder, 'status')}"`, '[pair both]', 'a = "there"', 'b = "here"'],
          `collections = [["events", "fen", "${calendar}"], ["tasks", "gauges", "${list}"]]`,
          ...['conflict_resolution = "b wins"', '[storage there]', 'type = "caldav"', `url = "${radicale.url}/maren/"`],
          ...['username = "maren"', 'password = "fen-water"', '[storage here]', 'type = "caldav"'],
          ...[`url = "${here.server.url}/dav/"`, `username = "${EMAIL}"`, `password = "${password}"`, ''],
        ].join('\n'),
      );
      const sync = (...what: string[]) => run(VDIRSYNCER, ['-c', join(folder, 'config'), ...what], { env: { HOME: folder } });
      await sync('discover');
      await sync('sync');
      const basic = { Authorization: `Basic ${Buffer.from(`${EMAIL}:${password}`).toString('base64')}` };
      const there = async (uid: string) => {
        const body = `<c:calendar-query xmlns:d="DAV:" xmlns:c="urn:ietf:params:xml:ns:caldav"><d:prop><d:getetag/></d:prop><c:filter><c:comp-filter name="VCALENDAR"/></c:filter></c:calendar-query>`;
        const path = `/dav/home/${uid === 'd' ? list : calendar}/`;
        const text = await (
          await fetch(`${here.server.url}${path}`, { method: 'REPORT', headers: { ...basic, Depth: '1' }, body })
        ).text();
        const hrefs = [...text.matchAll(/<d:href>([^<]+\.ics)</g)].map(([, href = '']) => href);
        const all = await Promise.all(
          hrefs.map(async (href) => (await fetch(`${here.server.url}${href}`, { headers: basic })).text()),
        );
        return all.find((one) => plain(one).includes(`UID:${uid}\r\n`)) ?? '';
      };
      // As it is there: that server writes parameters in an order of its own.
      for (const path of [...Object.keys(OBJECTS).map((name) => `${fen}${name}`), `${gauges}d.ics`])
        expect(linesOf(await there(path.at(-5) ?? ''))).toEqual(linesOf(await radicale.text(path)));
      const before = linesOf(await radicale.text(`${fen}a.ics`));

      const { entries } = (await here.maren.get<{ entries: AgendaEntry[] }>('/agenda?from=2026-08-03&days=14')).body;
      const { id } = entries.find(({ title }) => title === 'Ditch') as AgendaEntry;
      await here.maren.patch(`/events/${id}`, { title: 'North ditch' });
      await sync('sync');
      const back = await radicale.text(`${fen}a.ics`);
      expect(linesOf(back)).toEqual(before.map((line) => line.replace('SUMMARY:Ditch', 'SUMMARY:North ditch')).sort());
      await here.maren.remove(`/events/${id}`);
      await radicale.put(`${gauges}d.ics`, TODO.replace('PERCENT-COMPLETE:40', 'PERCENT-COMPLETE:60'));
      await sync('sync');
      expect(await radicale.text(`${fen}a.ics`)).toBe('');
      expect(await there('d')).toContain('PERCENT-COMPLETE:60');
      // It writes other line ends than the standard has, so it hears of what it wrote once more, and then of nothing.
      await sync('sync');
      const { stderr } = await sync('sync');
      expect(stderr).not.toMatch(/Copying|Deleting|error/i);
    } finally {
      await radicale.end();
      clear(folder);
    }
  },
  120_000,
);
