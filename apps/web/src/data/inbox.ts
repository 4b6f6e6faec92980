import type { IncomingLine } from '@corvun/contract';
import type { InfiniteData } from '@tanstack/react-query';
import { get } from './api';
import { client, type InboxPage, type Order } from './queries';

type Pages = InfiniteData<InboxPage, string>;

const MOST_AT_ONCE = 150;

/** Brings what changed into the loaded pages, without loading them again: an inbox may hold a hundred pages. */
export async function applyIncoming(ids: string[]): Promise<void> {
  if (ids.length > MOST_AT_ONCE) return client.invalidateQueries({ queryKey: ['inbox'] });
  const { total, items } = await get<InboxPage>(`/incoming?ids=${ids.join(',')}`);
  for (const order of ['oldest', 'newest'] as const) {
    client.setQueryData<Pages>(['inbox', 'state=waiting', order], (old) => (old ? merge(old, ids, items, total, order) : old));
  }
  // A page still on its way was read before this change and would bring the old state back.
  if (client.isFetching({ queryKey: ['inbox', 'state=waiting'] }))
    void client.invalidateQueries({ queryKey: ['inbox', 'state=waiting'] });
  await client.invalidateQueries({ queryKey: ['inbox'], predicate: ({ queryKey }) => queryKey[1] !== 'state=waiting' });
}

/** Takes lines out of the loaded pages before the server has answered. */
export function takeOut(ids: readonly string[]): void {
  for (const order of ['oldest', 'newest'] as const) {
    client.setQueryData<Pages>(['inbox', 'state=waiting', order], (old) => {
      const total = (old?.pages[0]?.total ?? 0) - ids.length;
      return old ? merge(old, [...ids], [], total, order) : old;
    });
  }
}

/** Puts lines back that were taken out for a decision which did not go through, also while the server is away. */
export function putBack(lines: readonly IncomingLine[]): void {
  const ids = lines.map((line) => line.id);
  for (const order of ['oldest', 'newest'] as const) {
    client.setQueryData<Pages>(['inbox', 'state=waiting', order], (old) => {
      const shown = new Set(old?.pages.flatMap((page) => page.items.map((line) => line.id)));
      const missing = ids.filter((id) => !shown.has(id)).length;
      return old ? merge(old, ids, [...lines], (old.pages[0]?.total ?? 0) + missing, order) : old;
    });
  }
}

function merge(old: Pages, ids: string[], items: IncomingLine[], total: number, order: Order): Pages {
  const gone = new Set(ids);
  const pages = old.pages.map((page) => ({ ...page, total, items: page.items.filter((line) => !gone.has(line.id)) }));
  const sign = order === 'oldest' ? 1 : -1;
  const before = (a: IncomingLine, b: IncomingLine) =>
    sign * (Date.parse(a.received) - Date.parse(b.received) || (a.id < b.id ? -1 : 1));
  const lastPage = pages.at(-1);
  const loadedTo = lastPage?.next ? lastPage.items.at(-1) : undefined;
  for (const line of items.filter((one) => one.state === 'waiting')) {
    // What lies behind the last loaded page comes with its own page.
    if (loadedTo && before(line, loadedTo) > 0) continue;
    const page = pages.find((one) => one.items.some((other) => before(line, other) < 0)) ?? lastPage;
    if (page) page.items = [...page.items, line].sort(before);
  }
  return { ...old, pages };
}
