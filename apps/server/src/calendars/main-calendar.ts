import { Not } from 'typeorm';
import type { Work } from '../kernel/work';
import { Calendar } from './calendar.entity';

/** The calendar that new events go to. */
export async function mainCalendar(work: Work): Promise<Calendar> {
  const calendar = await work.manager.findOne(Calendar, {
    where: { ownerId: work.ownerId, origin: Not('feed') },
    order: { main: 'DESC', position: 'ASC' },
  });
  const fresh = {
    name: 'Mine',
    code: 'MI',
    hue: 0,
    origin: 'own' as const,
    position: 0,
    main: true,
    shown: true,
    busy: true,
    sourceId: null,
  };
  return calendar ?? work.insert('calendar', fresh);
}
