import type { Interval } from '../time/intervals';
import { sayDay, sayTime } from '../text/say';
import { dayOf, type Instant, type Zone } from '../time/zones';
import type { Phase } from './headsDown';

/** How one is, for others; nothing of what one does is said. */
export type PresenceKind = 'own' | 'meeting' | 'quiet' | 'pause' | 'work' | 'away';

export interface Presence {
  kind: PresenceKind;
  text: string;
  /** When it is over; null: it is not known. */
  until: Instant | null;
  /** Whether messages wait. */
  dnd: boolean;
}

export interface PresenceInput {
  zone: Zone;
  /** Working time of today and some days more. */
  working: readonly Interval[];
  meetings: readonly Interval[];
  quiet: readonly Interval[];
  breaks: readonly Interval[];
  headsDown: { phase: Phase; until: Instant | null } | null;
  /** Own words, and until when they hold. */
  own: { text: string; until: Instant } | null;
}

/** Of what covers a moment, the one that lasts longest. */
export const covering = <T extends Interval>(all: readonly T[], now: Instant): T | undefined =>
  all.filter(({ start, end }) => start <= now && now < end).sort((a, b) => b.end - a.end)[0];

function sayUntil(words: string, until: Instant | null, now: Instant, zone: Zone): string {
  if (until === null) return words;
  const day = dayOf(until, zone);
  const today = dayOf(now, zone);
  return `${words} until ${day === today ? '' : `${sayDay(day, today)}, `}${sayTime(until, zone)}`;
}

/**
 * How one is at a moment: what one says oneself, else a meeting, else heads-down and quiet time, in which messages wait, else a
 * pause, else at work within working hours, and away outside.
 */
export function presenceAt(input: PresenceInput, now: Instant): Presence {
  const { zone, working, headsDown, own } = input;
  const said = (kind: PresenceKind, words: string, until: Instant | null, dnd = false): Presence => ({
    ...{ kind, until, dnd },
    text: sayUntil(words, until, now, zone),
  });
  const quiet = covering(input.quiet, now);
  const works = headsDown?.phase === 'work' ? headsDown : null;
  const dnd = works !== null || (quiet !== undefined && headsDown === null);
  if (own && own.until > now) return { kind: 'own', text: own.text, until: own.until, dnd };
  const meeting = covering(input.meetings, now);
  if (meeting) return said('meeting', 'In a meeting', meeting.end);
  // Short pauses in between change nothing for others: it is quiet as long as the longer of both.
  if (works) return said('quiet', 'Quiet', Math.max(works.until ?? now, quiet?.end ?? now), true);
  if (headsDown) return said('pause', 'Pause', headsDown.until);
  if (quiet) return said('quiet', 'Quiet', quiet.end, true);
  const rest = covering(input.breaks, now);
  if (rest) return said('pause', 'Pause', rest.end);
  const here = covering(working, now);
  if (here) return said('work', 'At work', null);
  const next = working.filter(({ start }) => start > now).sort((a, b) => a.start - b.start)[0];
  const pause =
    next &&
    dayOf(next.start, zone) === dayOf(now, zone) &&
    working.some(({ end }) => end <= now && dayOf(end, zone) === dayOf(now, zone));
  return said(pause ? 'pause' : 'away', pause ? 'Pause' : 'Away', next?.start ?? null);
}

/** When it can change next by itself; null: nothing is known that changes it. */
export function presenceTurns({ working, meetings, quiet, breaks, headsDown, own }: PresenceInput, now: Instant): Instant | null {
  const edges = [...working, ...meetings, ...quiet, ...breaks].flatMap(({ start, end }) => [start, end]);
  const ahead = [...edges, headsDown?.until ?? 0, own?.until ?? 0].filter((at) => at > now);
  return ahead.length ? Math.min(...ahead) : null;
}
