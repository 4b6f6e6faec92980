import fc from 'fast-check';
import { instantOf, isoInZone } from '../time/zones';
import { occurrences, type Recurring } from './recur';

const ZONE = 'Europe/Vienna';
const event = (more: Partial<Recurring>): Recurring => ({
  start: '2026-08-03T09:00',
  end: '2026-08-03T10:00',
  allDay: false,
  zone: ZONE,
  rrule: null,
  rdates: [],
  exdates: [],
  ...more,
});
const list = (one: Recurring, from: string, to: string, zone = ZONE) =>
  occurrences(one, instantOf(from, zone), instantOf(to, zone), zone).map((found) => isoInZone(found.start, zone).slice(0, 16));

describe('occurrences', () => {
  it('stays at the same wall-clock time across a daylight-saving change', () => {
    expect(
      occurrences(
        event({ start: '2026-10-24T09:00', end: '2026-10-24T10:00', rrule: 'FREQ=DAILY;COUNT=3' }),
        instantOf('2026-10-24T00:00', ZONE),
        instantOf('2026-10-28T00:00', ZONE),
        ZONE,
      ).map((one) => isoInZone(one.start, ZONE)),
    ).toEqual(['2026-10-24T09:00:00+02:00', '2026-10-25T09:00:00+01:00', '2026-10-26T09:00:00+01:00']);
  });

  // RFC 5545, 3.8.5.3: examples of recurrence rules, moved to this zone.
  it.each<[string, string, string[]]>([
    ['the last Friday of each month', 'FREQ=MONTHLY;BYDAY=-1FR;COUNT=3', ['2026-08-28', '2026-09-25', '2026-10-30']],
    ['the second to last day', 'FREQ=MONTHLY;BYMONTHDAY=-2;COUNT=2', ['2026-08-30', '2026-09-29']],
    ['every other week', 'FREQ=WEEKLY;INTERVAL=2;COUNT=3', ['2026-08-03', '2026-08-17', '2026-08-31']],
    ['the last work day of the month', 'FREQ=MONTHLY;BYDAY=MO,TU,WE,TH,FR;BYSETPOS=-1;COUNT=2', ['2026-08-31', '2026-09-30']],
    ['until a UTC time, included', 'FREQ=DAILY;UNTIL=20260805T070000Z', ['2026-08-03', '2026-08-04', '2026-08-05']],
  ])('%s', (_name, rrule, days) => {
    const found = list(event({ rrule }), '2026-08-01T00:00', '2026-12-01T00:00').map((one) => one.slice(0, 10));
    expect(found.filter((day) => day !== '2026-08-03' || days.includes(day))).toEqual(days);
  });

  it('leaves excluded ones out and takes extra ones in', () => {
    expect(
      list(
        event({ rrule: 'FREQ=DAILY;COUNT=3', exdates: ['2026-08-04T09:00'], rdates: ['2026-08-07T15:00'] }),
        '2026-08-01T00:00',
        '2026-09-01T00:00',
      ),
    ).toEqual(['2026-08-03T09:00', '2026-08-05T09:00', '2026-08-07T15:00']);
  });

  it('gives what touches the window: one that began before it, none that ends at its start', () => {
    const night = event({ start: '2026-08-03T22:00', end: '2026-08-04T06:00', rrule: 'FREQ=DAILY' });
    expect(list(night, '2026-08-10T05:00', '2026-08-10T07:00')).toEqual(['2026-08-09T22:00']);
    expect(list(night, '2026-08-10T06:00', '2026-08-10T07:00')).toEqual([]);
  });

  it('places all-day events in the reader’s zone', () => {
    const day = event({ start: '2026-08-03', end: '2026-08-05', allDay: true, zone: null });
    expect(
      occurrences(
        day,
        instantOf('2026-08-01T00:00', 'America/Halifax'),
        instantOf('2026-08-09T00:00', 'America/Halifax'),
        'America/Halifax',
      ).map((one) => isoInZone(one.end, 'America/Halifax')),
    ).toEqual(['2026-08-05T00:00:00-03:00']);
  });

  it('ends a rule that repeats every second', () => {
    expect(
      occurrences(
        event({ rrule: 'FREQ=SECONDLY' }),
        instantOf('2026-08-03T00:00', ZONE),
        instantOf('2026-08-04T00:00', ZONE),
        ZONE,
      ).length,
    ).toBeLessThan(25_000);
  });

  it('finds in parts of a window what it finds in the whole', () => {
    fc.assert(
      fc.property(
        fc.constantFrom('FREQ=DAILY', 'FREQ=WEEKLY;BYDAY=MO,WE', 'FREQ=MONTHLY;BYMONTHDAY=31', 'FREQ=WEEKLY;INTERVAL=3'),
        fc.integer({ min: 1, max: 200 }),
        (rrule, cut) => {
          const one = event({ rrule });
          const from = instantOf('2026-08-03T00:00', ZONE);
          const [middle, to] = [from + cut * 86_400_000, from + 220 * 86_400_000];
          const keys = (a: number, b: number) => occurrences(one, a, b, ZONE).map((found) => found.key);
          expect([...new Set([...keys(from, middle), ...keys(middle, to)])]).toEqual(keys(from, to));
        },
      ),
      { numRuns: 40 },
    );
  });

  it('a far window is reached at once, even by a rule that repeats every second for ever', () => {
    const far = instantOf('2041-03-02T09:00', ZONE);
    const keys = (rrule: string) =>
      occurrences(event({ rrule }), far, far + 4000, ZONE)
        .map((one) => one.key)
        .filter((key) => key >= '2041');
    expect(keys('FREQ=SECONDLY').length).toBeGreaterThan(0);
    expect(keys('FREQ=MINUTELY;COUNT=999999999').length).toBeGreaterThan(0);
  });

  it('beginning near the window gives the same days as walking from the start', () => {
    const rules = ['FREQ=DAILY;INTERVAL=3', 'FREQ=WEEKLY;INTERVAL=2;BYDAY=MO,TH', 'FREQ=WEEKLY;BYDAY=SU;WKST=SU'];
    const from = instantOf('2027-05-01T00:00', ZONE);
    for (const rule of rules) {
      const walked = occurrences(event({ rrule: rule }), instantOf('2026-01-01T00:00', ZONE), from + 30 * 86_400_000, ZONE);
      const near = occurrences(event({ rrule: rule }), from, from + 30 * 86_400_000, ZONE);
      expect(near.map((one) => one.key)).toEqual(walked.filter((one) => one.end > from).map((one) => one.key));
      expect(near.length).toBeGreaterThan(3);
    }
  });
});
