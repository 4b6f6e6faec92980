import type { Work } from '../kernel/work';
import { Event } from '../events/event.entity';
import { Mirror } from './mirror.entity';

/** A calendar that goes takes its mirrors along, and their copies that are not over. */
export async function endMirrorsOf(work: Work, calendarId: string): Promise<void> {
  const of = { ownerId: work.ownerId };
  for (const mirror of await work.manager.findBy(Mirror, [
    { ...of, fromId: calendarId },
    { ...of, toId: calendarId },
  ])) {
    const copies = await work.manager.findBy(Event, { ...of, mirror: mirror.id });
    await work.remove('mirror', mirror);
    await work.removeAll(
      'event',
      copies.filter(({ endAt }) => endAt === null || endAt > work.now),
    );
    for (const row of copies.filter(({ endAt }) => endAt !== null && endAt <= work.now))
      await work.update('event', row, { mirror: null });
  }
}
