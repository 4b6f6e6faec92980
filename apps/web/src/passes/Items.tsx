import { useEffect, useRef, useState, type KeyboardEvent, type ReactNode } from 'react';
import { isOnControl, isTyping, keyName } from '../keys';
import { Key } from '../parts/signs';

/** What can be done with an item, with its key. */
export interface Deed<T> {
  key: string;
  name: string;
  run: (item: T) => unknown;
}

export interface ItemsProps<T> {
  label: string;
  items: readonly T[];
  idOf: (item: T) => string;
  deeds: readonly Deed<T>[];
  /** What stands in the line. */
  children: (item: T) => ReactNode;
  /** Said of the item besides, below it. */
  below?: (item: T) => ReactNode;
  empty: string;
  /** Where there may be many: in what one finds some of them by typing. */
  textOf?: (item: T) => string;
}

/** So many are drawn; more are found by typing. */
const MOST = 60;

/** Puts the focus back on an item at which something was opened. */
export const focusItem = (id: string): void => document.querySelector<HTMLElement>(`[data-pass] [data-item="${id}"]`)?.focus();

/** Items that are gone through with the arrow keys, each with a few deeds of one key. What is dealt with gives its place to the next. */
export function Items<T>({ label, items: all, idOf, deeds, children, below, empty, textOf }: ItemsProps<T>): ReactNode {
  const [words, setWords] = useState('');
  const wanted = words.trim().toLowerCase().split(/\s+/);
  const found =
    textOf && words.trim() ? all.filter((one) => wanted.every((word) => textOf(one).toLowerCase().includes(word))) : all;
  const items = textOf ? found.slice(0, MOST) : found;
  const list = useRef<HTMLUListElement>(null);
  /** The item that has or had the focus, and its place among them. */
  const [current, setCurrent] = useState<{ id: string; at: number } | null>(null);
  const ids = items.map(idOf);
  const stays = current !== null && ids.includes(current.id);
  const reached = stays ? current.id : ids[Math.min(current?.at ?? 0, ids.length - 1)];
  const rowOf = (id: string | undefined) => (id ? list.current?.querySelector<HTMLElement>(`[data-item="${id}"]`) : null);
  useEffect(() => {
    if (current === null || stays || document.activeElement !== document.body) return;
    // Where none is left the step itself has it, so that one goes on with a key.
    (rowOf(reached) ?? document.querySelector<HTMLElement>('[data-pass] h2'))?.focus();
  });
  // The keys that are shown at an item work wherever in the panel the focus is, but for what has a use of its own for them.
  useEffect(() => {
    const panel = list.current?.closest<HTMLElement>('[data-pass]');
    const onKey = (event: globalThis.KeyboardEvent) => {
      const item = items.find((one) => idOf(one) === reached);
      if (item === undefined || event.defaultPrevented || isTyping(event) || list.current?.contains(event.target as Node)) return;
      const deed = event.key === 'Enter' && isOnControl(event) ? undefined : deeds.find(({ key }) => key === event.key);
      if (!deed) return;
      event.preventDefault();
      event.stopPropagation();
      void deed.run(item);
    };
    panel?.addEventListener('keydown', onKey);
    return () => panel?.removeEventListener('keydown', onKey);
  });
  const onKeyDown = (event: KeyboardEvent, item: T) => {
    if (event.ctrlKey || event.metaKey || event.altKey) return;
    const by = { ArrowDown: 1, ArrowUp: -1 }[event.key];
    const deed = deeds.find(({ key }) => key === event.key);
    if (by) rowOf(ids[ids.indexOf(idOf(item)) + by])?.focus();
    else if (deed) void deed.run(item);
    else return;
    event.preventDefault();
    event.stopPropagation();
  };
  if (!all.length) return <p className="text-soft">{empty}</p>;
  const narrow = textOf && (all.length > FEW || words !== '') && (
    <input
      type="search"
      aria-label={`Find in: ${label}`}
      autoComplete="off"
      placeholder="find in it"
      className="mb-1 w-full border-b border-rule bg-transparent text-xs placeholder:text-soft focus:border-teal"
      value={words}
      onChange={({ target }) => setWords(target.value)}
      onKeyDown={(event) => {
        if (event.key === 'Escape') setWords('');
        else if (event.key === 'ArrowDown' || event.key === 'Enter') rowOf(ids[0])?.focus();
        else return;
        event.preventDefault();
        event.stopPropagation();
      }}
    />
  );
  return (
    <>
      {narrow}
      <ul ref={list} aria-label={label} className="border-b border-rule">
        {items.map((item) => {
          const id = idOf(item);
          const here = id === reached;
          return (
            <li key={id} className={`border-t border-rule ${here ? 'bg-card' : ''}`}>
              <button
                type="button"
                data-item={id}
                tabIndex={here ? 0 : -1}
                className="flex min-h-8 w-full items-baseline gap-2 px-2 py-1 text-left"
                onFocus={() => setCurrent({ id, at: ids.indexOf(id) })}
                onClick={() => setCurrent({ id, at: ids.indexOf(id) })}
                onKeyDown={(event) => onKeyDown(event, item)}
              >
                {children(item)}
              </button>
              {below?.(item)}
              {here && deeds.length > 0 && (
                <p className="flex flex-wrap gap-x-3 px-2 pb-1 text-xs">
                  {deeds.map((deed) => (
                    <button
                      key={deed.key}
                      type="button"
                      tabIndex={-1}
                      className="min-h-6 text-teal hover:underline"
                      onClick={() => void deed.run(item)}
                    >
                      {deed.name} <Key>{keyName(deed.key)}</Key>
                    </button>
                  ))}
                </p>
              )}
            </li>
          );
        })}
      </ul>
      {found.length > items.length && <p className="mt-1 text-xs text-soft">and {found.length - items.length} more</p>}
      {items.length === 0 && <p className="mt-1 text-xs text-soft">Nothing is called that.</p>}
    </>
  );
}

/** From so many on they can be searched. */
const FEW = 8;
