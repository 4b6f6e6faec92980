import { codeFor } from '../base/codes';
import type { Work } from '../kernel/work';
import { HUES } from '../lists/new-list';
import { Calendar } from './calendar.entity';

/** Makes a calendar of which only this is known, with a code and a hue that no other has. The first one is the main one. */
export async function newCalendar(work: Work, about: Pick<Calendar, 'name' | 'origin' | 'busy' | 'sourceId'>): Promise<Calendar> {
  const others = await work.manager.findBy(Calendar, { ownerId: work.ownerId });
  const free = Array.from({ length: HUES }, (_, hue) => hue).find((hue) => !others.some((one) => one.hue === hue));
  return work.insert('calendar', {
    ...about,
    name: about.name.slice(0, 80),
    code: codeFor(
      about.name,
      others.map(({ code }) => code),
    ),
    hue: free ?? others.length % HUES,
    position: Math.max(-1, ...others.map(({ position }) => position)) + 1,
    main: about.origin !== 'feed' && !others.some(({ main }) => main),
    shown: true,
  });
}
