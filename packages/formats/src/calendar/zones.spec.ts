import fc from 'fast-check';
import { PosixZone, isoInZone } from '@corvun/core';
import { readCalendar } from './readCalendar';
import { writeCalendar } from './writeCalendar';
import { zoneNamed } from './zone';
import { WRITTEN, ZONE, event, file, starts } from './zone.fixture';

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
