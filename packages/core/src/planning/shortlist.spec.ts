import fc from 'fast-check';
import { addDays, instantOf, startOfDay, endOfDay } from '../time/zones';
import { oneADay, partDecks, rankCandidates, type Candidate, type DayTask, type Decked } from './shortlist';

const ZONE = 'Europe/Vienna';
const decked = (id: string, more: Partial<Decked> = {}): Decked => ({
  ...{ id, parentId: null, deadline: null, deadlineFixed: false, repeat: null, waitingOn: null, assignedTo: null, pinned: false },
  ...more,
});

describe('clearing the decks', () => {
  it('leaves what is picked, promised, waited for, repeating or pinned', () => {
    const { stays, goes } = partDecks(
      [
        decked('picked'),
        decked('promised', { deadline: '2026-08-20', deadlineFixed: true }),
        decked('wish', { deadline: '2026-08-20' }),
        decked('waiting', { waitingOn: 'Jonas' }),
        decked('given', { assignedTo: 'Ines' }),
        decked('repeats', { repeat: 'FREQ=WEEKLY' }),
        decked('pinned', { pinned: true }),
        decked('rest'),
      ],
      new Set(['picked', 'gone']),
    );
    expect(goes).toEqual(['wish', 'rest']);
    expect(Object.fromEntries(stays)).toEqual({
      ...{ picked: 'picked', promised: 'promised', waiting: 'waiting', given: 'waiting', repeats: 'repeats', pinned: 'pinned' },
    });
  });

  it('a task stays or goes with its steps, and says the weightiest reason; circles end', () => {
    const tasks = [
      decked('big', { repeat: 'FREQ=DAILY' }),
      decked('step', { parentId: 'big' }),
      decked('deep', { parentId: 'step' }),
      decked('other'),
      decked('part', { parentId: 'other' }),
      decked('a', { parentId: 'b' }),
      decked('b', { parentId: 'a' }),
    ];
    const { stays, goes } = partDecks(tasks, new Set(['deep']));
    expect([...stays]).toEqual([['big', 'picked']]);
    expect(goes).toEqual(['other', 'part', 'a', 'b']);
  });

  it('candidates: what makes others easier first, then what is in danger and what others rely on', () => {
    const one = (id: string, more: Partial<Candidate> = {}): Candidate => ({
      ...{ id, deadline: null, deadlineFixed: false, priority: 'normal', lever: false, next: false, atRisk: false },
      ...more,
    });
    const ranked = rankCandidates(
      [
        one('plain'),
        one('low', { priority: 'low' }),
        one('far', { deadline: '2027-01-01', deadlineFixed: true }),
        one('soon', { deadline: '2026-08-10', deadlineFixed: true }),
        one('danger', { atRisk: true }),
        one('lever', { lever: true }),
      ],
      '2026-08-03',
    );
    expect(ranked.map(({ id }) => id)).toEqual(['lever', 'danger', 'soon', 'far', 'plain', 'low']);
  });
});

const at = (wall: string) => instantOf(wall, ZONE);
const gap = (day: string, from: string, to: string) => ({ start: at(`${day}T${from}`), end: at(`${day}T${to}`) });
const dayTask = (id: string, more: Partial<DayTask> = {}): DayTask => ({
  ...{ id, minutes: 60, concentration: 'medium', deadline: null, notBefore: null },
  ...more,
});
const PARTS = { from: 120, least: 30 };

describe('one a day', () => {
  const days = ['2026-08-04', '2026-08-05', '2026-08-06'];
  const gaps = days.map((day) => gap(day, '09:00', '12:00'));
  const base = { days, gaps, now: at('2026-08-03T10:50'), zone: ZONE, grid: 15, deep: [], parts: PARTS };

  it('each has a day of its own, in their order, what is due before its deadline', () => {
    const tasks = [dayTask('a'), dayTask('b'), dayTask('due', { deadline: at('2026-08-05T12:00') }), dayTask('more')];
    const { placed, without } = oneADay({ ...base, tasks });
    expect(placed.map(({ id, day }) => [id, day])).toEqual([
      ['due', '2026-08-04'],
      ['a', '2026-08-05'],
      ['b', '2026-08-06'],
    ]);
    expect(without).toEqual([{ id: 'more', why: 'days' }]);
  });

  it('what is late in any case takes no day from what can be in time', () => {
    const tasks = [
      dayTask('late', { deadline: at('2026-08-03T12:00') }),
      dayTask('due', { deadline: at('2026-08-04T17:00') }),
      dayTask('any'),
    ];
    const { placed } = oneADay({ ...base, tasks });
    expect(placed.map(({ id }) => id)).toEqual(['due', 'late', 'any']);
  });

  it('a long one begins with the longest part that fits; one that fits nowhere says so', () => {
    const small = [gap('2026-08-04', '09:00', '09:45')];
    const tasks = [dayTask('long', { minutes: 240 }), dayTask('hour'), dayTask('later', { notBefore: '2026-09-01' })];
    const { placed, without } = oneADay({ ...base, gaps: small, tasks });
    expect(placed).toEqual([{ id: 'long', day: '2026-08-04', slot: small[0] }]);
    expect(without).toEqual([
      { id: 'hour', why: 'gaps' },
      { id: 'later', why: 'gaps' },
    ]);
  });

  it('never two on a day, never outside a gap or its day, never what is over; all are accounted for', () => {
    const minute = fc.integer({ min: 0, max: 4 * 1440 });
    const gapsOf = fc.array(fc.tuple(minute, fc.integer({ min: 5, max: 600 })), { maxLength: 8 });
    const tasksOf = fc.array(
      fc.record({
        minutes: fc.integer({ min: 5, max: 400 }),
        concentration: fc.constantFrom('deep' as const, 'medium' as const, 'light' as const),
        due: fc.option(fc.integer({ min: 0, max: 5 * 1440 }), { nil: null }),
        after: fc.option(fc.integer({ min: 0, max: 4 }), { nil: null }),
      }),
      { maxLength: 9 },
    );
    // Over the end of summer time: one of the days has 25 hours.
    const first = '2026-10-24';
    const begin = startOfDay(first, ZONE);
    const four = [0, 1, 2, 3].map((count) => addDays(first, count));
    fc.assert(
      fc.property(gapsOf, tasksOf, minute, (free, many, since) => {
        const own = free.map(([from, length]) => ({ start: begin + from * 60_000, end: begin + (from + length) * 60_000 }));
        const now = begin + since * 60_000;
        const tasks = many.map(({ due, after, ...task }, id) => ({
          ...task,
          id: String(id),
          deadline: due === null ? null : begin + due * 60_000,
          notBefore: after === null ? null : addDays(first, after),
        }));
        const { placed, without } = oneADay({
          tasks,
          days: four,
          gaps: own,
          now,
          zone: ZONE,
          grid: 5,
          deep: ['09:00-12:00'],
          parts: PARTS,
        });
        expect(new Set(placed.map(({ day }) => day)).size).toBe(placed.length);
        expect([...placed, ...without].map(({ id }) => id).sort()).toEqual(tasks.map(({ id }) => id).sort());
        for (const { id, day, slot } of placed) {
          expect(slot.start).toBeGreaterThanOrEqual(Math.max(now, startOfDay(day, ZONE)));
          expect(slot.end).toBeLessThanOrEqual(endOfDay(day, ZONE));
          expect(own.some(({ start, end }) => start <= slot.start && slot.end <= end)).toBe(true);
          expect((tasks.find((task) => task.id === id)?.notBefore ?? '') <= day).toBe(true);
        }
      }),
    );
  });
});
