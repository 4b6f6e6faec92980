import type { EventFull } from '@corvun/contract';
import { count, type SeriesReach } from '@corvun/core';
import type { ReactNode } from 'react';

type Scope = 'this' | 'following' | 'all';

interface ScopeProps {
  /** How many dates each choice reaches; null while that is not known. */
  reach: EventFull['reach'] | null;
  scope: Scope;
  choose: (scope: Scope) => void;
  /** What happens to a date: `moves`, `goes`, `changes`. */
  what: string;
  /** Whether it takes the focus. */
  focus?: boolean;
}

/** How much of a series is meant, with how many dates that is, before anything happens. */
export function ScopeChoice({ reach, scope, choose, what, focus = false }: ScopeProps): ReactNode {
  const names: [Scope, string][] = [
    ['this', 'This date'],
    ['following', `This and all after it${howMany(reach?.following)}`],
    ['all', `All its dates${howMany(reach?.all)}`],
  ];
  const reached = scope === 'this' || !reach ? null : reach[scope];
  return (
    <fieldset className="mt-2 text-xs">
      <legend className="sr-only">Which dates are meant</legend>
      {names.map(([one, name]) => (
        <label key={one} className="flex min-h-6 items-center gap-2">
          <input
            type="radio"
            name="scope"
            className="accent-teal"
            checked={one === scope}
            autoFocus={focus && one === scope}
            onChange={() => choose(one)}
          />
          {name}
        </label>
      ))}
      <p className="text-xs text-soft" aria-live="polite">
        {reached && reached.byHand > 0
          ? `${count(reached.byHand, 'date')} of them ${reached.byHand === 1 ? 'was' : 'were'} changed by hand: ${
              what === 'goes' ? 'they go, too' : 'what was changed there stays'
            }.`
          : ''}
      </p>
    </fieldset>
  );
}

const howMany = (reach: SeriesReach | undefined): string =>
  !reach ? '' : reach.dates === null ? ', without end' : `, ${count(reach.dates, 'date')}`;
