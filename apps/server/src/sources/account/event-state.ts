import { boundsOf, type Fields, type Value } from '@corvun/core';
import type { CalendarEvent } from '@corvun/formats';
import type { User } from '../../accounts/user.entity';
import { eventFields, type EventFields } from '../../events/event-fields';
import type { Event } from '../../events/event.entity';
import { isGuestOf, isMine } from '../../events/guests';
import type { Work } from '../../kernel/work';

/** What goes back and forth together: it is only right as a whole. */
const GROUPS = {
  title: ['title'],
  time: ['allDay', 'start', 'end', 'zone', 'endZone', 'duration'],
  repeat: ['rrule', 'exrule', 'rdates', 'exdates'],
  description: ['description'],
  location: ['location'],
  status: ['status'],
  busy: ['transparent'],
  class: ['class'],
  category: ['category'],
  link: ['link'],
  guests: ['organizer', 'attendees'],
  alarms: ['alarms'],
} as const satisfies Record<string, readonly (keyof EventFields)[]>;

type Group = keyof typeof GROUPS;
type Part = Pick<Event, (typeof GROUPS)[Group][number] | 'recurrenceId' | 'following'>;

/** Fields of the state are those of the event or series itself; a changed date is one more field, called by its date. */
export const DATE = 'date ';
export const isGroup = (field: string): field is Group => field in GROUPS;

/** The state of an event: one value for each thing that is merged. Two states are equal when everything means the same. */
export function stateOfEvent(parts: readonly Part[], user: User): Record<string, Value> {
  const state: Record<string, Value> = {};
  for (const part of parts) {
    if (part.recurrenceId)
      state[`${DATE}${part.recurrenceId}`] = JSON.stringify([
        part.following,
        ...Object.keys(GROUPS).map((group) => valueOf(part, group as Group, user)),
      ]);
    else for (const group of Object.keys(GROUPS) as Group[]) state[group] = valueOf(part, group, user);
  }
  return state;
}

function valueOf(part: Part, group: Group, user: User): Value {
  // Of what others call, only that it is called off is theirs to say; here it says what the owner has answered.
  if (group === 'status' && isGuestOf(part, user))
    return part.status === 'CANCELLED' && answerOf(part, user) !== 'DECLINED' ? 'CANCELLED' : null;
  const present = GROUPS[group].map((name) => canonical(part[name]));
  if (present.every((one) => one === null)) return null;
  return present.length === 1 ? (present[0] as Value) : JSON.stringify(present);
}

/** Nothing, none and empty are the same; the order of guests and of left-out dates does not matter. */
function canonical(value: unknown): Value {
  if (Array.isArray(value)) {
    if (!value.length) return null;
    const each = value.map((one: unknown) =>
      typeof one === 'object' && one !== null
        ? JSON.stringify(Object.fromEntries(Object.entries(one).sort(([a], [b]) => (a < b ? -1 : 1))))
        : String(one),
    );
    return JSON.stringify(each.sort());
  }
  return value === '' || value === undefined ? null : (value as Value);
}

/** An object of an account as rows would have it, and why what of it cannot be kept. Of a date that is said twice the newer counts. */
export function partsOfObject(events: readonly CalendarEvent[], user: User): { parts: EventFields[]; refused: string | null } {
  const byDate = new Map<string, EventFields>();
  let refused: string | null = null;
  for (const event of [...events].sort((a, b) => Number(a.recurrenceId !== null) - Number(b.recurrenceId !== null)))
    try {
      keepNewer(byDate, eventFields(event, user.zone, byDate.get('') ?? null).fields);
    } catch (problem) {
      if (!(problem instanceof RangeError)) throw problem;
      refused ??= problem.message;
    }
  return { parts: [...byDate.values()], refused };
}

/** By SEQUENCE, and then by DTSTAMP (RFC 5546, 2.1.5). */
function keepNewer(byDate: Map<string, EventFields>, part: EventFields): void {
  const known = byDate.get(part.recurrenceId);
  const isOlder = known && (part.sequence - known.sequence || part.stamp - known.stamp) < 0;
  if (!isOlder) byDate.set(part.recurrenceId, part);
}

/** The owner's own answer, where somebody else asked. */
function answerOf({ organizer, attendees }: Pick<Event, 'organizer' | 'attendees'>, user: User): Event['partstat'] {
  if (!isGuestOf({ organizer }, user)) return null;
  return attendees.find(({ address }) => isMine(address, user))?.partstat ?? null;
}

/** A new row for a part of an object. */
export const rowOf = (part: EventFields, calendarId: string, user: User) => ({
  ...part,
  ...{ calendarId, incomingId: null, partstat: answerOf(part, user), status: statusOf(part, user), buffers: null, mirror: null },
});

/** How an event stands here: an invitation as it was answered. */
function statusOf(part: Pick<Event, 'organizer' | 'attendees' | 'status'>, user: User): Event['status'] {
  const answer = answerOf(part, user);
  if (answer === null || part.status === 'CANCELLED') return part.status;
  return { ACCEPTED: 'CONFIRMED', DECLINED: 'CANCELLED', TENTATIVE: 'TENTATIVE', 'NEEDS-ACTION': 'TENTATIVE' }[
    answer
  ] as Event['status'];
}

/** Brings fields of the state there to the rows here. @param there the parts as they are there */
export async function bringEvent(
  work: Work,
  user: User,
  calendarId: string,
  rows: readonly Event[],
  there: readonly EventFields[],
  fields: Fields,
): Promise<void> {
  const names = Object.keys(fields);
  const series = there.find((part) => !part.recurrenceId);
  const own = rows.find((row) => !row.recurrenceId);
  const groups = names.filter(isGroup);
  if (own && series && groups.length) {
    const columns = groups.flatMap((group): readonly (keyof EventFields)[] => GROUPS[group]);
    if (groups.includes('location') || groups.includes('description')) columns.push('meetingLink');
    const patch = Object.fromEntries(columns.map((name) => [name, series[name]])) as Partial<Event>;
    const after = { ...own, ...patch };
    await work.update('event', own, {
      ...patch,
      ...boundsOf(after, user.zone),
      ...(groups.some((group) => group === 'guests' || group === 'status')
        ? { partstat: answerOf(after, user), status: statusOf({ ...after, status: series.status }, user) }
        : {}),
      sequence: Math.max(own.sequence, series.sequence),
      stamp: series.stamp,
    });
  } else if (!own && series) await work.insert('event', rowOf(series, calendarId, user));
  else if (own && !series && groups.length) await work.remove('event', own);
  for (const name of names.filter((one) => one.startsWith(DATE))) {
    const key = name.slice(DATE.length);
    const [row, part] = [rows, there].map((all) => all.find((one) => one.recurrenceId === key)) as [
      Event | undefined,
      EventFields | undefined,
    ];
    if (row && part) await work.update('event', row, { ...part, partstat: answerOf(part, user), status: statusOf(part, user) });
    else if (row) await work.remove('event', row);
    else if (part) await work.insert('event', rowOf(part, calendarId, user));
  }
}
