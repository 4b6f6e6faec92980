import { instantOf, type Instant, type Zone } from '../time/zones';
import { alarmAt, type Alarm } from './alarm';

/** Why something is said: before an event or at its alarm, a block begins, a task asks for it, or it is time to leave. */
export type ReminderWhy = 'event' | 'block' | 'task' | 'leave';

/** One thing that may have to be thought of; `way`: the way to an event. */
export type Reminding =
  | {
      kind: 'event';
      id: string;
      /** The date by its original start, where it repeats; else empty. */
      occurrence: string;
      start: Instant;
      end: Instant;
      allDay: boolean;
      /** Null: read in whatever zone one is in. */
      zone: Zone | null;
      /** Null: what is so for all events. */
      alarms: readonly Alarm[] | null;
      changed: Instant;
    }
  | { kind: 'way'; id: string; occurrence: string; start: Instant; changed: Instant }
  | { kind: 'block'; id: string; blockKind: string; start: Instant; changed: Instant }
  | { kind: 'task'; id: string; reminder: string; changed: Instant };

export interface ReminderRules {
  /** Minutes before an event that says nothing itself; null: none. */
  before: number | null;
  /** Whether the beginning of a block is said. */
  blocks: boolean;
}

export interface ReminderFound {
  kind: 'event' | 'block' | 'task';
  id: string;
  occurrence: string;
  why: ReminderWhy;
  /** When it is due. */
  at: Instant;
  /** By mail, too. */
  mail: boolean;
}

/** What was changed only this long after its time had come is reminded of all the same. */
const SLACK = 5000;

/**
 * What has to be thought of in (after, until], in order of time. What was made or changed when its time to be told was over
 * comes at once as long as it is ahead, by the latest of its alarms; else it is left out: whoever changed it knows of it.
 * @param late gives that, too
 */
export function remindersIn(
  things: readonly Reminding[],
  rules: ReminderRules,
  after: Instant,
  until: Instant,
  reader: Zone,
  late = false,
): ReminderFound[] {
  const kindOf = ({ kind }: Reminding) => (kind === 'way' ? 'event' : kind);
  const found = things
    .flatMap((thing) => {
      const { id, changed } = thing;
      const begins = 'start' in thing ? thing.start : 0;
      const times = timesOf(thing, rules, reader).map((one) => ({ ...one, kind: kindOf(thing), id }));
      const over = times.filter(({ at }) => changed > at + SLACK);
      const last = changed < begins ? Math.max(...over.map(({ at }) => at)) : null;
      return times
        .filter((one) => late || !over.includes(one) || one.at === last)
        .filter(({ at }) => {
          const due = at === last ? changed : at;
          return due > after && due <= until;
        });
    })
    .sort((a, b) => a.at - b.at || a.id.localeCompare(b.id) || Number(b.why === 'leave') - Number(a.why === 'leave'));
  // One is enough where two come at the same moment; that it is time to leave says more.
  const seen = new Map(found.reverse().map((one) => [`${one.kind} ${one.id} ${one.occurrence} ${one.at}`, one]));
  return [...seen.values()].reverse();
}

function timesOf(
  thing: Reminding,
  { before, blocks }: ReminderRules,
  reader: Zone,
): Pick<ReminderFound, 'at' | 'why' | 'mail' | 'occurrence'>[] {
  if (thing.kind === 'task') {
    const at = instantOf(thing.reminder, reader);
    return Number.isFinite(at) ? [{ at, why: 'task', mail: false, occurrence: '' }] : [];
  }
  if (thing.kind === 'way') return [{ at: thing.start, why: 'leave', mail: false, occurrence: thing.occurrence }];
  if (thing.kind === 'block') {
    const leave = thing.blockKind === 'travel';
    return leave || blocks ? [{ at: thing.start, why: leave ? 'leave' : 'block', mail: false, occurrence: '' }] : [];
  }
  const { occurrence } = thing;
  if (thing.alarms === null)
    return before === null || thing.allDay ? [] : [{ at: thing.start - before * 60_000, why: 'event', mail: false, occurrence }];
  const zone = thing.zone ?? reader;
  const found = new Map<Instant, boolean>();
  for (const alarm of thing.alarms) {
    const at = alarmAt(alarm, thing, zone);
    if (at !== null && Number.isFinite(at)) found.set(at, (found.get(at) ?? false) || alarm.action === 'EMAIL');
  }
  return [...found].map(([at, mail]) => ({ at, why: 'event', mail, occurrence }));
}
