import fc from 'fast-check';
import { Steps, instantOf } from '@corvun/core';
import { calendarOf } from './component';
import { clockOf } from './observances';
import { readCalendar } from './readCalendar';
import { readObject } from './readObject';
import { streamCalendar } from './streamCalendar';
import { writeCalendar } from './writeCalendar';
import { WRITTEN, ZONE, event, file, part, starts } from './zone.fixture';

describe('a zone that a calendar file defines', () => {
  const fixed = ['BEGIN:VTIMEZONE', 'TZID:Office', ...part('STANDARD', '-0517', '-0517'), 'END:VTIMEZONE'];
  const own = [
    'BEGIN:VTIMEZONE',
    'TZID:Office',
    ...part('STANDARD', '-0330', '-0430', 'DTSTART:19701004T020000', 'RRULE:FREQ=YEARLY;BYMONTH=10;BYDAY=1SU'),
    ...part('DAYLIGHT', '-0430', '-0330', 'DTSTART:19700405T020000', 'RRULE:FREQ=YEARLY;BYMONTH=4;BYDAY=1SU'),
    'END:VTIMEZONE',
  ];

  it('and no zone of this machine agrees with is read by its own offsets, not in the reader’s zone', () => {
    expect(starts(file(...fixed, ...event('DTSTART;TZID=Office:20260805T090000')))).toEqual(['2026-08-05T16:17']);
  });

  it('with changes of its own keeps 9:00 there at 9:00 there, through the year', () => {
    const text = file(...own, ...event('DTSTART;TZID=Office:20260304T090000', 'RRULE:FREQ=MONTHLY;COUNT=9;BYMONTHDAY=4'));
    const zone = readCalendar(text, ZONE)[0]?.zone ?? '';
    expect(zone).toMatch(/^<-0430>/);
    expect(starts(text).map((one) => one.slice(5))).toEqual([
      '03-04T14:30',
      '04-04T15:30',
      '05-04T14:30',
      '06-04T14:30',
      '07-04T14:30',
      '08-04T14:30',
      '09-04T14:30',
      '10-04T15:30',
      '11-04T14:30',
    ]);
  });

  it('that agrees with a known one is that one, the reader’s first; and its name counts where it is known', () => {
    const vienna = [
      'BEGIN:VTIMEZONE',
      'TZID:Customized 1',
      ...part('STANDARD', '+0200', '+0100', 'DTSTART:19701025T030000', 'RRULE:FREQ=YEARLY;BYMONTH=10;BYDAY=-1SU'),
      ...part('DAYLIGHT', '+0100', '+0200', 'DTSTART:19700329T020000', 'RRULE:FREQ=YEARLY;BYMONTH=3;BYDAY=-1SU'),
      'END:VTIMEZONE',
    ];
    const read = (lines: string[], tzid: string) =>
      readCalendar(file(...lines, ...event(`DTSTART;TZID=${tzid}:20260805T090000`)), ZONE)[0]?.zone;
    expect(read(vienna, 'Customized 1')).toBe(ZONE);
    expect(
      read(
        own.map((line) => line.replace('TZID:Office', 'TZID:America/Halifax')),
        'America/Halifax',
      ),
    ).toBe('America/Halifax');
  });

  it.each([
    [
      'by single years',
      [
        ...part('DAYLIGHT', '+0100', '+0200', 'DTSTART:20260329T020000'),
        ...part('STANDARD', '+0200', '+0100', 'DTSTART:20261025T030000'),
        ...part('DAYLIGHT', '+0100', '+0200', 'DTSTART:20270328T020000'),
        ...part('STANDARD', '+0200', '+0100', 'DTSTART:20271031T030000'),
      ],
      'Europe/Vienna',
    ],
    [
      'with an end of each rule',
      [
        ...part(
          'DAYLIGHT',
          '-0400',
          '-0300',
          'DTSTART:20200308T020000',
          'RRULE:FREQ=YEARLY;BYMONTH=3;BYDAY=2SU;UNTIL=20290311T060000Z',
        ),
        ...part(
          'STANDARD',
          '-0300',
          '-0400',
          'DTSTART:20201101T020000',
          'RRULE:FREQ=YEARLY;BYMONTH=11;BYDAY=1SU;UNTIL=20291104T050000Z',
        ),
      ],
      'America/Halifax',
    ],
  ])('%s is the known one that agrees with what it says', (_how, lines, zone) => {
    const text = file(
      'BEGIN:VTIMEZONE',
      'TZID:Office',
      ...lines,
      'END:VTIMEZONE',
      ...event('DTSTART;TZID=Office:20260805T090000'),
    );
    expect(readCalendar(text, zone)[0]).toMatchObject({ zone, problems: [] });
    expect(instantOf('2026-08-05T09:00', readCalendar(text, 'Asia/Kathmandu')[0]?.zone ?? '')).toBe(
      instantOf('2026-08-05T09:00', zone),
    );
  });

  it('by days of the month, or for some years otherwise than any other, keeps its own hours, and is written so', () => {
    const days = [
      ...part('DAYLIGHT', '+0230', '+0330', 'DTSTART:20200401T020000', 'RRULE:FREQ=YEARLY;BYMONTH=4;BYMONTHDAY=1'),
      ...part('STANDARD', '+0330', '+0230', 'DTSTART:20201001T020000', 'RRULE:FREQ=YEARLY;BYMONTH=10;BYMONTHDAY=1'),
    ];
    const years = [
      ...part('DAYLIGHT', '+0230', '+0330', 'DTSTART:20260401T020000'),
      ...part('STANDARD', '+0330', '+0230', 'DTSTART:20261001T020000'),
    ];
    for (const lines of [days, years]) {
      const text = file(
        ...['BEGIN:VTIMEZONE', 'TZID:Office', ...lines, 'END:VTIMEZONE'],
        ...event('DTSTART;TZID=Office:20260304T090000', 'RRULE:FREQ=MONTHLY;COUNT=9;BYMONTHDAY=4'),
      );
      const hours = (calendar: string) => starts(calendar, '2026-01-01', '2027-01-01', 'Etc/UTC').map((one) => one.slice(11));
      const expected = ['06:30', '05:30', '05:30', '05:30', '05:30', '05:30', '05:30', '06:30', '06:30'];
      expect(hours(text)).toEqual(expected);
      const [read] = readCalendar(text, ZONE);
      const written = writeCalendar('', [
        { ...WRITTEN, ...read!, seriesZone: null, link: '', organizer: '', recurrenceId: '', changed: 0, created: 0 },
      ]);
      expect(hours(written)).toEqual(expected);
      expect(readCalendar(written, ZONE)[0]?.zone).toBe(read?.zone);
    }
  });

  it('with rules below a day, or with no end of changes, is read in bounded steps and says so', () => {
    for (const rule of [
      'FREQ=SECONDLY',
      'FREQ=HOURLY;INTERVAL=1',
      'FREQ=DAILY',
      'FREQ=YEARLY;BYDAY=MO,TU;BYMONTH=1,2,3,4,5,6,7,8,9',
    ]) {
      const clock = part('DAYLIGHT', '+0100', '+0200', 'DTSTART:19700101T000000', `RRULE:${rule}`);
      const text = file(
        ...['BEGIN:VTIMEZONE', 'TZID:Trap', ...clock, 'END:VTIMEZONE'],
        // The parser would ask the zone of each of these itself.
        ...event('DTSTART;TZID=Trap:20260805T090000').map((line) =>
          line.replace('DTSTAMP:', 'DTSTAMP;TZID=Trap:').replace('000Z', '000'),
        ),
        ...[
          'BEGIN:VTODO',
          'UID:t@x.example',
          'COMPLETED;TZID=Trap:20260805T090000',
          'DUE;TZID=Trap:20260805T090000',
          'END:VTODO',
        ],
      );
      const root = calendarOf(text)?.root;
      const steps = new Steps(100_000);
      expect(clockOf(root!.getFirstSubcomponent('vtimezone')!, steps)?.changes.length).toBeLessThanOrEqual(2000);
      expect(steps.left).toBeGreaterThan(-1000);
      expect(readObject(text, ZONE).events[0]?.problems.join()).toMatch(/only kept in part/);
    }
  });

  it('whatever it is made of, costs no more steps than it is given, and is a zone in the end', () => {
    const lines = fc.array(
      fc.constantFrom(
        ...['TZOFFSETFROM:+0100', 'TZOFFSETTO:-1159', 'TZOFFSETTO:+9999'],
        ...[
          'DTSTART:16010101T000000',
          'DTSTART:20260329T020000',
          'DTSTART:99991231T235959',
          'DTSTART:x',
          'RDATE:20270101T000000,20280101T000000',
        ],
        ...[
          'RRULE:FREQ=SECONDLY',
          'RRULE:FREQ=DAILY;BYHOUR=0,1,2,3,4,5;BYMINUTE=0,10,20',
          'RRULE:FREQ=YEARLY;BYMONTH=3;BYDAY=-1SU',
        ],
        ...[
          'RRULE:FREQ=YEARLY;UNTIL=20300101T000000Z',
          'RRULE:FREQ=WEEKLY;INTERVAL=1000000',
          'RRULE:FREQ=MONTHLY;COUNT=99999',
          'TZID:Other',
        ],
      ),
      { maxLength: 8 },
    );
    const observances = fc.array(fc.tuple(fc.constantFrom('STANDARD', 'DAYLIGHT'), lines), { maxLength: 5 });
    fc.assert(
      fc.property(observances, (all) => {
        const inside = all.flatMap(([kind, own]) => [`BEGIN:${kind}`, ...own, `END:${kind}`]);
        const text = file(
          'BEGIN:VTIMEZONE',
          'TZID:Trap',
          ...inside,
          'END:VTIMEZONE',
          ...event('DTSTART;TZID=Trap:20260805T090000'),
        );
        const found = calendarOf(text)?.root.getFirstSubcomponent('vtimezone');
        const steps = new Steps(50_000);
        if (found) clockOf(found, steps);
        expect(steps.left).toBeGreaterThan(-500);
        for (const { zone, unplaced } of readCalendar(text, ZONE))
          if (zone !== null && unplaced === null) expect(Number.isFinite(instantOf('2026-08-05T09:00', zone))).toBe(true);
      }),
      { numRuns: 80 },
    );
  });

  it('may be defined after its first use', async () => {
    const text = file(...event('DTSTART;TZID=Office:20260805T090000'), ...fixed);
    const found = [];
    // eslint-disable-next-line @typescript-eslint/require-await
    async function* stream() {
      yield Buffer.from(text);
    }
    for await (const item of streamCalendar(stream(), ZONE)) found.push(item);
    expect(found).toMatchObject([{ type: 'event', event: { unplaced: null, zone: '<-0517>5:17' } }]);
  });
});
