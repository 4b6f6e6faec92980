import type { ProjectInfo } from '@corvun/contract';
import fc from 'fast-check';
import { WIDE, cardsOf, isLike, liesIn, rowsOf, widthOf, type Card } from '../src/places/plan/tray';
import { task } from './entries';

const LENGTHS = { deep: 90, medium: 30, light: 15 };
const TODAY = '2026-08-03';
const looking = (sourceId: string | null, projects: ProjectInfo[] = []) => ({
  today: TODAY,
  sourceId,
  projects,
  picks: ['listed'],
});
const minutes = (more: Parameters<typeof task>[0]) => cardsOf([task(more)], LENGTHS).map((card) => card.minutes);
const block = { id: 'b', start: '2026-08-04T09:00:00+02:00', end: '2026-08-04T10:00:00+02:00' };

describe('the tray', () => {
  it('holds open work for as long as it misses time', () => {
    expect(minutes({ estimate: 240, placed: 120, blocks: [block] })).toEqual([120]);
    expect(minutes({ estimate: 60, placed: 60, blocks: [block] })).toEqual([]);
    expect(minutes({ estimate: null, concentration: 'deep' })).toEqual([90]);
    for (const not of [{ status: 'COMPLETED' }, { shelved: true }, { waitingOn: 'Ines Aalto' }, { assignedTo: 'Jonas' }] as const)
      expect(minutes(not)).toEqual([]);
  });

  it('has a task again whose time is over while it is still open', () => {
    expect(minutes({ estimate: 120, placed: 120 })).toEqual([30]);
  });

  it('a step is in it only where it says how long it takes', () => {
    expect([minutes({ parentId: 'p', estimate: null }), minutes({ parentId: 'p', estimate: 15 })]).toEqual([[], [15]]);
  });

  const card = (more: Parameters<typeof task>[0]): Card => ({ task: task(more), minutes: 60 });
  it('has drawers', () => {
    const all = {
      due: card({ deadline: '2026-08-10T12:00' }),
      later: card({ deadline: '2026-08-11' }),
      week: card({ plannedWeek: '2026-W32' }),
    };
    const left = card({ id: 'left', plannedDay: '2026-07-30' });
    const from = card({ sourceId: 'board' });
    expect([all.due, all.later, all.week].map((one) => liesIn(one, 'soon', looking(null)))).toEqual([true, false, false]);
    expect([all.due, all.week, left].map((one) => liesIn(one, 'week', looking(null)))).toEqual([false, true, true]);
    expect(['board', 'other', null].map((id) => liesIn(from, 'source', looking(id)))).toEqual([true, false, true]);
    const long = card({ plannedDay: '2026-07-27' });
    const stalled = { stalled: 'Nothing was done for 20 days.', next: { id: 'step', title: '' } } as ProjectInfo;
    const step = card({ id: 'step' });
    expect([left, long, step].map((one) => liesIn(one, 'stalled', looking(null, [stalled])))).toEqual([false, true, true]);
    expect(liesIn(step, 'stalled', looking(null))).toBe(false);
    expect([card({ id: 'listed' }), left].map((one) => liesIn(one, 'shortlist', looking(null)))).toEqual([true, false]);
    expect(liesIn(card({ plannedWeek: '2026-W30' }), 'stalled', looking(null))).toBe(true);
    expect([isLike(card({ tags: ['yard'] }), 'gate #yard'), isLike(card({}), 'gate #yard')]).toEqual([true, false]);
  });

  it('cards are as wide as they are long, and never wider than there is room', () => {
    expect(widthOf({ task: task({}), minutes: 120 }, 1200)).toBe(WIDE * 2);
    expect(widthOf({ task: task({}), minutes: 600 }, 700)).toBe(700);
  });

  it('lays every card once, none beyond the edge', () => {
    const lengths = fc.array(fc.integer({ min: 5, max: 600 }), { maxLength: 60 });
    fc.assert(
      fc.property(lengths, fc.integer({ min: 150, max: 2000 }), (all, room) => {
        const cards = all.map((one, at): Card => ({ task: task({ id: `t${at}`, position: at }), minutes: one }));
        const rows = rowsOf(cards, { group: 'none', sort: 'hand', today: TODAY, lists: [] }, room);
        const laid = rows.flatMap((row) => (row.kind === 'cards' ? row.cards.map((one) => one.card.task.id) : []));
        expect(laid).toEqual(cards.map((one) => one.task.id));
        for (const row of rows)
          if (row.kind === 'cards') expect(row.cards.reduce((sum, one) => sum + one.width + 10, -10)).toBeLessThanOrEqual(room);
      }),
    );
  });
});
