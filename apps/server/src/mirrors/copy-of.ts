import { createHash } from 'node:crypto';
import { blankEvent } from '../decisions/blanks';
import type { Event } from '../events/event.entity';
import type { Row } from '../base/row';
import type { Mirror } from './mirror.entity';

/** What a copy takes over: when it is, and how much it takes of the day. */
const TAKEN_OVER = [
  ...['recurrenceId', 'start', 'end', 'startAt', 'endAt', 'allDay', 'zone', 'endZone', 'duration', 'rrule', 'rdates'],
  ...['exrule', 'exdates', 'following', 'status'],
] as const satisfies readonly (keyof Event)[];

/** The UID of the copies of a UID: always the same one, so that there is never a second. */
export const copyUid = ({ id }: Pick<Mirror, 'id'>, uid: string): string =>
  `${createHash('sha256').update(`${id}\n${uid}`).digest('hex').slice(0, 32)}@corvun`;

type Copy = Omit<Event, keyof Row>;

/** The rows that stand for those of one UID in the other calendar; none of what takes no time or is over. */
export function copiesOf(mirror: Mirror, rows: readonly Event[]): Copy[] {
  // A copy is not copied on: nothing comes back to where it began, however many calendars lie between.
  const own = rows.filter((row) => row.mirror === null);
  const series = own.find((row) => !row.recurrenceId);
  const takes = (row: Event) => !row.transparent && row.status !== 'CANCELLED' && row.partstat !== 'DECLINED';
  if (series && !takes(series)) return [];
  if (own.every(({ endAt }) => endAt !== null && endAt <= mirror.since)) return [];
  return own
    .filter((row) => takes(row) || (series !== undefined && row.recurrenceId !== ''))
    .map((row) => ({
      ...blankEvent({ start: row.start, end: row.end, allDay: row.allDay, zone: row.zone }, row.zone ?? 'UTC'),
      ...(Object.fromEntries(TAKEN_OVER.map((field) => [field, row[field]])) as Pick<Event, (typeof TAKEN_OVER)[number]>),
      // One date that is off is off in the copy, too.
      ...(takes(row) ? {} : { status: 'CANCELLED' as const }),
      calendarId: mirror.toId,
      uid: copyUid(mirror, row.uid),
      title: mirror.title || row.title,
      category: mirror.category,
      class: mirror.private ? ('PRIVATE' as const) : ('PUBLIC' as const),
      mirror: mirror.id,
    }));
}

/** Whether a copy stands there already as it should. */
export const isAsCopied = (row: Event, copy: Copy): boolean =>
  (Object.keys(copy) as (keyof Copy)[]).every(
    (field) => JSON.stringify(row[field] ?? null) === JSON.stringify(copy[field] ?? null),
  );
