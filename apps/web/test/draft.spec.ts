import type { Proposal } from '@corvun/contract';
import { leaving, nameOf, wanted } from '../src/places/plan/proposing';

const block = (taskId: string, start: string, of: string | null = null): Proposal['blocks'][number] => ({
  ...{ taskId, title: taskId, listId: null, minutes: 30, block: of, was: null, late: false },
  ...{ start, end: start },
});
const proposal: Proposal = {
  ...{ from: '2026-08-03', to: '2026-08-03', without: [], further: 0, stays: 0, cost: 1 },
  blocks: [block('a', '2026-08-03T09:00:00+02:00'), block('b', '2026-08-03T10:00:00+02:00', 'old')],
  gone: [{ block: 'late', taskId: 'c', title: 'c', start: '2026-08-03T11:00:00+02:00', end: '2026-08-03T11:30:00+02:00' }],
};

describe('what of a plan is done', () => {
  it('is all of it, or what is not left out, with the blocks that move', () => {
    expect(wanted(proposal, new Set())).toEqual({
      blocks: [
        { taskId: 'a', start: '2026-08-03T09:00:00+02:00', minutes: 30 },
        { taskId: 'b', start: '2026-08-03T10:00:00+02:00', minutes: 30, block: 'old' },
      ],
      gone: ['late'],
    });
    const [, second] = proposal.blocks;
    const not = new Set([second ? nameOf(second) : '', 'gone late']);
    expect(wanted(proposal, not)).toMatchObject({ blocks: [{ taskId: 'a' }], gone: [] });
  });

  it('takes from where they stand the blocks that move or are given back', () => {
    expect([...leaving(proposal, new Set())]).toEqual(['old', 'late']);
    expect([...leaving(proposal, new Set(['gone late']))]).toEqual(['old']);
  });
});
