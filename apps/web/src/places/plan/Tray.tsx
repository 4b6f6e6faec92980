import type { ListInfo, Me, ProjectInfo, SourceInfo } from '@corvun/contract';
import { sayMinutes, type Grouping } from '@corvun/core';
import { ChevronDown, ChevronUp } from 'lucide-react';
import { useMemo, useRef, useState, type KeyboardEvent, type PointerEvent, type ReactNode } from 'react';
import { useShortlist } from '../../data/passes';
import { useProjects, useTasks } from '../../data/queries';
import { useSources } from '../../data/sources';
import { KEYS, keyName } from '../../keys';
import { GroupChoice, SortChoice } from '../../parts/arranging';
import { Key } from '../../parts/signs';
import { useSettings } from '../../state/settings';
import { FitsNow } from './FitsNow';
import { DRAWERS, cardsOf, isLike, liesIn, type Card, type Drawer } from './tray';
import { TrayCards } from './TrayCards';

const NAMES: Record<Drawer, string> = {
  soon: 'Due soon',
  week: 'This week, any day',
  shortlist: 'Shortlist',
  list: 'By list',
  source: 'From a source',
  stalled: 'Stalled',
  fits: 'I have … min',
  all: 'Everything',
};
const NO_PROJECTS: readonly ProjectInfo[] = [];
const LEAST = 96;
const MOST = 560;

interface TrayProps {
  me: Me;
  now: number;
  today: string;
  lists: readonly ListInfo[];
  /** Begins to give cards time by keys. */
  place: (cards: readonly Card[]) => void;
}

/** Open work without its time, along the bottom of Plan: each card is as wide as it is long. */
export function Tray({ me, now, today, lists, place }: TrayProps): ReactNode {
  const tasks = useTasks();
  const sources = useSources().data ?? [];
  const projects = useProjects().data ?? NO_PROJECTS;
  const { picks } = useShortlist();
  const { tray, setTray } = useSettings();
  const { height, folded, group, sort } = tray;
  const drawer = tray.drawer === 'shortlist' && !picks.length ? 'soon' : tray.drawer;
  const [words, setWords] = useState('');
  const [sourceId, setSourceId] = useState<string | null>(null);
  const all = useMemo(() => cardsOf(tasks.data ?? [], me.settings.lengths), [tasks.data, me.settings.lengths]);
  const inDrawers = useMemo(
    () =>
      new Map(DRAWERS.map((one) => [one, all.filter((card) => liesIn(card, one, { today, projects, picks, sourceId: null }))])),
    [all, today, projects, picks],
  );
  const shown = useMemo(
    () =>
      all.filter(
        (card) =>
          liesIn(card, drawer, { today, projects, picks, sourceId }) && (words.trim() === '' || isLike(card, words.trim())),
      ),
    [all, drawer, today, projects, picks, sourceId, words],
  );
  const known = sources.filter((source) => all.some((card) => card.task.sourceId === source.id));
  const grouping: Grouping = drawer === 'list' ? 'list' : group;
  const minutes = shown.reduce((sum, card) => sum + card.minutes, 0);
  return (
    <section
      aria-label="Tray"
      className="@container shrink-0 border-t border-ink bg-card max-md:hidden"
      style={folded ? {} : { height }}
    >
      {!folded && <Edge height={height} set={(next) => setTray({ height: next })} />}
      <div className="flex h-9 items-center gap-1 border-b border-rule pr-4 pl-2">
        <div
          role="tablist"
          aria-label="Drawers"
          tabIndex={-1}
          className="flex h-full min-w-0 overflow-x-auto overflow-y-hidden"
          onKeyDown={turnTabs}
        >
          {DRAWERS.filter((one) => (one !== 'source' || known.length > 0) && (one !== 'shortlist' || picks.length > 0)).map(
            (one) => (
              <button
                key={one}
                type="button"
                role="tab"
                aria-selected={one === drawer}
                aria-controls="tray-cards"
                tabIndex={one === drawer ? 0 : -1}
                className={`h-full px-3 whitespace-nowrap ${one === drawer ? 'font-semibold shadow-[inset_0_-2px_0_var(--teal)]' : 'text-soft hover:text-ink'}`}
                onClick={() => setTray({ drawer: one, folded: false })}
              >
                {NAMES[one]}
                {one === 'list' || one === 'fits' ? '' : <span className="ml-1 text-xs">{inDrawers.get(one)?.length ?? 0}</span>}
              </button>
            ),
          )}
        </div>
        {!folded && drawer !== 'fits' && (
          <>
            {drawer === 'source' && <SourceChoice sources={known} chosen={sourceId} choose={setSourceId} />}
            <label htmlFor="tray-find" className="sr-only">
              Find in the tray
            </label>
            <input
              id="tray-find"
              type="search"
              value={words}
              autoComplete="off"
              placeholder="find in it"
              className="ml-auto w-28 border-b @max-[800px]:w-16 border-rule bg-transparent text-xs placeholder:text-soft focus:border-teal"
              onChange={(event) => setWords(event.target.value)}
              onKeyDown={(event) => {
                if (event.key !== 'Escape') return;
                setWords('');
                event.currentTarget.blur();
              }}
            />
            {drawer !== 'list' && (
              <GroupChoice className="@max-[1200px]:hidden" chosen={group} choose={(one) => setTray({ group: one })} />
            )}
            <SortChoice chosen={sort} choose={(one) => setTray({ sort: one })} />
            <span className="text-xs whitespace-nowrap text-soft @max-[1200px]:hidden">
              {minutes > 0 && `${sayMinutes(minutes)} to place`}
            </span>
          </>
        )}
        <button
          type="button"
          className={`flex items-center gap-1 text-xs text-soft hover:text-ink ${folded || drawer === 'fits' ? 'ml-auto' : ''}`}
          aria-expanded={!folded}
          onClick={() => setTray({ folded: !folded })}
        >
          <span className="sr-only">{folded ? 'Open the tray' : 'Fold the tray away'}</span>
          {folded ? <ChevronUp size={15} aria-hidden="true" /> : <ChevronDown size={15} aria-hidden="true" />}
          <Key>{keyName(KEYS.plan.tray)}</Key>
        </button>
      </div>
      {!folded && drawer === 'fits' && <FitsNow {...{ me, now, lists }} cards={all} height={height - 37} />}
      {!folded && drawer !== 'fits' && (
        <TrayCards
          key={drawer}
          me={me}
          today={today}
          lists={lists}
          cards={shown}
          height={height - 37}
          arranging={{ group: grouping, sort, today, lists }}
          place={place}
          empty={
            tasks.isPending
              ? ''
              : words.trim()
                ? 'Nothing in this drawer is called so.'
                : all.length
                  ? 'Nothing lies in this drawer. Everything that is open stands under “Everything”.'
                  : 'Every open task has its time.'
          }
        />
      )}
    </section>
  );
}

