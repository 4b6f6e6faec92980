import type { ListInfo } from '@corvun/contract';
import { sayMinutes } from '@corvun/core';
import type { KeyboardEvent, ReactNode } from 'react';
import { beginTask } from '../data/thingActions';
import { keyName } from '../keys';
import { useOpenTask } from '../sheets/open';
import { Code, Key } from './signs';
import { useEnter } from './useKeys';

/** Something that fits into the time there is. */
export interface FittingRow {
  id: string;
  title: string;
  listId: string | null;
  minutes: number;
  reasons: readonly string[];
}

interface FitListProps {
  fits: readonly FittingRow[];
  /** The time there is. */
  minutes: number;
  lists: readonly ListInfo[];
  /** The key that opens the sheet of one. */
  openKey: string;
  /** Enter begins the best of them wherever the focus is. */
  atOnce?: boolean;
}

/** Puts the focus on the best of what fits. @returns whether there is one */
export function focusBest(): boolean {
  const best = document.querySelector<HTMLElement>('[data-fit]');
  best?.focus();
  return best !== null;
}

/** What fits into some minutes, the best first; each is begun with Enter, and the arrow keys go between them. */
export function FitList({ fits, minutes, lists, openKey, atOnce = false }: FitListProps): ReactNode {
  const openTask = useOpenTask();
  const [best] = fits;
  useEnter(
    () => {
      if (best) void beginTask(best.id, best.minutes);
    },
    atOnce && best !== undefined,
  );
  const go = (event: KeyboardEvent<HTMLElement>) => {
    const rows = [...event.currentTarget.querySelectorAll<HTMLElement>('[data-fit]')];
    const at = rows.indexOf(event.target as HTMLElement);
    const by = { ArrowDown: 1, ArrowUp: -1 }[event.key];
    const id = (event.target as HTMLElement).dataset['fit'];
    if (at < 0 || event.ctrlKey || event.metaKey || event.altKey) return;
    if (by) rows[at + by]?.focus();
    else if (event.key === openKey && id) openTask(id);
    else return;
    event.preventDefault();
    event.stopPropagation();
  };
  return (
    // Rows are buttons; the arrow keys only go between them.
    <ol aria-label={`Fits into ${minutes} min`} className="mt-2 border-b border-rule empty:hidden" onKeyDown={go}>
      {fits.map((fit, at) => (
        <Row
          key={fit.id}
          fit={fit}
          first={at === 0}
          atOnce={atOnce && at === 0}
          list={lists.find(({ id }) => id === fit.listId)}
        />
      ))}
    </ol>
  );
}

interface RowProps {
  fit: FittingRow;
  first: boolean;
  /** Its key works wherever the focus is. */
  atOnce: boolean;
  list: ListInfo | undefined;
}

function Row({ fit, first, atOnce, list }: RowProps): ReactNode {
  return (
    <li className="border-t border-rule">
      <button
        type="button"
        data-fit={fit.id}
        className="group flex min-h-8 w-full items-baseline gap-2 py-1 max-md:flex-wrap max-md:gap-y-0 text-left hover:bg-paper focus-visible:bg-paper"
        onClick={() => void beginTask(fit.id, fit.minutes)}
      >
        {list ? <Code code={list.code} hue={list.hue} /> : <span className="w-[25px] shrink-0" />}
        <span
          className={`min-w-0 truncate max-md:line-clamp-2 max-md:basis-[calc(100%-33px)] max-md:whitespace-normal ${first ? 'font-semibold' : ''}`}
        >
          {fit.title}
        </span>
        <span className="shrink-0 text-xs tabular-nums max-md:ml-[33px]">{sayMinutes(fit.minutes)}</span>
        <span className="min-w-0 truncate text-xs text-soft">{fit.reasons.join(', ')}</span>
        <span
          className={`ml-auto shrink-0 pr-1 text-xs text-teal ${first ? '' : 'opacity-0 group-hover:opacity-100 group-focus:opacity-100'}`}
        >
          Begin{' '}
          <span className={atOnce ? '' : 'opacity-0 group-focus:opacity-100'}>
            <Key>{keyName('Enter')}</Key>
          </span>
        </span>
      </button>
    </li>
  );
}

interface MinutesProps {
  id: string;
  className: string;
  value: string;
  wrong: boolean;
  /** Id of what says how it is. */
  says: string;
  /** @param text null: what is usual */
  set: (text: string | null) => void;
  /** Goes to the best of what fits. */
  go: () => void;
}

/** How many minutes there are: Enter and the arrow go to the best, Escape gives back what is usual and leaves it. */
export const MinutesField = ({ id, className, value, wrong, says, set, go }: MinutesProps): ReactNode => (
  <input
    id={id}
    inputMode="numeric"
    autoComplete="off"
    className={`border-b border-soft bg-transparent text-center tabular-nums ${className}`}
    value={value}
    aria-invalid={wrong}
    aria-describedby={says}
    onChange={(event) => set(event.target.value)}
    onKeyDown={(event) => {
      if (event.key === 'Escape') return set(null);
      if (event.key === 'Enter' || event.key === 'ArrowDown') go();
      else return;
      event.preventDefault();
      event.stopPropagation();
    }}
  />
);
