import fc from 'fast-check';
import { PosixZone, Steps, instantOf, isoInZone } from '@corvun/core';
import { calendarOf } from './component';
import { expandEvents } from './expandCalendar';
import { clockOf } from './observances';
import { readCalendar } from './readCalendar';
import { readObject } from './readObject';
import { streamCalendar } from './streamCalendar';
import { writeCalendar, type WrittenEvent } from './writeCalendar';
import { zoneNamed } from './zone';

const ZONE = 'Europe/Vienna';
const file = (...lines: string[]) => ['BEGIN:VCALENDAR', 'VERSION:2.0', ...lines, 'END:VCALENDAR'].join('\r\n');
const event = (...lines: string[]) => [
  'BEGIN:VEVENT',
  'UID:w@x.example',
  'DTSTAMP:20260801T000000Z',
  'SUMMARY:Walk',
  ...lines,
  'END:VEVENT',
];
const part = (kind: string, from: string, to: string, ...more: string[]) => [
  `BEGIN:${kind}`,
  `TZOFFSETFROM:${from}`,
  `TZOFFSETTO:${to}`,
  ...(more.length ? more : ['DTSTART:19700101T000000']),
  `END:${kind}`,
];
const starts = (text: string | Buffer, from = '2026-01-01', to = '2027-01-01', zone = ZONE) =>
  expandEvents(readCalendar(text, zone), instantOf(`${from}T00:00`, zone), instantOf(`${to}T00:00`, zone), zone).map((one) =>
    one.allDay ? one.startDay : isoInZone(one.start, zone).slice(0, 16),
  );

const WRITTEN: WrittenEvent = {
  uid: 'u@x.example',
  sequence: 2,
  recurrenceId: '',
  following: false,
  seriesZone: null,
  endZone: null,
  start: '2026-08-03T09:00',
  end: '2026-08-03T10:30',
  duration: null,
  allDay: false,
  zone: ZONE,
  title: 'Walk; along, the \\ fen\nwith Ünal',
  description: 'x'.repeat(200),
  location: 'Hut',
  status: 'CONFIRMED',
  transparent: false,
  class: 'PUBLIC',
  category: 'site',
  rrule: 'FREQ=WEEKLY;COUNT=3',
  exrule: null,
  rdates: ['2026-08-07T09:00/2026-08-07T12:00'],
  exdates: ['2026-08-10T09:00'],
  organizer: 'maren@alderfen.example',
  attendees: [{ name: 'Ines "I" Aalto', address: 'ines@aalto-timber.example', partstat: 'ACCEPTED' }],
  link: '',
  alarms: [
    { action: 'DISPLAY', trigger: '-PT15M', related: 'START' },
    { action: 'EMAIL', trigger: 'PT5M', related: 'END' },
    { action: 'AUDIO', trigger: '20260803T050000Z', related: 'START' },
  ],
  changed: Date.UTC(2026, 7, 1),
  created: Date.UTC(2026, 7, 1),
};

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

describe('a zone under an alias', () => {
  it('leaves with a definition under the name that is used', () => {
    const text = writeCalendar('', [{ ...WRITTEN, zone: 'US/Eastern' }]);
    expect(text).toContain('DTSTART;TZID=US/Eastern:');
    expect(text.match(/^TZID:.*$/gm)).toEqual(['TZID:US/Eastern']);
  });
});

describe('a zone that is only named', () => {
  it.each([
    ['W. Europe Standard Time', 'Europe/Berlin'],
    ['Eastern Standard Time', 'America/New_York'],
    ['/a.example/20260101_1/Europe/Vienna', 'Europe/Vienna'],
    ['/x/America/Argentina/Buenos_Aires', 'America/Argentina/Buenos_Aires'],
    ['Europe/Vienna', 'Europe/Vienna'],
    ['GMT-03:30', '<-0330>3:30'],
    ['+05:30', '<+0530>-5:30'],
    ['Fen Time', null],
    ['', null],
  ])('%s is %s', (name, zone) => {
    expect(zoneNamed(name)).toBe(zone);
  });

  it('and unknown is said, with what is written; nothing is guessed', () => {
    const [one] = readCalendar(file(...event('DTSTART;TZID=Fen Time:20260805T090000')), ZONE);
    expect(one?.unplaced).toBe(
      'Its time zone “Fen Time” is not known here and not explained in the invitation; it says 2026-08-05 09:00 there.',
    );
    expect(starts(file(...event('DTSTART;TZID=Fen Time:20260805T090000')))).toEqual([]);
  });
});

describe('POSIX zones', () => {
  it('agree with the zones they describe, at every hour of years', () => {
    const pairs: [string, string][] = [
      ['<+01>-1<+02>,M3.5.0/2,M10.5.0/3', 'Europe/Vienna'],
      ['<-04>4<-03>,M3.2.0/2,M11.1.0/2', 'America/Halifax'],
      ['<+1030>-10:30<+11>-11,M10.1.0/2,M4.1.0/2', 'Australia/Lord_Howe'],
      ['<+0545>-5:45', 'Asia/Kathmandu'],
    ];
    for (const [text, zone] of pairs)
      fc.assert(
        fc.property(fc.integer({ min: Date.UTC(2020, 0), max: Date.UTC(2032, 0) }), (instant) => {
          expect(isoInZone(instant, text)).toBe(isoInZone(instant, zone));
        }),
        { numRuns: 200 },
      );
    for (const bad of ['', '<x>', 'EST5EDT', '<-05>5<-04>,J60,J300', '<-05>5<-04>,M13.1.0,M1.1.0'])
      expect(PosixZone.of(bad)).toBeNull();
  });
});

