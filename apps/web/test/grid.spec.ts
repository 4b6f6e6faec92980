import type { AgendaEntry } from '@corvun/contract';
import fc from 'fast-check';
import { clockText, inARow, layOut, minuteOn, minutesOf, sayShadow, shadowOf, snap } from '../src/places/plan/grid';
import { DAY, ZONE, dayWith, entry } from './entries';
import { stripDays } from '../src/places/sort/strip-days';

const places = (entries: AgendaEntry[]) => layOut(entries, DAY, ZONE).map((one) => [one.from, one.to, one.column, one.columns]);

describe('the time grid', () => {
  it('gives what overlaps columns of its own, and what stands alone the whole width', () => {
    expect(places([entry(540, 600), entry(570, 630), entry(600, 660), entry(700, 730)])).toEqual([
      [540, 600, 0, 2],
      [570, 630, 1, 2],
      [600, 660, 0, 2],
      [700, 730, 0, 1],
    ]);
  });

  it('never lays two overlapping entries over each other, and wastes no column', () => {
    const span = fc.tuple(fc.integer({ min: 0, max: 1300 }), fc.integer({ min: 5, max: 139 }));
    fc.assert(
      fc.property(fc.array(span, { maxLength: 15 }), (spans) => {
        const laid = layOut(
          spans.map(([from, length], at) => entry(from, from + length, { id: String(at) })),
          DAY,
          ZONE,
        );
        expect(laid).toHaveLength(spans.length);
        for (const [at, one] of laid.entries()) {
          expect(one.column).toBeLessThan(one.columns);
          for (const other of laid.slice(at + 1)) {
            const overlap = one.from < other.to && other.from < one.to;
            if (overlap) expect([one.column === other.column, one.columns === other.columns]).toEqual([false, true]);
          }
        }
      }),
    );
  });

  it('leaves all-day events and tasks without a time to the head of the day', () => {
    expect(places([entry(0, 0, { allDay: true }), entry(540, 600, { kind: 'task' }), entry(540, 600)])).toHaveLength(1);
  });

  it('clips what began yesterday or ends tomorrow', () => {
    expect(minuteOn('2026-08-02T23:00:00+02:00', DAY, ZONE)).toBe(0);
    expect(minuteOn('2026-08-04T01:00:00+02:00', DAY, ZONE)).toBe(1440);
    expect(minuteOn('2026-08-03T07:30:00Z', DAY, ZONE)).toBe(570);
  });

  it('snaps to quarters, says times, and knows how long things are', () => {
    expect([snap(7, 15), snap(8, 15), snap(-3, 15) + 0, snap(8, 5), clockText(545)]).toEqual([0, 15, 0, 10, '9:05']);
    expect([
      minutesOf(entry(540, 585)),
      minutesOf(entry(0, 0, { kind: 'task', start: DAY, end: null, allDay: true, minutes: 20 })),
    ]).toEqual([45, 20]);
  });
});

describe('where something would come to lie', () => {
  const day = dayWith(
    [entry(600, 660, { title: 'Round' }), entry(700, 820, { kind: 'block', blockKind: 'quiet', title: 'Quiet' })],
    [
      [540, 600],
      [660, 700],
      [820, 1020],
    ],
  );
  const say = (from: number, minutes: number) => sayShadow(shadowOf(day, from, minutes, ZONE));

  it('says what it meets, and how much of the gap stays; quiet time is no hindrance', () => {
    expect([say(540, 60), say(840, 60), say(590, 30), say(710, 60)]).toEqual([
      'fills the gap',
      '2 h 20 of the gap stay',
      'over Round',
      '',
    ]);
  });

  it('does not meet itself', () => {
    const [round] = day.entries;
    expect(shadowOf(day, 615, 30, ZONE, round)).toEqual({ over: [], left: null });
  });

  it('several lie in a row: the first where it was put, the others in what is free', () => {
    expect(inARow([30, 30, 60, 240], day, 570, ZONE)).toEqual([570, 660, 820, 880]);
  });

  it('never lies over what was put before it', () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 5, max: 200 }), { maxLength: 12 }),
        fc.integer({ min: 0, max: 1400 }),
        (lengths, from) => {
          const starts = inARow(lengths, day, from, ZONE);
          for (const [at, start] of starts.entries())
            if (at > 0) expect(start).toBeGreaterThanOrEqual((starts[at - 1] ?? 0) + (lengths[at - 1] ?? 0));
        },
      ),
    );
  });

  it('quiet time lies behind, as wide as the day', () => {
    expect(layOut(day.entries, DAY, ZONE).map((one) => [one.entry.title, one.columns])).toEqual([
      ['Quiet', 1],
      ['Round', 1],
    ]);
  });
});

describe('the days of the strip', () => {
  const day = (name: string, working: boolean, entries: AgendaEntry[] = []) => ({
    day: name,
    working: working ? [{ start: '', end: '' }] : [],
    gaps: [],
    off: null,
    unseen: [],
    hidden: [],
    entries,
    load: { capacity: 0, meetings: 0, buffers: 0, blocks: 0, unplaced: 0, left: 0, over: 0 },
  });

  it('are today and the next five with working time or something on them', () => {
    const days = [
      day('2026-08-08', false),
      day('2026-08-09', false, [entry(600, 660)]),
      day('2026-08-10', true),
      day('2026-08-11', false),
      ...['12', '13', '14'].map((one) => day(`2026-08-${one}`, true)),
    ];
    expect(stripDays(days, '2026-08-08').map((one) => one.day)).toEqual([
      '2026-08-08',
      '2026-08-09',
      '2026-08-10',
      '2026-08-12',
      '2026-08-13',
    ]);
  });
});
