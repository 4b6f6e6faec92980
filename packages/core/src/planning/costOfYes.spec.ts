import fc from 'fast-check';
import { subtract, union, type Interval } from '../time/intervals';
import { MINUTE, instantOf, wallOf } from '../time/zones';
import { costOfYes, type OwnTime, type YesInput } from './costOfYes';
import { safeStarts, type Demand } from './safeStart';

const ZONE = 'Europe/Vienna';
const at = (wall: string) => instantOf(wall, ZONE);
const span = (from: string, to: string): Interval => ({ start: at(from), end: at(to) });
const wall = (instant: number | null | undefined) =>
  instant === null || instant === undefined ? null : wallOf(instant, ZONE).slice(5);

/** Minute by minute, as it is said. */
function byMinutes(free: readonly Interval[], demands: readonly Demand[]) {
  const left = new Map(demands.map(({ id, minutes }) => [id, minutes]));
  const first = new Map<string, number>();
  const last = Math.max(0, ...free.map(({ end }) => end));
  for (let minute = last - MINUTE; minute >= Math.min(...free.map(({ start }) => start)); minute -= MINUTE) {
    if (!free.some(({ start, end }) => minute >= start && minute < end)) continue;
    const [one] = demands
      .filter(({ id, deadline }) => deadline >= minute + MINUTE && (left.get(id) ?? 0) > 0)
      .sort((a, b) => b.deadline - a.deadline || (a.id < b.id ? -1 : 1));
    if (!one) continue;
    left.set(one.id, (left.get(one.id) ?? 0) - 1);
    first.set(one.id, minute);
  }
  return demands.map(({ id }) => ({ late: left.get(id) ?? 0, start: (left.get(id) ?? 0) > 0 ? null : (first.get(id) ?? null) }));
}

describe('the last safe start', () => {
  it('lays work out as late as it can, around what is taken', () => {
    const free = [span('2026-08-03T09:00', '2026-08-03T12:00'), span('2026-08-04T09:00', '2026-08-04T12:00')];
    const found = safeStarts(free, [
      { id: 'a', minutes: 120, deadline: at('2026-08-04T12:00') },
      { id: 'b', minutes: 90, deadline: at('2026-08-04T11:00') },
      { id: 'c', minutes: 300, deadline: at('2026-08-03T12:00') },
    ]);
    expect(found.map(({ lastSafeStart, lateMinutes }) => [wall(lastSafeStart), lateMinutes])).toEqual([
      ['08-04T10:00', 0],
      ['08-03T11:30', 0],
      [null, 150],
    ]);
  });

  it('is what counting minute by minute gives', () => {
    const demand = fc.tuple(fc.integer({ min: 1, max: 60 }), fc.integer({ min: 0, max: 200 }));
    const gap = fc.tuple(fc.integer({ min: 0, max: 40 }), fc.integer({ min: 1, max: 40 }));
    fc.assert(
      fc.property(fc.array(gap, { minLength: 1, maxLength: 5 }), fc.array(demand, { maxLength: 5 }), (gaps, wanted) => {
        let from = 0;
        const free = gaps.map(([pause, length]) => {
          const start = from + pause;
          from = start + length;
          return { start: start * MINUTE, end: from * MINUTE };
        });
        const demands = wanted.map(([minutes, deadline], id) => ({ id: String(id), minutes, deadline: deadline * MINUTE }));
        const found = safeStarts(union(free), demands);
        expect(found.map(({ lateMinutes, lastSafeStart }) => ({ late: lateMinutes, start: lastSafeStart }))).toEqual(
          byMinutes(free, demands),
        );
        // As much as its slack can be taken away, and no more, without making it late.
        for (const one of found.filter(({ slackMinutes, lastSafeStart }) => slackMinutes > 0 && lastSafeStart !== null)) {
          const early = free
            .map(({ start, end }) => ({ start, end: Math.min(end, one.lastSafeStart ?? 0) }))
            .filter(({ start, end }) => end > start);
          expect(one.slackMinutes * MINUTE).toBeLessThanOrEqual(early.reduce((sum, { start, end }) => sum + end - start, 0));
        }
      }),
    );
  });
});

