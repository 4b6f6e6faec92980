import type { Value } from '@corvun/core';
import type { CalendarEvent, OwnText } from '@corvun/formats';
import { eventFields, linkIn, type EventFields } from './event-fields';
import type { Event } from './event.entity';
import { isGuestOf, isMine, type Whose } from './whose';

/** Who reads: their zone, and the addresses that are theirs. */
export type Reader = Whose & { zone: string };

/** What goes back and forth together: it is only right as a whole. */
export const GROUPS = {
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
  meeting: ['meetingLink'],
} as const satisfies Record<string, readonly (keyof EventFields)[]>;

export type Group = keyof typeof GROUPS;
export type Part = Pick<Event, (typeof GROUPS)[Group][number] | 'recurrenceId' | 'following'>;

/** Fields of the state are those of the event or series itself; a changed date is one more field, called by its date. */
export const DATE = 'date ';
export const isGroup = (field: string): field is Group => field in GROUPS;

/** The state of an event: one value for each thing that is merged. Two states are equal when everything means the same. */
export function stateOfEvent(parts: readonly Part[], user: Reader): Record<string, Value> {
  const state: Record<string, Value> = {};
  for (const part of parts)
    if (part.recurrenceId)
      state[`${DATE}${part.recurrenceId}`] = JSON.stringify(trimmed([part.following, ...valuesOf(part, user)]));
    else Object.assign(state, groupsOf(part, user));
  return state;
}

const NAMES = Object.keys(GROUPS) as Group[];
const valuesOf = (part: Part, user: Reader): Value[] => NAMES.map((group) => valueOf(part, group, user));

/** What was not there when states were kept first is left away where there is nothing of it. */
const trimmed = (values: readonly unknown[]): unknown[] => (values.at(-1) === null ? values.slice(0, -1) : [...values]);

/** One value for each thing of a single row. */
export const groupsOf = (part: Part, user: Reader): Record<string, Value> =>
  Object.fromEntries(NAMES.map((group) => [group, valueOf(part, group, user)]));

/** Which things of a changed date are not as they were, by two values of its field. */
export function groupsBetween(before: Value | undefined, after: Value | undefined): string[] | null {
  if (typeof before !== 'string' || typeof after !== 'string') return null;
  const [was, is] = [before, after].map((one) => JSON.parse(one) as unknown[]);
  return ['of', ...NAMES].filter((_, at) => (was?.[at] ?? null) !== (is?.[at] ?? null));
}

function valueOf(part: Part, group: Group, user: Reader): Value {
  // Of what others call, only that it is called off is theirs to say; here it says what the owner has answered.
  if (group === 'status' && isGuestOf(part, user))
    return part.status === 'CANCELLED' && answerOf(part, user) !== 'DECLINED' ? 'CANCELLED' : null;
  // What its place or text say anyway is no link of its own.
  if (group === 'meeting' && part.meetingLink === linkIn(`${part.location} ${part.description}`)) return null;
  // When somebody answered is known here alone.
  const attendees = part.attendees.map(({ name, address, partstat }) => ({ name, address, partstat }));
  const present = GROUPS[group].map((name) => canonical(name === 'attendees' ? attendees : part[name]));
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

/** What of an object is one row, and its text. */
export interface ReadPart extends EventFields {
  own: OwnText | undefined;
}

/** An object of an account as rows would have it, and why what of it cannot be kept. Of a date that is said twice the newer counts. */
export function partsOfObject(events: readonly CalendarEvent[], user: Reader): { parts: ReadPart[]; refused: string | null } {
  const byDate = new Map<string, ReadPart>();
  let refused: string | null = null;
  for (const event of [...events].sort((a, b) => Number(a.recurrenceId !== null) - Number(b.recurrenceId !== null)))
    try {
      keepNewer(byDate, { ...eventFields(event, user.zone, byDate.get('') ?? null).fields, own: event.own });
    } catch (problem) {
      if (!(problem instanceof RangeError)) throw problem;
      refused ??= problem.message;
    }
  return { parts: [...byDate.values()], refused };
}

/** By SEQUENCE, and then by DTSTAMP (RFC 5546, 2.1.5). */
function keepNewer(byDate: Map<string, ReadPart>, part: ReadPart): void {
  const known = byDate.get(part.recurrenceId);
  const isOlder = known && (part.sequence - known.sequence || part.stamp - known.stamp) < 0;
  if (!isOlder) byDate.set(part.recurrenceId, part);
}

/** The owner's own answer, where somebody else asked. */
export function answerOf({ organizer, attendees }: Pick<Event, 'organizer' | 'attendees'>, user: Reader): Event['partstat'] {
  if (!isGuestOf({ organizer }, user)) return null;
  return attendees.find(({ address }) => isMine(address, user))?.partstat ?? null;
}
