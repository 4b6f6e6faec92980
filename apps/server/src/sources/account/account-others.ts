import type { CollectionChoice } from '@corvun/contract';
import type { Interval } from '@corvun/core';
import { SourceProblem } from '../problem';
import type { Source } from '../source.entity';
import type { Collection, DavClient } from './dav-client';

const MINUTE = 60_000;
const DAY = 86_400_000;
/** The kind of a choice in front of its path: somebody's free and busy time. */
export const FREE = 'free:';
/** It is asked for again after this. */
const FRESH = 10 * MINUTE;
/** How far it is asked for. */
const AHEAD = 60 * DAY;

/** When somebody is busy, as far as it is known. */
export interface Busy extends Interval {
  /** When it was asked for. */
  at: number;
  /** Why it is not known; the stretch it is known for is empty then. */
  why?: string;
  stretches: [start: number, end: number][];
}

/** Calendars that tell when somebody is busy: those of others, and what one can only read. */
export const tellsBusy = ({ things, ofOther, writable }: Collection): boolean => things === 'events' && (ofOther || !writable);

export const freeChoice = ({ path }: Pick<Collection, 'path'>): string => FREE + path;

/** Nothing of it stands here: only whose time it is. */
export const freeOnly = ({ id, name, address = '' }: CollectionChoice): CollectionChoice => ({
  id,
  name,
  address: address.trim().toLowerCase(),
});

/** What is refused is kept as such: the account's own calendars go on. @throws SourceProblem where to wait is all that helps */
export async function busyOf(client: DavClient, there: Collection, now: number): Promise<Busy> {
  const range = { start: now - DAY, end: now + AHEAD };
  try {
    const stretches = await client.freeBusy(there, range);
    return { ...range, at: now, stretches: stretches.map(({ start, end }) => [start, end]) };
  } catch (problem) {
    if (!(problem instanceof SourceProblem) || problem.kind !== 'refused') throw problem;
    const why = `It is not told when ${there.name} is busy: ${problem.message}`;
    return { start: now, end: now, at: now, why, stretches: [] };
  }
}

export const isFresh = (known: Busy | undefined, now: number): boolean =>
  known !== undefined && known.at <= now && now - known.at < FRESH;

/** What is known of when people are busy, by mail address; each with what their calendar is called. */
export function busyPeople(sources: readonly Source[]): Map<string, (Busy & { name: string })[]> {
  const found = new Map<string, (Busy & { name: string })[]>();
  for (const { settings, cursor } of sources)
    for (const { id, name, address } of settings.collections ?? []) {
      const known = (cursor['busy'] as Record<string, Busy> | undefined)?.[id];
      if (known && address) found.set(address, [...(found.get(address) ?? []), { ...known, name }]);
    }
  return found;
}
