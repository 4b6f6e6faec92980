import type { BlockChange, BlockInput, EntriesChange, EventChange, EventFull, EventInput, EventRemoval } from '@corvun/contract';
import { useQuery } from '@tanstack/react-query';
import { doing } from './actions';
import { get, patch, post, remove } from './api';
import { client } from './queries';

/** An event, or one date of it. */
export const useEvent = (id: string, date: string | null) =>
  useQuery({
    queryKey: ['event', id, date],
    queryFn: () => get('/events/:id', { id, ...(date ? { occurrence: date } : {}) }),
    enabled: id !== '',
  });

/** Days as they are now, for what is put into a gap. */
export const daysFromServer = (from: string, days: number) =>
  client.fetchQuery({
    queryKey: ['days', from, days],
    queryFn: async () => (await get('/days', { from, days: String(days) })).days,
    staleTime: 0,
  });

export const addBlocks = (blocks: BlockInput[]) => doing(() => post('/blocks/several', { blocks }), ['days', 'tasks']);
export const setBlock = (block: BlockInput) => doing(() => post('/blocks', block), ['days', 'tasks']);
export const changeBlock = (id: string, change: BlockChange) =>
  doing(() => patch('/blocks/:id', change, { id }), ['days', 'tasks']);
export const addEvent = (event: EventInput) => doing(() => post('/events', event), ['days']);
export const changeEvent = (id: string, change: EventChange) =>
  doing(() => patch('/events/:id', change, { id }), ['days', 'event']);
export const takeEvent = (id: string, removal: EventRemoval) => doing(() => remove('/events/:id', { id, ...removal }), ['days']);
/** Writes into the page of a meeting, which is begun where there is none. */
export const writePage = ({ id, occurrence, page }: Pick<EventFull, 'id' | 'occurrence' | 'page'>, text: string) =>
  doing(
    () =>
      post(
        '/events/:id/page',
        { text, ...(occurrence ? { occurrence } : {}), ...(page ? { version: page.version } : {}) },
        { id },
      ),
    ['event', 'notes', 'note'],
  );
export const copyEvent = (id: string, days: string[], occurrence: string | null) =>
  doing(() => post('/events/:id/copies', { days, ...(occurrence ? { occurrence } : {}) }, { id }), ['days']);
export const changeEntries = (change: EntriesChange) => doing(() => post('/agenda/change', change), ['days', 'tasks']);
export const orderDay = (day: string, tasks: string[]) => doing(() => post('/agenda/order', { day, tasks }), ['days', 'tasks']);
