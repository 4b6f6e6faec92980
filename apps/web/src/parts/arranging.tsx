import { GROUPINGS, SORTINGS, type Grouping, type Sorting } from '@corvun/core';
import type { ReactNode } from 'react';

const GROUP_NAMES: Record<Grouping, string> = {
  none: 'not grouped',
  list: 'grouped by list',
  day: 'grouped by day',
  deadline: 'grouped by deadline',
  tag: 'grouped by tag',
  priority: 'grouped by priority',
  person: 'grouped by person',
  source: 'grouped by source',
};
const SORT_NAMES: Record<Sorting, string> = {
  hand: 'order by hand',
  day: 'order by day',
  deadline: 'order by deadline',
  priority: 'order by priority',
  estimate: 'order by length',
  age: 'order by age',
  title: 'order by title',
};

interface ChoiceProps<T extends string> {
  chosen: T;
  choose: (one: T) => void;
  className?: string;
}

interface WordsProps<T extends string> extends ChoiceProps<T> {
  label: string;
  all: readonly T[];
  names: Record<T, string>;
}

function WordChoice<T extends string>({ label, all, names, chosen, choose, className = '' }: WordsProps<T>): ReactNode {
  return (
    <select
      aria-label={label}
      className={`field-sizing-content min-h-6 bg-transparent text-xs underline decoration-dotted underline-offset-2 ${className}`}
      value={chosen}
      onChange={(event) => choose(event.target.value as T)}
    >
      {all.map((one) => (
        <option key={one} value={one} className="bg-card text-ink">
          {names[one]}
        </option>
      ))}
    </select>
  );
}

/** How tasks are grouped. */
export const GroupChoice = (props: ChoiceProps<Grouping>): ReactNode => (
  <WordChoice label="Group" all={GROUPINGS} names={GROUP_NAMES} {...props} />
);

/** In what order they stand. */
export const SortChoice = (props: ChoiceProps<Sorting>): ReactNode => (
  <WordChoice label="Order" all={SORTINGS} names={SORT_NAMES} {...props} />
);
