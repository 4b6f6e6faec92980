import type { ListInfo } from '@corvun/contract';
import { count } from '@corvun/core';
import type { ReactNode } from 'react';
import { Code } from '../parts/signs';
import { Items, type Deed, type ItemsProps } from './Items';

interface PicksProps<T> extends Omit<ItemsProps<T>, 'children'> {
  /** Ids of those that are picked, in order. */
  picked: readonly string[];
  most: number;
  /** What they are, in the singular. */
  unit: string;
  /** What the deed is called that picks one or takes it away. */
  called: string;
  /** Said of one that is picked to those who do not see it. */
  said: string;
  pick: (ids: string[]) => unknown;
  deeds: readonly Deed<T>[];
  listOf: (item: T) => ListInfo | undefined;
  titleOf: (item: T) => string;
  /** Said below the title. */
  noteOf?: (item: T) => ReactNode;
  /** What stands at the end of the line. */
  aside: (item: T) => ReactNode;
  /** Said after how many are picked. */
  more?: string;
}

/** A few of many are picked with one key, up to a number; what is picked has its place among them. */
export function Picks<T>({
  picked,
  most,
  unit,
  called,
  said,
  pick,
  deeds,
  listOf,
  titleOf,
  noteOf,
  aside,
  more = '',
  ...items
}: PicksProps<T>): ReactNode {
  const turn = (item: T) => {
    const id = items.idOf(item);
    const next = picked.includes(id) ? picked.filter((one) => one !== id) : [...picked, id];
    return next.length > most ? null : pick(next);
  };
  return (
    <>
      <p role="status" className="mb-2 text-xs">
        {picked.length} of {count(most, unit)}
        {more}
        {picked.length >= most && '. To choose another, take one away first.'}
      </p>
      <Items {...items} deeds={[{ key: 'Enter', name: called, run: turn }, ...deeds]}>
        {(item) => {
          const at = picked.indexOf(items.idOf(item));
          const list = listOf(item);
          return (
            <>
              <span className={`w-4 shrink-0 font-semibold ${at >= 0 ? 'text-teal' : ''}`} aria-hidden="true">
                {at >= 0 ? at + 1 : ''}
              </span>
              {list && <Code code={list.code} hue={list.hue} />}
              <span className={`min-w-0 flex-1 ${at >= 0 ? 'font-semibold' : ''}`}>
                {titleOf(item)}
                {at >= 0 && <span className="sr-only">, {said}</span>}
                {noteOf?.(item)}
              </span>
              <span className="shrink-0 text-right text-xs text-soft">{aside(item)}</span>
            </>
          );
        }}
      </Items>
    </>
  );
}
