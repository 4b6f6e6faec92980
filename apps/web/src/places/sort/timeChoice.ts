import type { DayInfo, IncomingLine, Me } from '@corvun/contract';
import { bestSlots, numberedGaps, parseIso, type BestSlot, type NumberedGap } from '@corvun/core';
import type { UseQueryResult } from '@tanstack/react-query';
import { useState } from 'react';
import { useLists } from '../../data/queries';
import { useDrafts } from './draft';
import { proposalOf } from './proposal';
import { gapsOf } from '../../parts/gaps';
import type { Decide } from './decide';

const DEFAULT_PART = 60;

/** Several blocks for one task: how long each is, and where they begin. */
export interface Several {
  minutes: number;
  starts: number[];
}

export interface TimeChoice {
  /** What is free as far as it is read. Before, there is nothing to choose from, and nothing to say about it. */
  free: FreeTime;
  /** Gaps of the day strip that fit, numbered. */
  gaps: NumberedGap[];
  /** The same while a time is being chosen, else none. */
  lit: NumberedGap[];
  best: BestSlot[];
  /** The slot that is proposed along with a time: the best of the proposed day, else the best there is. */
  proposed: BestSlot | null;
  minutes: number;
  several: Several | null;
  setSeveral: (several: Several | null) => void;
  /** Takes a gap: places there, or adds it to the several. */
  take: (gap: NumberedGap, of?: IncomingLine) => void;
  placeAt: (start: number, of?: IncomingLine) => void;
  placeSeveral: () => void;
}

/** The days that were asked for. */
type FreeTime = Pick<UseQueryResult<DayInfo[]>, 'data' | 'error' | 'refetch'>;

interface Sources {
  me: Me;
  now: number;
  free: FreeTime;
  shown: DayInfo[];
  /** The incoming for which a time is being chosen. */
  timed: IncomingLine | null;
  current: IncomingLine | undefined;
  decide: Decide;
}

export const NO_DAYS: DayInfo[] = [];
const NOTHING_LIT: NumberedGap[] = [];

/** Where time can be set aside for what is open, and what choosing a gap does. */
export function useTimeChoice({ me, now, free, shown, timed, current, decide }: Sources): TimeChoice {
  const lists = useLists();
  const days = free.data ?? NO_DAYS;
  const [kept, setKept] = useState<{ id: string; several: Several } | null>(null);
  const of = timed ?? current;
  const draft = useDrafts((state) => (of ? state.drafts[of.id] : undefined));
  const proposal = of ? proposalOf(of, draft) : null;
  const several = timed && kept?.id === timed.id ? kept.several : null;
  const concentration = lists.data?.find((list) => list.name === proposal?.list)?.concentration ?? 'medium';
  const minutes = several?.minutes ?? proposal?.minutes ?? me.settings.lengths[concentration];
  const gaps = numberedGaps(gapsOf(shown), minutes, now);
  const deadline = proposal?.deadline
    ? parseIso(proposal.deadline.length > 10 ? proposal.deadline : `${proposal.deadline}T23:59`, me.zone)
    : null;
  const wish = { minutes, concentration, deadline, now, zone: me.zone, deep: me.settings.planning.deep };
  const best = timed ? bestSlots(gapsOf(days), wish) : [];
  const wanted = current?.suggestion?.to === 'time' ? days.filter((day) => day.day === proposal?.day) : [];
  const proposed = wanted.length ? (bestSlots(gapsOf(wanted), wish)[0] ?? bestSlots(gapsOf(days), wish)[0] ?? null) : null;
  const iso = (start: number) => new Date(start).toISOString();
  const setSeveral = (next: Several | null) => setKept(timed && next ? { id: timed.id, several: next } : null);
  const placeAt = (start: number, line?: IncomingLine) => void decide({ to: 'time', start: iso(start), minutes }, line);
  return {
    free,
    gaps,
    lit: timed ? gaps : NOTHING_LIT,
    best,
    proposed,
    minutes,
    several,
    setSeveral,
    placeAt,
    take: (gap, line) => {
      if (!several || line) return placeAt(gap.slot.start, line);
      const { starts } = several;
      const without = starts.filter((start) => start !== gap.slot.start);
      return setSeveral({ ...several, starts: without.length < starts.length ? without : [...starts, gap.slot.start] });
    },
    placeSeveral: () => {
      if (!several?.starts.length) return;
      const slots = several.starts.map((start) => ({ start: iso(start), minutes: several.minutes }));
      void decide({ to: 'time', slots });
    },
  };
}

/** How long a part is at first: the whole where that is short, else an hour. */
export const firstPart = (minutes: number): number => (minutes > DEFAULT_PART ? DEFAULT_PART : minutes);
