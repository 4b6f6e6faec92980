import type { BlockMove, IncomingFull, IncomingLine, YesCost, YesCostQuery } from '@corvun/contract';
import { count } from '@corvun/core';
import { useQuery } from '@tanstack/react-query';
import { get } from '../data/api';
import { client } from '../data/queries';

const keyOf = (query: YesCostQuery | null) => ['cost', query?.event, query?.occurrence, query?.start, query?.minutes];

/** What a yes costs: to an event that is there, or to one at a time; nothing is asked for null. */
export const useYesCost = (query: YesCostQuery | null) =>
  useQuery({ queryKey: keyOf(query), queryFn: () => get('/cost', { ...query }), enabled: query !== null });

/** The event an invitation asks about, while it can be answered with yes. */
export const askedBy = (incoming: IncomingFull | undefined): YesCostQuery | null => {
  const invitation = incoming?.state === 'waiting' ? incoming.invitation : null;
  return invitation?.answerable && invitation.eventId && invitation.method !== 'COUNTER' && !invitation.answered
    ? { event: invitation.eventId }
    : null;
};

/** Own time that gives way, as a decision takes it. */
export const movesOf = (cost: Pick<YesCost, 'overlaps'> | undefined): BlockMove[] =>
  (cost?.overlaps ?? []).flatMap(({ id, moveTo }) => (moveTo ? [{ block: id, start: moveTo.start }] : []));

/** The moves that are shown for an invitation; none while they are not known. */
export function shownMoves(incoming: IncomingFull | undefined): { moves?: BlockMove[] } {
  const query = askedBy(incoming);
  const moves = query ? movesOf(client.getQueryData<YesCost>(keyOf(query))) : [];
  return moves.length ? { moves } : {};
}

/** The answers to an invitation, and what stands on their buttons. */
export const REPLIES = [
  ['yes', 'Yes'],
  ['maybe', 'Maybe'],
  ['no', 'No'],
] as const;

/** How much own time the yes that is proposed for an invitation would move. */
export const useMoves = ({ suggestion }: Pick<IncomingLine, 'suggestion'>, incoming: IncomingFull | undefined): number =>
  movesOf(useYesCost(suggestion?.to === 'answer' ? askedBy(incoming) : null).data).length;

/** The whole act: `Say yes, and move two blocks`. */
export const sayYes = (moves: number): string => (moves ? `Say yes, and move ${count(moves, 'block')}` : 'Say yes');