describe('what a yes costs', () => {
  const own = (id: string, from: string, to: string, more: Partial<OwnTime> = {}): OwnTime => ({
    ...{ id, taskId: `task ${id}`, concentration: 'medium', deadline: null },
    ...span(from, to),
    ...more,
  });
  const base: YesInput = {
    asked: span('2026-08-05T14:00', '2026-08-05T15:30'),
    whole: span('2026-08-05T14:00', '2026-08-05T15:30'),
    now: at('2026-08-03T10:00'),
    zone: ZONE,
    working: ['03', '04', '05', '06'].map((day) => span(`2026-08-${day}T09:00`, `2026-08-${day}T17:00`)),
    promised: [
      span('2026-08-03T09:00', '2026-08-03T17:00'),
      span('2026-08-04T09:00', '2026-08-04T17:00'),
      span('2026-08-05T09:00', '2026-08-05T12:00'),
    ],
    own: [],
    theirs: [],
    demands: [],
    grid: 15,
  };

  it('is nothing where nothing stands', () => {
    const cost = costOfYes(base);
    expect(cost).toMatchObject({ moves: [], minutes: 0, deadlines: [], left: { minutes: 210, gaps: 2 } });
    expect(cost.instead.map(({ slot }) => wall(slot.start))).toContain('08-06T09:00');
    const idle = costOfYes({ ...base, promised: [] });
    expect(idle.instead.every(({ slot }) => slot.start >= at('2026-08-04T00:00'))).toBe(true);
  });

  it('moves own time to its best place, what is due first first, and never two to the same', () => {
    const blocks = [
      own('late', '2026-08-05T14:00', '2026-08-05T15:00'),
      own('due', '2026-08-05T15:00', '2026-08-05T16:30', { deadline: at('2026-08-05T17:00') }),
    ];
    const { moves, minutes } = costOfYes({ ...base, own: blocks });
    expect(moves.map(({ id, to, late }) => [id, wall(to?.start), late])).toEqual([
      ['late', '08-06T09:00', false],
      ['due', '08-05T15:30', false],
    ]);
    expect(minutes).toBe(150);
  });

  it('counts what belongs to it as taken, and offers times at which that fits, too', () => {
    const blocks = [own('near', '2026-08-05T15:40', '2026-08-05T16:10')];
    expect(costOfYes({ ...base, own: blocks }).moves).toEqual([]);
    const whole = span('2026-08-05T13:30', '2026-08-05T16:00');
    const cost = costOfYes({ ...base, own: blocks, whole });
    expect(cost.moves.map(({ id }) => id)).toEqual(['near']);
    expect(cost.left.minutes).toBe(costOfYes({ ...base, own: blocks }).left.minutes - 60);
    expect(cost.instead.every(({ slot }) => slot.end - slot.start === 90 * MINUTE)).toBe(true);
  });

  it('offers times that suit guests, too: what belongs to it before and after is no time of theirs', () => {
    const working = [span('2026-08-06T09:00', '2026-08-06T12:00')];
    const starts = (more: Partial<YesInput>) =>
      costOfYes({ ...base, working, promised: [], ...more }).instead.map(({ slot }) => wall(slot.start));
    expect(starts({})).toContain('08-06T09:00');
    const theirs = [span('2026-08-06T09:00', '2026-08-06T10:30')];
    expect(starts({ theirs })).toEqual(['08-06T10:30']);
    const whole = span('2026-08-05T13:30', '2026-08-05T15:30');
    expect(starts({ theirs, whole })).toEqual(['08-06T10:30']);
    expect(starts({ theirs: [span('2026-08-06T08:00', '2026-08-06T11:00')], whole })).toEqual([]);
  });

  it('leaves what has begun, and what finds no place stays without one', () => {
    const full = { ...base, working: base.working.slice(0, 3) };
    const blocks = [own('long', '2026-08-05T13:00', '2026-08-05T17:00')];
    expect(costOfYes({ ...full, own: blocks }).moves[0]?.to).toBeNull();
    expect(costOfYes({ ...full, own: blocks, now: at('2026-08-05T13:30') }).moves).toEqual([]);
  });

  it('keeps a break on its day, as near as it can be', () => {
    const blocks = [own('break', '2026-08-05T14:45', '2026-08-05T15:15', { taskId: null })];
    expect(wall(costOfYes({ ...base, own: blocks }).moves[0]?.to?.start)).toBe('08-05T15:30');
  });

  it('says which deadline gets close, and by how much it is missed', () => {
    const demands = [{ id: 'report', minutes: 180, deadline: at('2026-08-05T17:00') }];
    const { deadlines } = costOfYes({ ...base, demands });
    expect(
      deadlines.map(({ before, after }) => [
        wall(before.lastSafeStart),
        before.slackMinutes,
        wall(after.lastSafeStart),
        after.slackMinutes,
      ]),
    ).toEqual([['08-05T14:00', 120, '08-05T12:30', 30]]);
    const more = costOfYes({
      ...base,
      demands: [{ ...demands[0], id: 'report', minutes: 240, deadline: at('2026-08-05T17:00') }],
    });
    expect(more.deadlines[0]?.after).toMatchObject({ lastSafeStart: null, lateMinutes: 30 });
    expect(costOfYes({ ...base, demands: [{ id: 'far', minutes: 60, deadline: at('2026-08-06T17:00') }] }).deadlines).toEqual([]);
  });

  it('never moves anything onto what is promised, and never out of working time', () => {
    const block = fc.tuple(fc.integer({ min: 0, max: 30 }), fc.integer({ min: 1, max: 8 }));
    fc.assert(
      fc.property(
        fc.array(block, { maxLength: 6 }),
        fc.array(block, { maxLength: 4 }),
        block,
        (blocks, meetings, [from, length]) => {
          const quarter = (number: number) => at('2026-08-05T09:00') + number * 15 * MINUTE;
          const asked = { start: quarter(from), end: quarter(from + length) };
          const promised = meetings.map(([start, size]) => ({ start: quarter(start), end: quarter(start + size) }));
          const blocksOf = blocks.map(([start, size], id) => ({
            ...own(String(id), '2026-08-05T09:00', '2026-08-05T09:00'),
            start: quarter(start),
            end: quarter(start + size),
          }));
          const { moves } = costOfYes({ ...base, asked, whole: asked, promised, own: blocksOf });
          const places = moves.flatMap(({ to }) => to ?? []);
          const free = subtract(base.working, [
            ...promised,
            asked,
            ...blocksOf.filter(({ id }) => !moves.some((one) => one.id === id)),
          ]);
          for (const place of places) expect(free.some(({ start, end }) => place.start >= start && place.end <= end)).toBe(true);
          expect(places.reduce((sum, one) => sum + one.end - one.start, 0)).toBe(
            union(places).reduce((sum, one) => sum + one.end - one.start, 0),
          );
        },
      ),
    );
  });
});
