import fc from 'fast-check';
import { DateTime } from 'luxon';
import { addDays, dayOf, instantOf, isDay, isoInZone, isZone, startOfDay, wallOf, weekdayOf } from './zones';

const ZONES = [
  'Europe/Vienna',
  'America/St_Johns',
  'Australia/Lord_Howe',
  'Pacific/Apia',
  'Asia/Kathmandu',
  'Africa/Casablanca',
  'UTC',
  'Etc/UTC',
  'UTC+2',
  'UTC-3:30',
];
const zone = fc.constantFrom(...ZONES);
/** Around changes of the clocks, where everything is decided. */
const instant = fc.oneof(
  fc.integer({ min: Date.UTC(1975, 0, 1), max: Date.UTC(2040, 0, 1) }),
  fc
    .tuple(
      fc.constantFrom('2026-03-29', '2026-10-25', '2011-12-30', '2026-04-05', '2026-11-01'),
      fc.integer({ min: -36, max: 36 }),
    )
    .map(([day, hours]) => Date.parse(`${day}T01:00Z`) + hours * 1_800_000),
);
const minute = instant.map((one) => Math.floor(one / 60_000) * 60_000);

describe('zones', () => {
  it('say what the library says, of any moment', () => {
    fc.assert(
      fc.property(zone, minute, (name, at) => {
        const there = DateTime.fromMillis(at, { zone: name });
        expect([wallOf(at, name), dayOf(at, name), isoInZone(at, name), isoInZone(at + 7, name)]).toEqual([
          there.toFormat("yyyy-MM-dd'T'HH:mm"),
          there.toFormat('yyyy-MM-dd'),
          there.toISO({ suppressMilliseconds: true }),
          there.plus({ milliseconds: 7 }).toISO(),
        ]);
      }),
      { numRuns: 500 },
    );
  });

  it('know the first instant of a wall-clock time: of those that happen twice, and of those that never do', () => {
    fc.assert(
      fc.property(zone, minute, (name, at) => {
        const wall = new Date(at).toISOString().slice(0, 16);
        const possible = DateTime.fromISO(wall, { zone: name }).getPossibleOffsets();
        expect(instantOf(wall, name)).toBe(Math.min(...possible.map((one) => one.toMillis())));
      }),
      { numRuns: 500 },
    );
  });

  it('find the instant of what the clock shows, the first where it shows it twice', () => {
    fc.assert(
      fc.property(zone, minute, (name, at) => {
        const back = instantOf(wallOf(at, name), name);
        expect(back <= at && wallOf(back, name) === wallOf(at, name)).toBe(true);
      }),
      { numRuns: 500 },
    );
  });

  it('begin a day where it begins, also where the clock skips midnight', () => {
    expect(wallOf(startOfDay('2026-03-29', 'Europe/Vienna'), 'Europe/Vienna')).toBe('2026-03-29T00:00');
    expect(wallOf(startOfDay('2018-11-04', 'America/Sao_Paulo'), 'America/Sao_Paulo')).toBe('2018-11-04T01:00');
    expect(wallOf(startOfDay('2011-12-30', 'Pacific/Apia'), 'Pacific/Apia')).toBe('2011-12-31T00:00');
  });

  it('count days on the calendar', () => {
    fc.assert(
      fc.property(minute, fc.integer({ min: -4000, max: 4000 }), (at, count) => {
        const day = DateTime.fromMillis(at, { zone: 'utc' });
        const text = day.toFormat('yyyy-MM-dd');
        expect(addDays(text, count)).toBe(day.plus({ days: count }).toFormat('yyyy-MM-dd'));
        expect([weekdayOf(text), isDay(text)]).toEqual([day.weekday, true]);
      }),
    );
    expect(['2026-02-30', '2026-13-01', '26-01-01', '2026-00-10'].map(isDay)).toEqual([false, false, false, false]);
  });

  it('refuse what is no time and no zone', () => {
    for (const wall of ['2026-02-30T09:00', '2026-08-03T25:00', 'soon', '2026-08-03T09:61'])
      expect(() => instantOf(wall, 'Europe/Vienna')).toThrow(RangeError);
    expect(() => instantOf('2026-08-03T09:00', 'Fen/Hut')).toThrow(RangeError);
    expect(['Europe/Vienna', 'utc', '<+03>-3', 'Fen/Hut', ''].map(isZone)).toEqual([true, true, false, false, false]);
  });
});
