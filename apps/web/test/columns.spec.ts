import type { CalendarInfo } from '@corvun/contract';
import fc from 'fast-check';
import { layOut } from '../src/places/plan/grid';
import { calendarAt, changesCalendar, sidesOf } from '../src/places/plan/sides';
import { slotsOf } from '../src/places/plan/useSlots';
import { DAY, ZONE, dayWith, entry } from './entries';

const EMPTY = { day: '', of: new Map<string, number>() };
const span = fc.tuple(fc.integer({ min: 0, max: 1300 }), fc.integer({ min: 5, max: 139 }));
const some = fc.uniqueArray(span, { maxLength: 12, selector: ([from, length]) => `${from}-${from + length}` });
const laid = (spans: readonly [number, number][], day = DAY) =>
  layOut(
    spans.map(([from, length]) => entry(from, from + length)),
    day,
    ZONE,
  );

describe('what entries of a column are drawn in', () => {
  it('each has one of its own, and keeps it while others come and go on that day', () => {
    fc.assert(
      fc.property(some, some, (first, second) => {
        const before = slotsOf(EMPTY, DAY, laid(first));
        const after = slotsOf(before, DAY, laid(second));
        const names = laid(second).map((one) => one.entry.id + one.entry.start);
        const slots = names.map((name) => after.of.get(name));
        expect(new Set(slots).size).toBe(names.length);
        for (const [at, name] of names.entries()) if (before.of.has(name)) expect(slots[at]).toBe(before.of.get(name));
      }),
    );
  });

  it('another day is drawn in those that are there', () => {
    const before = slotsOf(EMPTY, '2026-08-02', laid([[540, 60]]));
    const after = slotsOf(
      before,
      DAY,
      laid([
        [600, 30],
        [700, 30],
      ]),
    );
    expect([...after.of.values()]).toEqual([0, 1]);
    expect(slotsOf(after, DAY, laid([[600, 30]]))).toBe(after);
  });
});

describe('calendars side by side', () => {
  const calendar = (id: string, more: Partial<CalendarInfo> = {}): CalendarInfo => ({
    ...{ id, name: id, code: 'AA', hue: 0, origin: 'own', main: false, shown: true, busy: true, version: 1 },
    ...more,
  });
  const fen = entry(540, 600, { calendarId: 'fen' });
  const block = entry(600, 660, { kind: 'block', taskId: 't' });

  it('own time comes first, then each calendar that is shown, each with what stands in it', () => {
    const sides = sidesOf(dayWith([fen, block], []), [calendar('fen'), calendar('home'), calendar('gone', { shown: false })]);
    expect(sides.map(({ name, day }) => [name, day.entries])).toEqual([
      ['Own time', [block]],
      ['fen', [fen]],
      ['home', []],
    ]);
  });

  it('an event stands in its calendar or the one it is dragged into; own time, and one date of a series, in no other', () => {
    const moved = { what: 'move', entry: fen } as const;
    expect(calendarAt({}, moved)).toBe('fen');
    expect(calendarAt({ calendarId: 'home' }, moved)).toBe('home');
    expect(calendarAt({}, { what: 'move', entry: block })).toBeNull();
    expect(calendarAt({}, { what: 'cards', cards: [] })).toBeNull();
    expect(changesCalendar(moved)).toBe(true);
    expect(changesCalendar({ what: 'resize', entry: fen })).toBe(false);
    expect(changesCalendar({ what: 'move', entry: block })).toBe(false);
    expect(changesCalendar({ what: 'move', entry: { ...fen, occurrence: '2026-08-03T09:00' } })).toBe(false);
  });
});
