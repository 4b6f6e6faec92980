import type { IncomingLine, ListInfo } from '@corvun/contract';
import { QueryClient, keepPreviousData, useInfiniteQuery, useQuery } from '@tanstack/react-query';
import { RequestError, get } from './api';
import { readMe } from './chosen';

export const client = new QueryClient({
  defaultOptions: {
    queries: {
      staleTime: 60_000,
      // What was refused is refused again; only what did not answer is worth another try.
      retry: (failed, problem) =>
        failed < 1 && !(problem instanceof RequestError && problem.status >= 400 && problem.status < 500),
      refetchOnWindowFocus: false,
      networkMode: 'always',
    },
    mutations: { networkMode: 'always' },
  },
});

export interface InboxPage {
  total: number;
  items: IncomingLine[];
  next: string | null;
}

const PAGE = 100;

export const useMe = () => useQuery({ queryKey: ['me'], queryFn: readMe, staleTime: Infinity, retry: false });
/** All lists, those that are put away, too. */
export const useAllLists = () => useQuery({ queryKey: ['lists'], queryFn: () => get('/lists') });
const inUse = (all: ListInfo[]) => all.filter((list) => !list.archived);
/** Lists that are not put away. */
export const useLists = () => useQuery({ queryKey: ['lists'], queryFn: () => get('/lists'), select: inUse });
/** How far each project is. */
export const useProjects = () => useQuery({ queryKey: ['projects'], queryFn: () => get('/projects') });
export const useTags = () => useQuery({ queryKey: ['tags'], queryFn: () => get('/tags') });
export const usePeople = () => useQuery({ queryKey: ['people'], queryFn: () => get('/people') });
export const useNotes = () => useQuery({ queryKey: ['notes'], queryFn: () => get('/notes') });
export const useNote = (id: string | null) =>
  useQuery({ queryKey: ['note', id], queryFn: () => get('/notes/:id', { id: id ?? '' }), enabled: id !== null });
export const useCalendars = () => useQuery({ queryKey: ['calendars'], queryFn: () => get('/calendars') });
export const useTasks = () => useQuery({ queryKey: ['tasks'], queryFn: () => get('/tasks') });

export const useIncoming = (id: string | null) =>
  useQuery({
    queryKey: ['incoming', id],
    queryFn: () => get('/incoming/:id', { id: id ?? '' }),
    enabled: id !== null,
    staleTime: 300_000,
  });

export const prefetchIncoming = (id: string): Promise<void> =>
  client.prefetchQuery({ queryKey: ['incoming', id], queryFn: () => get('/incoming/:id', { id }), staleTime: 300_000 });

export const daysQuery = (from: string, days: number) => ({
  queryKey: ['days', from, days],
  queryFn: async () => (await get('/days', { from, days: String(days) })).days,
});

export const useDays = (from: string, days: number) =>
  useQuery({
    ...daysQuery(from, days),
    placeholderData: keepPreviousData,
    enabled: from !== '',
  });

export type Order = 'oldest' | 'newest';

/** The inbox, page by page. `filter`: `state=waiting`, or one of the kept outcomes. */
export const useInbox = (order: Order, filter = 'state=waiting') =>
  useInfiniteQuery({
    queryKey: ['inbox', filter, order],
    queryFn: ({ pageParam }) =>
      get('/incoming', {
        ...Object.fromEntries(new URLSearchParams(filter)),
        order,
        limit: String(PAGE),
        ...(pageParam ? { cursor: pageParam } : {}),
      }),
    initialPageParam: '',
    getNextPageParam: (last) => last.next ?? undefined,
  });
