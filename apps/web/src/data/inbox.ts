import type { IncomingLine } from '@corvun/contract';
import type { InfiniteData } from '@tanstack/react-query';
import { get } from './api';
import { client, type InboxPage, type Order } from './queries';

type Pages = InfiniteData<InboxPage, string>;

const MOST_AT_ONCE = 150;

/** Taken out of the pages for a decision that the server has not answered yet. */
const leaving = new Set<string>();
/** What the answer under way says of these may be from before their decision. */
let untold = new Set<string>();
const asked = new Set<string>();
let asking: Promise<void> | null = null;

/**
 * Brings what changed into the loaded pages, without loading them again: an inbox may hold a hundred pages.
 * One question after the other, so that an older answer never arrives after a newer one.
 */
export function applyIncoming(ids: readonly string[]): Promise<void> {
  for (const id of ids) asked.add(id);
  // What is asked for in one go, for one reason or another, is one question.
  asking ??= new Promise<void>((resolve) => setTimeout(resolve)).then(askAll).finally(() => {
    asking = null;
  });
  return asking;
}

async function askAll(): Promise<void> {
  while (asked.size) {
    const ids = [...new Set([...asked, ...leaving])];
    asked.clear();
    if (ids.length > MOST_AT_ONCE) {
      await client.invalidateQueries({ queryKey: ['inbox'] });
      continue;
    }
    untold = new Set(leaving);
    const page = await get('/incoming', { ids: ids.join(',') }).catch(() => null);
    // The server is away: everything is asked for again when it is back.
    if (!page) return;
    const staying = page.items.filter((line) => !untold.has(line.id));
    const going = page.items.filter((line) => untold.has(line.id) && line.state === 'waiting').length;
    eachOrder((old, order) => merge(old, ids, staying, page.total - going, order));
    // A page still on its way was read before this change and would bring the old state back.
    if (client.isFetching({ queryKey: ['inbox', 'state=waiting'] }))
      void client.invalidateQueries({ queryKey: ['inbox', 'state=waiting'] });
    void client.invalidateQueries({ queryKey: ['inbox'], predicate: ({ queryKey }) => queryKey[1] !== 'state=waiting' });
  }
}

function eachOrder(change: (old: Pages, order: Order) => Pages): void {
  for (const order of ['oldest', 'newest'] as const)
    client.setQueryData<Pages>(['inbox', 'state=waiting', order], (old) => (old ? change(old, order) : old));
}

/** Takes lines out of the loaded pages before the server has answered; `arrived` or `putBack` follows. */
export function takeOut(ids: readonly string[]): void {
  for (const id of ids) {
    leaving.add(id);
    untold.add(id);
  }
  eachOrder((old, order) => merge(old, ids, [], (old.pages[0]?.total ?? 0) - ids.length, order));
}

/** The server has taken the decision: what it says of these lines from now on counts. `more` are asked for along with them. */
export function arrived(ids: readonly string[], more: readonly string[] = []): Promise<void> {
  for (const id of ids) {
    leaving.delete(id);
    asked.add(id);
  }
  return applyIncoming(more);
}

/** Puts lines back that were taken out for a decision which did not go through, also while the server is away. */
export function putBack(lines: readonly IncomingLine[]): void {
  const ids = lines.map((line) => line.id);
  for (const id of ids) {
    leaving.delete(id);
    untold.delete(id);
  }
  eachOrder((old, order) => {
    const shown = new Set(old.pages.flatMap((page) => page.items.map((line) => line.id)));
    const missing = ids.filter((id) => !shown.has(id)).length;
    return merge(old, ids, lines, (old.pages[0]?.total ?? 0) + missing, order);
  });
}

function merge(old: Pages, ids: readonly string[], items: readonly IncomingLine[], total: number, order: Order): Pages {
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
