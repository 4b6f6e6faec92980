import fc from 'fast-check';
import { minutesIn } from '../time/intervals';
import { MINUTE, instantOf } from '../time/zones';
import { bucketsOf, eachOf, ledgerDays, onceEach, piecesOf } from './counting';
import { MEASURES, ledgerOf, offBy, type LedgerInput, type LedgerItem, type Measure } from './ledger';

const ZONE = 'Europe/Vienna';
const at = (wall: string) => instantOf(wall, ZONE);
const span = (start: string, end: string) => ({ start: at(start), end: at(end) });
const HOUR = 60 * MINUTE;

const item = (what: Measure, start: string, end: string, ...keys: string[]): LedgerItem => ({ what, keys, ...span(start, end) });
const WEEK: LedgerInput = {
  from: '2026-08-03',
  to: '2026-08-07',
  zone: ZONE,
  now: at('2026-08-07T18:00'),
  items: [],
  took: [],
  working: ['03', '04', '05', '06', '07'].map((day) => span(`2026-08-${day}T09:00`, `2026-08-${day}T17:00`)),
  kept: [],
  quiet: [],
  graces: [],
};

describe('counting time by days', () => {
  it.each([
    ['2026-03-28', '2026-03-30', [24, 23, 24]],
    ['2026-10-24', '2026-10-26', [24, 25, 24]],
  ])('the days from %s to %s are as long as they are', (from, to, hours) => {
    const days = ledgerDays(from, to, ZONE);
    const whole = { start: at(`${from}T00:00`), end: days.starts.at(-1) ?? 0 };
    expect(piecesOf(whole, days).map(({ minutes }) => minutes / 60)).toEqual(hours);
  });

  it('counts what lies over midnight on both days, and nothing of what lies outside', () => {
    const days = ledgerDays('2026-08-03', '2026-08-04', ZONE);
    expect(piecesOf(span('2026-08-03T23:30', '2026-08-04T00:45'), days)).toEqual([
      { at: 0, minutes: 30 },
      { at: 1, minutes: 45 },
    ]);
    expect(piecesOf(span('2026-08-02T23:30', '2026-08-03T00:10'), days)).toEqual([{ at: 0, minutes: 10 }]);
    expect(piecesOf(span('2026-08-04T23:30', '2026-08-05T00:10'), days)).toEqual([{ at: 1, minutes: 30 }]);
    expect(piecesOf(span('2026-08-05T09:00', '2026-08-05T10:00'), days)).toEqual([]);
  });

  it('rounds each stretch once: its days come to its whole length', () => {
    const days = ledgerDays('2026-08-01', '2026-08-31', ZONE);
    const start = fc.integer({ min: at('2026-08-02T00:00'), max: at('2026-08-20T00:00') });
    fc.assert(
      fc.property(start, fc.integer({ min: 0, max: 90 * HOUR }), (begin, length) => {
        const pieces = piecesOf({ start: begin, end: begin + length }, days);
        expect(pieces.reduce((sum, { minutes }) => sum + minutes, 0)).toBe(Math.round(length / MINUTE));
      }),
    );
  });

  it('gives each moment to the one that began first, and covers no more and no less than all of them', () => {
    expect(
      onceEach([
        span('2026-08-03T10:00', '2026-08-03T11:00'),
        span('2026-08-03T09:00', '2026-08-03T10:30'),
        span('2026-08-03T09:15', '2026-08-03T10:00'),
      ]),
    ).toEqual([span('2026-08-03T10:30', '2026-08-03T11:00'), span('2026-08-03T09:00', '2026-08-03T10:30'), null]);
    const stretch = fc
      .tuple(fc.integer({ min: 0, max: 500 }), fc.integer({ min: 0, max: 200 }))
      .map(([start, length]) => ({ start: start * MINUTE, end: (start + length) * MINUTE }));
    fc.assert(
      fc.property(fc.array(stretch), (stretches) => {
        const counted = onceEach(stretches).flatMap((one) => one ?? []);
        expect(counted.reduce((sum, { start, end }) => sum + (end - start) / MINUTE, 0)).toBe(minutesIn(stretches));
        expect(minutesIn(counted)).toBe(minutesIn(stretches));
      }),
    );
  });

  it('tells days, weeks and months apart', () => {
    expect(eachOf('2026-08-01', '2026-08-31')).toBe('day');
    expect(eachOf('2026-06-01', '2026-08-31')).toBe('week');
    expect(eachOf('2025-08-01', '2026-07-31')).toBe('month');
    const { days } = ledgerDays('2025-12-27', '2026-01-06', ZONE);
    expect(bucketsOf(days, 'week')).toEqual([
      { key: '2025-W52', from: '2025-12-27', to: '2025-12-28' },
      { key: '2026-W01', from: '2025-12-29', to: '2026-01-04' },
      { key: '2026-W02', from: '2026-01-05', to: '2026-01-06' },
    ]);
    expect(bucketsOf(days, 'month').map(({ key, from, to }) => `${key} ${from} ${to}`)).toEqual([
      '2025-12 2025-12-27 2025-12-31',
      '2026-01 2026-01-01 2026-01-06',
    ]);
    expect(bucketsOf(days, 'day').map(({ key }) => key)).toEqual(days);
  });
});

