import type { AgendaEntry, CalendarInfo, DayInfo } from '@corvun/contract';
import { count } from '@corvun/core';
import { useState, type ReactNode } from 'react';
import { changeEntries } from '../../data/calendarActions';
import { DeedsMenu } from '../../parts/DeedsMenu';
import { useKeys } from '../../parts/useKeys';
import { entryKey, usePlanning } from './planning';

const DAY = 1440;

interface MarkedProps {
  days: readonly DayInfo[];
  calendars: readonly CalendarInfo[];
  snap: number;
}

/** What can be done with all entries that are marked, as one doing. */
export function MarkedEntries({ days, calendars, snap }: MarkedProps): ReactNode {
  const marked = usePlanning((state) => state.marked);
  const none = usePlanning((state) => state.none);
  const [category, setCategory] = useState<string | null>(null);
  const entries = [
    ...new Map(
      days
        .flatMap((day) => day.entries)
        .filter((entry) => marked.has(entryKey(entry)))
        .map((entry): [string, AgendaEntry] => [entryKey(entry), entry]),
    ).values(),
  ];
  useKeys(entries.length ? { Escape: none } : {});
  if (!entries.length) return null;
  const named = entries.map(({ kind, id, occurrence }) => ({ kind, id, ...(occurrence ? { occurrence } : {}) }));
  const change = (what: Omit<Parameters<typeof changeEntries>[0], 'entries'>) => void changeEntries({ entries: named, ...what });
  const button = 'border border-ink px-2 text-xs hover:bg-card';
  return (
    <div
      role="toolbar"
      aria-label="What is marked"
      className="flex shrink-0 flex-wrap items-center gap-x-3 gap-y-1 border-t border-ink bg-teal-wash px-[18px] py-1"
    >
      <b className="font-semibold">{count(entries.length, 'entry', 'entries')} marked</b>
      {(
        [
          [`${snap} min earlier`, -snap],
          [`${snap} min later`, snap],
          ['A day earlier', -DAY],
          ['A day later', DAY],
          ['A week later', 7 * DAY],
        ] as const
      ).map(([name, by]) => (
        <button key={name} type="button" className={button} onClick={() => change({ by })}>
          {name}
        </button>
      ))}
      <DeedsMenu
        label="calendar …"
        called="Put the marked events into another calendar"
        className=""
        deeds={calendars
          .filter((one) => one.origin !== 'feed')
          .map((one) => ({ name: one.name, run: () => change({ calendarId: one.id }) }))}
      />
      {category === null ? (
        <button type="button" className="text-xs underline underline-offset-2" onClick={() => setCategory('')}>
          category …
        </button>
      ) : (
        <input
          ref={(field) => field?.focus()}
          aria-label="Category of the marked events; empty for none"
          placeholder="Category; empty for none"
          className="w-44 border-b border-ink bg-transparent text-xs"
          value={category}
          maxLength={200}
          onChange={(event) => setCategory(event.target.value)}
          onKeyDown={(event) => {
            if (event.key !== 'Enter' && event.key !== 'Escape') return;
            event.preventDefault();
            event.stopPropagation();
            if (event.key === 'Enter') change({ category });
            setCategory(null);
          }}
          onBlur={() => setCategory(null)}
        />
      )}
      <button
        type="button"
        className={button}
        onClick={() => {
          change({ remove: true });
          none();
        }}
      >
        Take away
      </button>
      <button type="button" className="ml-auto text-xs underline underline-offset-2" onClick={none}>
        Mark none
      </button>
    </div>
  );
}
