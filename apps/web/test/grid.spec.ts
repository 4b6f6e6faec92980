import type { AgendaEntry } from '@corvun/contract';
import fc from 'fast-check';
import { clockText, layOut, minuteOn, minutesOf, snap } from '../src/places/plan/grid';
import { stripDays } from '../src/places/sort/strip-days';

const ZONE = 'Europe/Vienna';
const DAY = '2026-08-03';

function entry(from: number, to: number, more: Partial<AgendaEntry> = {}): AgendaEntry {
  const at = (minutes: number) =>
    `${DAY}T${String(Math.floor(minutes / 60)).padStart(2, '0')}:${String(minutes % 60).padStart(2, '0')}:00+02:00`;
  return {
    kind: 'event',
    id: `${from}-${to}`,
    title: 'x',
    start: at(from),
    end: at(to),
    allDay: false,
    day: DAY,
    calendar: null,
    calendarId: null,
    listId: null,
    taskId: null,
    incomingId: null,
    status: 'CONFIRMED',
    showAs: 'busy',
    location: '',
    minutes: null,
    deadline: null,
    deadlineFixed: false,
    occurrence: null,
    fixed: null,
    version: 1,
    ...more,
  };
}

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

describe('the days of the strip', () => {
  const day = (name: string, working: boolean, entries: AgendaEntry[] = []) => ({
    day: name,
    working: working ? [{ start: '', end: '' }] : [],
    gaps: [],
    off: null,
    unseen: [],
    entries,
    load: { capacity: 0, meetings: 0, blocks: 0, unplaced: 0, left: 0, over: 0 },
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