/** Arrow keys go from drawer to drawer. */
function turnTabs(event: KeyboardEvent<HTMLElement>): void {
  const by = { ArrowRight: 1, ArrowLeft: -1 }[event.key];
  if (!by) return;
  event.preventDefault();
  event.stopPropagation();
  const tabs = [...event.currentTarget.querySelectorAll<HTMLElement>('[role="tab"]')];
  const next = tabs[(tabs.indexOf(document.activeElement as HTMLElement) + by + tabs.length) % tabs.length];
  next?.focus();
  next?.click();
}

function SourceChoice({
  sources,
  chosen,
  choose,
}: {
  sources: readonly SourceInfo[];
  chosen: string | null;
  choose: (id: string | null) => void;
}): ReactNode {
  return (
    <select
      aria-label="Which source"
      className="field-sizing-content min-h-6 bg-transparent text-xs underline decoration-dotted underline-offset-2"
      value={chosen ?? ''}
      onChange={(event) => choose(event.target.value || null)}
    >
      <option value="" className="bg-card text-ink">
        any source
      </option>
      {sources.map((source) => (
        <option key={source.id} value={source.id} className="bg-card text-ink">
          {source.name}
        </option>
      ))}
    </select>
  );
}

/** The upper edge of the tray: dragged, or moved with the arrow keys. */
function Edge({ height, set }: { height: number; set: (height: number) => void }): ReactNode {
  const begun = useRef<{ y: number; height: number } | null>(null);
  const to = (next: number) => set(Math.round(Math.min(MOST, window.innerHeight * 0.6, Math.max(LEAST, next))));
  const move = (event: PointerEvent) => {
    if (begun.current) to(begun.current.height + begun.current.y - event.clientY);
  };
  return (
    // A separator that can be moved is a control (WAI-ARIA 1.2, separator).
    <div
      role="separator"
      aria-orientation="horizontal"
      aria-label="Height of the tray"
      aria-valuenow={height}
      aria-valuemin={LEAST}
      aria-valuemax={MOST}
      tabIndex={0}
      className="relative z-[11] -mt-[4px] h-[7px] cursor-ns-resize touch-none"
      onPointerDown={(event) => {
        begun.current = { y: event.clientY, height };
        event.currentTarget.setPointerCapture(event.pointerId);
      }}
      onPointerMove={move}
      onPointerUp={() => (begun.current = null)}
      onPointerCancel={() => (begun.current = null)}
      onKeyDown={(event) => {
        const by = { ArrowUp: 24, ArrowDown: -24 }[event.key];
        if (!by) return;
        event.preventDefault();
        event.stopPropagation();
        to(height + by);
      }}
    />
  );
}