describe('a series and its changed dates', () => {
  const series = event(
    'DTSTART;TZID=Europe/Vienna:20260803T090000',
    'DTEND;TZID=Europe/Vienna:20260803T100000',
    'RRULE:FREQ=DAILY;COUNT=4',
  );
  it.each([
    ['in UTC', 'RECURRENCE-ID:20260804T070000Z', 'DTSTART:20260804T130000Z'],
    ['in another zone', 'RECURRENCE-ID;TZID=America/Halifax:20260804T040000', 'DTSTART;TZID=America/Halifax:20260804T100000'],
    ['in its own', 'RECURRENCE-ID;TZID=Europe/Vienna:20260804T090000', 'DTSTART;TZID=Europe/Vienna:20260804T150000'],
    ['as a day', 'RECURRENCE-ID;VALUE=DATE:20260804', 'DTSTART;TZID=Europe/Vienna:20260804T150000'],
  ])('stand once, whichever zone they are written in: %s', (_name, id, start) => {
    const text = file(...series, ...event(id, start));
    expect(starts(text).map((one) => one.slice(8))).toEqual(['03T09:00', '04T15:00', '05T09:00', '06T09:00']);
    expect(starts(file(...event(id, start), ...series))).toHaveLength(4);
  });

  it('RANGE=THISANDFUTURE moves that date and all after it', () => {
    const text = file(
      ...series,
      ...event(
        'RECURRENCE-ID;RANGE=THISANDFUTURE;TZID=Europe/Vienna:20260805T090000',
        'DTSTART;TZID=Europe/Vienna:20260806T140000',
        'DURATION:PT2H',
      ),
    );
    expect(starts(text).map((one) => one.slice(8))).toEqual(['03T09:00', '04T09:00', '06T14:00', '07T14:00']);
  });
});

describe('smaller things of RFC 5545', () => {
  it('a period among extra dates keeps its length', () => {
    const [one] = readCalendar(
      file(
        ...event(
          'DTSTART:20260803T090000Z',
          'DURATION:PT1H',
          'RDATE;VALUE=PERIOD:20260807T090000Z/PT3H,20260808T090000Z/20260808T093000Z',
        ),
      ),
      ZONE,
    );
    expect(one?.rdates).toEqual(['2026-08-07T09:00/2026-08-07T12:00', '2026-08-08T09:00/2026-08-08T09:30']);
  });

  it('PT24H over a change of the clock is 24 hours, P1D is a day', () => {
    const end = (duration: string) =>
      readCalendar(file(...event('DTSTART;TZID=Europe/Vienna:20261024T120000', `DURATION:${duration}`)), ZONE)[0]?.end;
    expect([end('PT24H'), end('P1D'), end('pt90m')]).toEqual(['2026-10-25T11:00', '2026-10-25T12:00', '2026-10-24T13:30']);
  });

  it('a second RRULE adds, EXRULE takes away', () => {
    const text = file(
      ...event(
        'DTSTART;TZID=Europe/Vienna:20260803T090000',
        'RRULE:FREQ=DAILY;COUNT=4',
        'RRULE:FREQ=MONTHLY;COUNT=2',
        'EXRULE:FREQ=DAILY;INTERVAL=2;COUNT=2',
      ),
    );
    expect(starts(text).map((one) => one.slice(5, 10))).toEqual(['08-04', '08-06', '09-03']);
  });

  it('a byte order mark, folds in the middle of a letter, and one broken line harm nothing else', () => {
    const text = file(
      ...event('DTSTART:20260803T090000Z', 'DESCRIPTION:Grüße an Übersee', 'DTEND:not a time at all', 'X-BROKEN', 'LOCATION:Hut'),
    );
    const bytes = Buffer.from(`\uFEFF${text}`);
    const cut = bytes.indexOf(Buffer.from('ü')) + 1;
    const folded = Buffer.concat([bytes.subarray(0, cut), Buffer.from('\r\n '), bytes.subarray(cut)]);
    const [one] = readCalendar(folded, ZONE);
    expect([one?.description, one?.location]).toEqual(['Grüße an Übersee', 'Hut']);
    expect(one?.problems.join()).not.toBe('');
  });

  it('an all-day event is on its days in every zone', () => {
    const text = file(...event('DTSTART;VALUE=DATE:20260805', 'DTEND;VALUE=DATE:20260807'));
    for (const zone of ['Pacific/Kiritimati', 'Pacific/Pago_Pago', 'America/Sao_Paulo', 'Asia/Kathmandu', 'Africa/Cairo'])
      expect([zone, starts(text, '2026-08-01', '2026-08-31', zone)]).toEqual([zone, ['2026-08-05']]);
  });
});

describe('a calendar that is written', () => {
  it('is read again as it was', () => {
    const text = writeCalendar('Fen', [WRITTEN], [], 'maren@alderfen.example');
    expect(Math.max(...text.split('\r\n').map((line) => Buffer.byteLength(line)))).toBeLessThanOrEqual(75);
    expect(readCalendar(text, 'America/Halifax')[0]).toMatchObject({
      uid: WRITTEN.uid,
      title: WRITTEN.title,
      start: WRITTEN.start,
      end: WRITTEN.end,
      zone: ZONE,
      rrule: WRITTEN.rrule,
      rdates: WRITTEN.rdates,
      exdates: WRITTEN.exdates,
      organizer: { address: WRITTEN.organizer },
      alarms: WRITTEN.alarms,
      problems: [],
    });
  });

  it('carries zones given by their rules with it', () => {
    for (const zone of ['<-0517>5:17', '<-0430>4:30<-0330>3:30,M4.1.0/2,M10.1.0/2'])
      expect(readCalendar(writeCalendar('Fen', [{ ...WRITTEN, zone, rdates: [], exdates: [] }]), ZONE)[0]).toMatchObject({
        zone,
        start: WRITTEN.start,
        unplaced: null,
      });
  });
});
