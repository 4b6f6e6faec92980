import type { ListInfo, TaskInfo } from '@corvun/contract';
import { GROUPINGS, SORTINGS, type Grouping, type Sorting } from '@corvun/core';
import { useCallback, useMemo } from 'react';
import { useLocation, useNavigate, useParams } from 'react-router';

/** What of the tasks is shown, as it stands in the address. */
export interface View {
  /** Ids of the lists that are read together, or one of the sections besides. */
  lists: readonly string[];
  group: Grouping;
  sort: Sorting;
  find: string;
}

/** What can be read besides lists. */
export const BESIDES = ['all', 'none', 'waiting', 'shelf'] as const;
export type Besides = (typeof BESIDES)[number];
export const isBesides = (path: string): path is Besides => (BESIDES as readonly string[]).includes(path);
export const BESIDES_NAMES: Record<Besides, string> = {
  all: 'All lists',
  none: 'Without a list',
  waiting: 'Waiting on',
  shelf: 'Shelf',
};

const oneOf = <T extends string>(all: readonly T[], value: string | null, fallback: T): T =>
  all.find((one) => one === value) ?? fallback;

/** The address of a view. */
export function addressOfView({ lists: [first = 'all', ...others], group, sort, find }: View): string {
  const query = new URLSearchParams();
  if (others.length) query.set('with', others.join(','));
  if (group !== usual(others.length)) query.set('group', group);
  if (sort !== 'hand') query.set('sort', sort);
  if (find) query.set('find', find);
  const text = query.toString();
  return `/lists/${first}${text ? `?${text}` : ''}`;
}

/** Several lists are grouped by list unless it is said otherwise. */
const usual = (others: number): Grouping => (others ? 'list' : 'none');

export function viewOf(path: string, search: string): View {
  const query = new URLSearchParams(search);
  const others = (query.get('with') ?? '').split(',').filter(Boolean);
  return {
    lists: [path, ...others],
    group: oneOf(GROUPINGS, query.get('group'), path === 'all' ? 'list' : usual(others.length)),
    sort: oneOf(SORTINGS, query.get('sort'), 'hand'),
    find: query.get('find') ?? '',
  };
}

/** The view in the address, and how another one is shown. @param fallback what is shown where the address names none */
export function useView(fallback: string): { view: View; show: (change: Partial<View>, how?: 'replace') => void } {
  const { list } = useParams();
  const { search } = useLocation();
  const navigate = useNavigate();
  const view = useMemo(() => viewOf(list ?? fallback, search), [list, fallback, search]);
  const show = useCallback(
    (change: Partial<View>, how?: 'replace') => {
      const task = new URLSearchParams(search).get('task');
      const address = addressOfView({ ...view, ...change });
      const open = task ? `${address.includes('?') ? '&' : '?'}task=${task}` : '';
      void navigate(address + open, { replace: how === 'replace' });
    },
    [navigate, search, view],
  );
  return { view, show };
}

/** Whether a task that is no step belongs to what is shown. */
export function belongs(task: TaskInfo, lists: readonly string[]): boolean {
  const [first] = lists;
  if (first === 'shelf') return task.shelved;
  if (task.shelved) return false;
  if (first === 'all') return true;
  if (first === 'waiting') return task.waitingOn !== null;
  if (first === 'none') return task.listId === null && !task.waitingOn;
  return task.listId !== null && lists.includes(task.listId);
}

/** Whether something is on the shelf and its day to look again has come. */
export const isDue = (task: TaskInfo, today: string): boolean =>
  task.shelved && task.lookAgain !== null && task.lookAgain <= today;

export const isOpen = ({ status }: TaskInfo) => status === 'NEEDS-ACTION' || status === 'IN-PROCESS';

/** What a view is called: its lists, or what it is besides. */
export function titleOfView({ lists }: View, all: readonly ListInfo[]): string {
  const [first = ''] = lists;
  if (isBesides(first)) return BESIDES_NAMES[first];
  return lists.map((id) => all.find((list) => list.id === id)?.name ?? 'A list that is gone').join(', ');
}
