import fc from 'fast-check';
import { MINUTE, instantOf } from '../time/zones';
import { seriesOccurrences, touches, type SeriesPart } from './series';
import { Steps } from './walk';

const ZONE = 'Europe/Vienna';
const at = (wall: string) => instantOf(wall, ZONE);

const series = (more: Partial<SeriesPart> = {}): SeriesPart => ({
  recurrenceId: '',
  following: false,
  start: '2026-08-03T09:00',
  end: '2026-08-03T10:00',
  allDay: false,
  zone: ZONE,
  rrule: 'FREQ=DAILY',
  exrule: null,
  rdates: [],
  exdates: [],
  duration: null,
  ...more,
});

describe('whether a series touches a stretch', () => {
  it('is seen at its first date, however long before it the stretch begins', () => {
    for (const from of ['1971-01-01T00:00', '2020-01-01T00:00', '2026-08-03T00:00']) {
      const steps = new Steps(1000);
      expect(touches([series()], at(from), at('2200-01-01T00:00'), ZONE, steps)).toBe(true);
      expect(1000 - steps.left).toBeLessThan(50);
    }
  });

  it('is so where one of its dates does', () => {
    const rule = fc.constantFrom(
      'FREQ=DAILY;INTERVAL=9',
      'FREQ=MONTHLY;BYMONTHDAY=31',
      'FREQ=YEARLY;COUNT=3',
      'FREQ=WEEKLY;UNTIL=20261001',
    );
    const moved = fc.option(fc.integer({ min: -700, max: 700 }), { nil: null });
    fc.assert(
      fc.property(
        rule,
        moved,
        fc.integer({ min: -900, max: 900 }),
        fc.integer({ min: 0, max: 900 }),
        (rrule, by, begin, days) => {
          const from = at('2026-08-03T09:00') + begin * 1440 * MINUTE;
          const to = from + days * 1440 * MINUTE + MINUTE;
          const day = (shift: number) => new Date(Date.UTC(2026, 7, 3) + shift * 86_400_000).toISOString().slice(0, 10);
          const changed =
            by === null
              ? []
              : [series({ recurrenceId: '2026-08-03T09:00', start: `${day(by)}T11:00`, end: `${day(by)}T12:00`, rrule: null })];
          const parts = [series({ rrule }), ...changed];
          const there = seriesOccurrences(parts, from, to, ZONE).length > 0;
          expect(touches(parts, from, to, ZONE, new Steps(100_000))).toBe(there);
        },
      ),
      { numRuns: 300 },
    );
  });
});
