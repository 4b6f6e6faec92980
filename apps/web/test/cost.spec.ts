import type { IncomingFull, Overlap } from '@corvun/contract';
import { askedBy, movesOf, sayYes } from '../src/cost/cost';

const overlap = (more: Partial<Overlap>): Overlap => ({
  ...{ kind: 'block', id: 'b', taskId: 't', title: 'Compare quotes', allDay: false, calendar: null, movable: true },
  ...{ start: '2026-08-05T14:00:00+02:00', end: '2026-08-05T15:00:00+02:00', moveTo: null, reasons: [], late: false },
  ...more,
});
const invitation = (state: 'waiting' | 'decided', more: object): IncomingFull =>
  ({ state, invitation: { method: 'REQUEST', answerable: true, answered: null, eventId: 'e', ...more } }) as IncomingFull;

describe('what a yes costs, in a window', () => {
  it('moves what finds a place, and nothing else', () => {
    const to = { start: '2026-08-06T09:00:00+02:00', end: '2026-08-06T10:00:00+02:00' };
    const overlaps = [overlap({ moveTo: to }), overlap({ id: 'stuck' }), overlap({ kind: 'event', id: 'e', movable: false })];
    expect(movesOf({ overlaps })).toEqual([{ block: 'b', start: to.start }]);
    expect(movesOf(undefined)).toEqual([]);
  });

  it('says the whole act', () =>
    expect([0, 1, 2].map(sayYes)).toEqual(['Say yes', 'Say yes, and move 1 block', 'Say yes, and move 2 blocks']));

  it('is asked for an invitation that waits and can be answered with yes', () => {
    expect(askedBy(invitation('waiting', {}))).toEqual({ event: 'e' });
    for (const more of [{ answerable: false }, { answered: 'yes' }, { eventId: null }, { method: 'COUNTER' }])
      expect(askedBy(invitation('waiting', more))).toBeNull();
    expect(askedBy(invitation('decided', {}))).toBeNull();
    expect(askedBy(undefined)).toBeNull();
  });
});