describe('the ledger', () => {
  it('puts what is promised, planned and spent side by side, by day and by what it was for', () => {
    const { times, rows, total, each } = ledgerOf({
      ...WEEK,
      items: [
        item('promised', '2026-08-03T09:00', '2026-08-03T10:00'),
        item('promised', '2026-08-03T09:30', '2026-08-03T10:30'),
        item('planned', '2026-08-03T10:30', '2026-08-03T12:00', 'report'),
        item('spent', '2026-08-03T10:30', '2026-08-03T13:00', 'report'),
        item('spent', '2026-08-04T16:00', '2026-08-04T16:20', 'permits'),
      ],
    });
    expect(each).toBe('day');
    expect(times[0]).toMatchObject({ key: '2026-08-03', promised: 90, planned: 90, spent: 150, free: 300 });
    expect(times[1]).toMatchObject({ promised: 0, planned: 0, spent: 20, free: 480 });
    expect(rows.map(({ key, promised, planned, spent }) => [key, promised, planned, spent])).toEqual([
      ['report', 0, 90, 150],
      ['permits', 0, 0, 20],
      ['', 90, 0, 0],
    ]);
    expect(total).toMatchObject({ promised: 90, planned: 90, spent: 170, working: 2400, free: 2220, met: 90, unscheduled: 80 });
  });

  it('counts under each of its keys, and once in the whole', () => {
    const { rows, total } = ledgerOf({
      ...WEEK,
      items: [item('spent', '2026-08-03T10:00', '2026-08-03T11:00', 'call', 'site')],
    });
    expect(rows.map(({ key, spent }) => [key, spent])).toEqual([
      ['call', 60],
      ['site', 60],
    ]);
    expect(total.spent).toBe(60);
  });

  it('says how far estimates were off, in which direction and how often', () => {
    const { rows, total } = ledgerOf({
      ...WEEK,
      took: [
        { keys: ['report'], estimate: 60, spent: 90 },
        { keys: ['report'], estimate: 40, spent: 30 },
        { keys: [], estimate: 100, spent: 80 },
      ],
    });
    expect(rows.map((row) => [row.key, row.done, row.longer, offBy(row)])).toEqual([
      ['report', 2, 1, expect.closeTo(0.2)],
      ['', 1, 0, expect.closeTo(-0.2)],
    ]);
    expect(offBy(total)).toBe(0);
    expect(offBy({ done: 0, estimated: 0, took: 0 })).toBeNull();
  });

  it('says what of the quiet time until now nobody took', () => {
    const input = {
      ...WEEK,
      now: at('2026-08-05T10:00'),
      quiet: [span('2026-08-04T09:00', '2026-08-04T11:00'), span('2026-08-05T09:00', '2026-08-05T11:00')],
      items: [item('promised', '2026-08-04T10:30', '2026-08-04T11:30')],
    };
    expect(ledgerOf(input).total).toMatchObject({ quiet: 180, quietKept: 150 });
    // What was looked at during the meeting is lost once.
    const graces = [span('2026-08-04T09:00', '2026-08-04T09:05'), span('2026-08-04T10:28', '2026-08-04T10:33')];
    expect(ledgerOf({ ...input, graces }).total).toMatchObject({ quiet: 180, quietKept: 143 });
  });

  it('keeps free what is kept beside meetings out of what is free', () => {
    const { total } = ledgerOf({ ...WEEK, kept: [span('2026-08-04T09:00', '2026-08-04T09:30')] });
    expect(total.free).toBe(2370);
  });

  it('comes to the sum of its entries, by its bars as by its rows', () => {
    const entry = fc.record({
      what: fc.constantFrom(...MEASURES),
      begin: fc.integer({ min: 0, max: 5 * 24 * 60 * 60 - 1 }),
      length: fc.integer({ min: 0, max: 30 * 60 * 60 }),
      key: fc.constantFrom('', 'report', 'permits', 'site'),
    });
    const first = at('2026-08-03T00:00');
    fc.assert(
      fc.property(fc.array(entry, { maxLength: 40 }), (entries) => {
        const items = entries.map(({ what, begin, length, key }): LedgerItem => ({
          what,
          keys: key ? [key] : [],
          ...{ start: first + begin * 1000, end: first + (begin + length) * 1000 },
        }));
        const { times, rows, total } = ledgerOf({ ...WEEK, to: '2026-08-31', items });
        const whole = items
          .filter(({ what }) => what === 'spent')
          .reduce((sum, { start, end }) => sum + Math.round((end - start) / MINUTE), 0);
        expect(total.spent).toBe(whole);
        for (const what of MEASURES) {
          expect(times.reduce((sum, one) => sum + one[what], 0)).toBe(total[what]);
          expect(rows.reduce((sum, one) => sum + one[what], 0)).toBe(total[what]);
        }
      }),
    );
  });
});
