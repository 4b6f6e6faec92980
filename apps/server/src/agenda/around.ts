import type { BufferInfo } from '@corvun/contract';
import {
  buffersOf,
  comesFrom,
  isoInZone,
  minutesBetween,
  type Buffer,
  type Buffered,
  type Cause,
  type Interval,
} from '@corvun/core';
import type { User } from '../accounts/user.entity';
import type { Calendar } from '../calendars/calendar.entity';
import type { Event } from '../events/event.entity';
import { isGuestOf } from '../events/whose';
import { settingsOf } from '../settings/settings-of';
import type { Task } from '../tasks/task.entity';

/** An event out of sight can reach so far into a window with what belongs to it, in milliseconds. */
export const REACH = 12 * 3_600_000;

type DateOfEvent = Interval & {
  part: Pick<Event, 'id' | 'calendarId' | 'category' | 'location' | 'organizer' | 'allDay' | 'buffers'>;
  cause: Cause | null;
};

/** A date of an event that takes time. */
export type Beside = Buffered & Pick<DateOfEvent, 'cause'>;

/** Time beside an event, and why it is taken. */
export type Around = Interval & { buffer: Buffer<Beside>; cause: Cause | null };

/** @param tasks those that are done beside events, by id */
export function aroundOf(
  events: readonly DateOfEvent[],
  calendars: readonly Calendar[],
  tasks: ReadonlyMap<string, Task>,
  user: User,
): Around[] {
  const { buffers } = settingsOf(user);
  return buffersOf(datesOf(events, calendars, tasks, user), buffers, user.zone).map((buffer) => ({
    ...{ start: buffer.start, end: buffer.end, buffer },
    cause: buffer.of.cause && { ...buffer.of.cause, kind: 'buffer' },
  }));
}

/** Where one would come from to one of the events; empty where it is at no place. */
export function cameFrom(
  events: readonly DateOfEvent[],
  to: DateOfEvent,
  calendars: readonly Calendar[],
  tasks: ReadonlyMap<string, Task>,
  user: User,
): string {
  const dates = datesOf(events, calendars, tasks, user);
  const itself = dates.find(({ cause }) => cause === to.cause);
  return itself ? comesFrom(dates, itself, settingsOf(user).buffers, user.zone) : '';
}

function datesOf(
  events: readonly DateOfEvent[],
  calendars: readonly Calendar[],
  tasks: ReadonlyMap<string, Task>,
  user: User,
): Beside[] {
  const { lengths } = settingsOf(user);
  return events
    .filter(({ part, cause }) => cause && !part.allDay)
    .map(({ start, end, part, cause }) => {
      const carried = { prep: 0, followUp: 0 };
      for (const { id, at } of part.buffers?.tasks ?? []) {
        const task = tasks.get(id);
        if (!task || task.status === 'COMPLETED' || task.status === 'CANCELLED') continue;
        carried[at === 'prep' ? 'prep' : 'followUp'] += task.estimate ?? lengths[task.concentration];
      }
      return {
        ...{ start, end, id: part.id, occurrence: cause?.occurrence ?? null, cause, carried },
        ...{ calendarId: part.calendarId, category: part.category, location: part.location, buffers: part.buffers },
        ofOthers: isGuestOf(part, user) || calendars.find(({ id }) => id === part.calendarId)?.origin === 'feed',
      };
    });
}

/** What is said of it. */
export const bufferInfo = ({ start, end, kind, wanted, from, to }: Buffer, zone: string): BufferInfo => ({
  ...{ kind, wanted, from, to, minutes: minutesBetween(start, end) },
  ...{ start: isoInZone(start, zone), end: isoInZone(end, zone) },
});
