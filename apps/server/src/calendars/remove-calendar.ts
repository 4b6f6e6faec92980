import { count } from '@corvun/core';
import { In } from 'typeorm';
import { Refusal, badField } from '../base/errors';
import { Event } from '../events/event.entity';
import type { Work } from '../kernel/work';
import { endMirrorsOf } from '../mirrors/end-mirrors';
import { Share } from '../others/others.entities';
import { Calendar } from './calendar.entity';

/** Events whose UIDs are looked up in one statement. */
const AT_ONCE = 300;

/**
 * Takes a calendar of one's own away: its events go with it, or into another one.
 * @param events `drop`, or the id of the calendar they go to
 * @returns what was done, as a sentence
 * @throws Refusal it is the main one or comes from elsewhere, or the other one cannot take them
 */
export async function removeCalendar(work: Work, id: string, events: string): Promise<string> {
  const calendar = await work.find('calendar', id);
  if (calendar.origin !== 'own')
    throw new Refusal('still-needed', `“${calendar.name}” comes from a source. It goes when that is taken away.`);
  if (calendar.main)
    throw new Refusal('still-needed', `“${calendar.name}” is where new things go. Make another calendar the main one first.`);
  const rows = await work.manager.findBy(Event, { ownerId: work.ownerId, calendarId: id });
  const into = events === 'drop' ? null : await work.find('calendar', events);
  if (into) await moveInto(work, rows, calendar, into);
  else await work.removeAll('event', rows);
  for (const share of await work.manager.findBy(Share, { ownerId: work.ownerId, calendarId: id }))
    await work.remove('share', share);
  await endMirrorsOf(work, id);
  await work.remove('calendar', await work.find('calendar', id));
  const many = count(new Set(rows.map(({ uid }) => uid)).size, 'event');
  return `The calendar “${calendar.name}” is taken away${rows.length ? `, ${many} ${into ? `now in “${into.name}”` : 'with it'}` : ''}`;
}

async function moveInto(work: Work, rows: readonly Event[], { id, name }: Calendar, into: Calendar): Promise<void> {
  if (into.id === id || into.origin === 'feed')
    throw badField('events', `Choose a calendar that can take the events of “${name}”.`);
  const uids = [...new Set(rows.map(({ uid }) => uid))];
  for (let from = 0; from < uids.length; from += AT_ONCE) {
    const some = uids.slice(from, from + AT_ONCE);
    const there = await work.manager.findOneBy(Event, { ownerId: work.ownerId, calendarId: into.id, uid: In(some) });
    if (there) throw badField('events', `“${there.title}” stands in “${into.name}”, too. Take one of both away first.`);
  }
  for (const row of rows) await work.update('event', row, { calendarId: into.id });
}
