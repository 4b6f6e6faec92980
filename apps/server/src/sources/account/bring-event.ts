import { boundsOf, type Fields } from '@corvun/core';
import type { User } from '../../accounts/user.entity';
import type { EventFields } from '../../events/event-fields';
import { DATE, GROUPS, answerOf, isGroup, type ReadPart } from '../../events/event-state';
import type { Event } from '../../events/event.entity';
import type { Work } from '../../kernel/work';
import { keepTexts } from '../../own-text/keep-texts';
import { saidOfEvent } from '../../own-text/state';

/** A part of an object, and under which id its text is kept. */
export interface Part extends EventFields {
  textId: string | null;
}

/** Keeps the texts of an object beside what is read from it. */
export async function withTexts(work: Work, user: User, parts: readonly ReadPart[]): Promise<Part[]> {
  const texts = parts.map(({ own, ...part }) => ({ own, said: saidOfEvent(part, user) }));
  const ids = await keepTexts(work, texts);
  return parts.map(({ own: _own, ...part }, at) => ({ ...part, textId: ids[at] ?? null }));
}

/** A new row for a part of an object. */
export const rowOf = (part: Part, calendarId: string, user: User) => ({
  ...part,
  ...{ calendarId, incomingId: null, partstat: answerOf(part, user), status: statusOf(part, user), buffers: null, mirror: null },
});

/** How an event stands here: an invitation as it was answered. */
function statusOf(part: Pick<Event, 'organizer' | 'attendees' | 'status'>, user: User): Event['status'] {
  const answer = answerOf(part, user);
  if (answer === null || part.status === 'CANCELLED') return part.status;
  return {
    ACCEPTED: 'CONFIRMED',
    DECLINED: 'CANCELLED',
    TENTATIVE: 'TENTATIVE',
    'NEEDS-ACTION': 'TENTATIVE',
    DELEGATED: 'CANCELLED',
  }[answer] as Event['status'];
}

/** Brings fields of the state there to the rows here. @param there the parts as they are there */
export async function bringEvent(
  work: Work,
  user: User,
  calendarId: string,
  rows: readonly Event[],
  there: readonly Part[],
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
      textId: series.textId,
    });
  } else if (!own && series) await work.insert('event', rowOf(series, calendarId, user));
  else if (own && !series && groups.length) await work.remove('event', own);
  for (const name of names.filter((one) => one.startsWith(DATE))) {
    const key = name.slice(DATE.length);
    const [row, part] = [rows, there].map((all) => all.find((one) => one.recurrenceId === key)) as [
      Event | undefined,
      Part | undefined,
    ];
    if (row && part) await work.update('event', row, { ...part, partstat: answerOf(part, user), status: statusOf(part, user) });
    else if (row) await work.remove('event', row);
    else if (part) await work.insert('event', rowOf(part, calendarId, user));
  }
}
