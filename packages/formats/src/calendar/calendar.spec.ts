import { instantOf, isoInZone } from '@corvun/core';
import { expandEvents } from './expandCalendar';
import { CalendarError, readCalendar } from './readCalendar';

const ZONE = 'Europe/Vienna';
const calendar = (...lines: string[]) =>
  ['BEGIN:VCALENDAR', 'VERSION:2.0', 'PRODID:-//Fen//EN', ...lines, 'END:VCALENDAR', ''].join('\r\n');
const event = (...lines: string[]) => ['BEGIN:VEVENT', 'DTSTAMP:20260801T000000Z', ...lines, 'END:VEVENT'];
const expand = (text: string) =>
  expandEvents(readCalendar(text, ZONE), instantOf('2026-08-01T00:00', ZONE), instantOf('2026-09-01T00:00', ZONE), ZONE).map(
    (one) => `${isoInZone(one.start, ZONE).slice(5, 16)} ${one.title} ${one.status}`,
  );

const PRIVATE_ZONE = [
  'BEGIN:VTIMEZONE',
  'TZID:Fen Standard',
  'BEGIN:STANDARD',
  'DTSTART:19701025T030000',
  'RRULE:FREQ=YEARLY;BYMONTH=10;BYDAY=-1SU',
  'TZOFFSETFROM:+0200',
  'TZOFFSETTO:+0100',
  'END:STANDARD',
  'BEGIN:DAYLIGHT',
  'DTSTART:19700329T020000',
  'RRULE:FREQ=YEARLY;BYMONTH=3;BYDAY=-1SU',
  'TZOFFSETFROM:+0100',
  'TZOFFSETTO:+0200',
  'END:DAYLIGHT',
  'END:VTIMEZONE',
];

describe('calendars', () => {
  it('replaces a changed occurrence, leaves excluded ones out, and shows a cancelled one as such', () => {
    const text = calendar(
      ...event(
        'UID:1',
        `DTSTART;TZID=${ZONE}:20260803T090000`,
        `DTEND;TZID=${ZONE}:20260803T093000`,
        'RRULE:FREQ=WEEKLY;COUNT=4',
        `EXDATE;TZID=${ZONE}:20260817T090000`,
        'SUMMARY:Stand-up',
      ),
      ...event(
        'UID:1',
        'RECURRENCE-ID:20260810T070000Z',
        `DTSTART;TZID=${ZONE}:20260811T100000`,
        `DTEND;TZID=${ZONE}:20260811T103000`,
        'SUMMARY:Moved',
      ),
      ...event(
        'UID:1',
        `RECURRENCE-ID;TZID=${ZONE}:20260824T090000`,
        `DTSTART;TZID=${ZONE}:20260824T090000`,
        `DTEND;TZID=${ZONE}:20260824T093000`,
        'STATUS:CANCELLED',
        'SUMMARY:Off',
      ),
    );
    expect(expand(text)).toEqual(['08-03T09:00 Stand-up CONFIRMED', '08-11T10:00 Moved CONFIRMED', '08-24T09:00 Off CANCELLED']);
  });

  it('understands a zone that the file defines under a private name', () => {
    const [one] = readCalendar(
      calendar(...PRIVATE_ZONE, ...event('UID:2', 'DTSTART;TZID=Fen Standard:20260803T090000', 'DURATION:PT45M', 'SUMMARY:x')),
      'America/Halifax',
    );
    expect(isoInZone(instantOf(one?.start ?? '', one?.zone ?? ''), 'UTC')).toBe('2026-08-03T07:00:00Z');
    expect(one?.end).toBe('2026-08-03T09:45');
  });

  it('does not let an older SEQUENCE overwrite a newer one', () => {
    const one = (sequence: number, title: string) =>
      event('UID:3', `SEQUENCE:${sequence}`, 'DTSTART:20260803T090000Z', 'DTEND:20260803T100000Z', `SUMMARY:${title}`);
    expect(expand(calendar(...one(2, 'new'), ...one(1, 'old')))).toEqual(['08-03T11:00 new CONFIRMED']);
  });

  it('reads all-day events, transparency and floating times', () => {
    const events = readCalendar(
      calendar(
        ...event('UID:4', 'DTSTART;VALUE=DATE:20260803', 'SUMMARY:day', 'TRANSP:TRANSPARENT'),
        ...event('UID:5', 'DTSTART:20260803T090000', 'DTEND:20260803T100000'),
      ),
      ZONE,
    );
    expect(events.map((one) => [one.allDay, one.start, one.end, one.zone, one.transparent])).toEqual([
      [true, '2026-08-03', '2026-08-04', null, true],
      [false, '2026-08-03T09:00', '2026-08-03T10:00', null, false],
    ]);
  });

  it.each(['', '<html>no</html>', 'BEGIN:VCALENDAR\r\nBEGIN:VEVENT'])('refuses %j with a sentence', (text) => {
    expect(() => readCalendar(text, ZONE)).toThrow(CalendarError);
  });
});
