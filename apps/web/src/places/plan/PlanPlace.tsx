import type { Me } from '@corvun/contract';
import { addDays, dayOf, daysBetween, isDay, sayDay, soonestSlot, wallOf } from '@corvun/core';
import { DndContext, DragOverlay } from '@dnd-kit/core';
import { useEffect, useRef, type KeyboardEvent, type ReactNode } from 'react';
import { Link, useLocation, useNavigate, useParams } from 'react-router';
import { useCalendars, useDays, useLists } from '../../data/queries';
import { useNextDays } from './useNextDays';
import { KEYS } from '../../keys';
import { DRAG_SAYS } from '../../parts/dragSays';
import { Failed, Waiting } from '../../parts/states';
import { useKeys } from '../../parts/useKeys';
import { useNarrow } from '../../parts/useNarrow';
import { useNow } from '../../parts/useNow';
import { useSettings } from '../../state/settings';
import { ActingProvider, useWays } from './acting';
import { Draft } from './Draft';
import { focusFits } from './FitsNow';
import { FourWeeks } from './FourWeeks';
import { Grab } from './Grab';
import { HOURS, clockText, sayShadow, shadowOf } from './grid';
import { MarkedEntries } from './MarkedEntries';
import { Offering } from './Offering';
import type { Target } from './planning';
import { PlanHead } from './PlanHead';
import { begin, leave, useFresh, useProposing } from './proposing';
import { usePlanning, type Placing } from './planning';
import { goBetween, reachCards, reachEntry } from './reach';
import { shownDays } from './shown';
import { Spread } from './Spread';
import { TimeGrid } from './TimeGrid';
import { Tray } from './Tray';
import { zoom } from './useGestures';
import { useLayered } from './useLayered';
import { useMaking } from './useMaking';
import { beginOffering, turnOffered, useOffering } from './useOffering';
import { usePlacingKeys } from './usePlacingKeys';
import { usePlanDrag } from './usePlanDrag';

/** Days and weeks against the time that is really free. */
export function PlanPlace({ me }: { me: Me }): ReactNode {
  const navigate = useNavigate();
  const params = useParams();
  const now = useNow();
  const today = dayOf(now, me.zone);
  const narrow = useNarrow();
  const { planDays, plan, tray, setTray, setPlan, setPlanDays } = useSettings();
  const view = plan.view;
  const anchor = params.day && isDay(params.day) ? params.day : today;
  const shown = shownDays(anchor, view, narrow ? 1 : planDays, plan.weekends, me.settings);
  const asked = useDays(shown.first, shown.span);
  useNextDays(asked.isSuccess, shown);
  const layers = useLayered(asked.data, shown.days);
  const days = layers.days ?? [];
  const calendars = useCalendars();
  const lists = useLists();
  const columns = useRef<HTMLDivElement>(null);
  const ways = useWays();
  const { dragged, target, context } = usePlanDrag(me, days, columns);
  const making = useMaking();
  const placing = usePlanning((state) => state.placing);
  useEffect(
    () => () =>
      usePlanning.setState({ placing: null, dragged: null, asked: null, offering: null, marked: new Set(), cards: new Set() }),
    [],
  );

  const drafting = useProposing(({ query }) => query !== null);
  const bar = usePlanning((state) => (state.marked.size ? BAR : 0) + state.offerBar + state.draftBar);
  useSaidAbove((narrow || drafting ? 0 : tray.folded ? FOLDED : tray.height) + bar);
  const go = (by: number) => void navigate(`/plan/${addDays(shown.days[0] ?? anchor, by * shown.step)}`);
  const goTo = (day: string | null) => void navigate(day === null ? '/plan' : `/plan/${day}`);
  const keys = usePlacingKeys(me, days, now, dragged, go);
  const offered = useOffering(me, days, now);
  const wanted = useLocation().state as { offer?: boolean } | null;
  const length = me.settings.lengths.medium;
  useEffect(() => {
    if (!wanted?.offer) return;
    beginOffering(length);
    // A reload does not begin it anew.
    void navigate('/plan', { replace: true });
  }, [wanted?.offer, length, navigate]);
  const make = () => {
    const minutes = me.settings.lengths.medium;
    const gaps = days.flatMap((day) => day.gaps.map((gap) => ({ start: Date.parse(gap.start), end: Date.parse(gap.end) })));
    const slot = soonestSlot(gaps, minutes, now);
    const wall = slot && wallOf(slot.start, me.zone);
    making.begin(
      wall
        ? { day: wall.slice(0, 10), from: Number(wall.slice(11, 13)) * 60 + Number(wall.slice(14, 16)), minutes }
        : { day: shown.days[0] ?? today, from: 9 * 60, minutes },
    );
  };
  const draft = () => {
    const days = shown.days.filter((day) => day >= today);
    const count = daysBetween(days[0] ?? today, days.at(-1) ?? today) + 1;
    void begin({ from: days[0] ?? today, days: String(count) });
  };
  useFresh(asked.dataUpdatedAt);
  useKeys({
    [KEYS.plan.earlier]: () => go(-1),
    [KEYS.plan.later]: () => go(1),
    [KEYS.plan.today]: () => void navigate('/plan'),
    [KEYS.plan.make]: make,
    [KEYS.plan.tray]: () => setTray({ folded: !tray.folded }),
    [KEYS.plan.fits]: () => {
      setTray({ folded: false, drawer: 'fits' });
      requestAnimationFrame(focusFits);
    },
    [KEYS.plan.entries]: () => reachEntry(now),
    [KEYS.plan.cards]: () => {
      setTray(tray.drawer === 'fits' ? { folded: false, drawer: 'all' } : { folded: false });
      requestAnimationFrame(reachCards);
    },
    [KEYS.plan.taller]: () => zoom(HOURS.step),
    [KEYS.plan.side]: () => {
      const isSide = view === 'grid' && planDays === 1 && plan.side;
      if (planDays !== 1) setPlanDays(1);
      setPlan({ view: 'grid', side: !isSide });
    },
    [KEYS.plan.lower]: () => zoom(-HOURS.step),
    [KEYS.plan.draft]: draft,
    [KEYS.plan.rest]: () => {
      if (!shown.days.includes(today)) void navigate('/plan');
      void begin({ from: today, days: '1', what: 'these', again: 'true' });
    },
    ...(drafting && { Escape: leave }),
  });

  const goAbout = (event: KeyboardEvent<HTMLElement>) => {
    const at = event.target as HTMLElement;
    if (event.defaultPrevented || event.ctrlKey || event.metaKey || event.altKey || event.shiftKey) return;
    const isEntry = at.dataset['goes'] !== undefined && view !== 'weeks';
    if (event.key.startsWith('Arrow') && isEntry) goBetween(at, event.key);
    else if (event.key === 'Escape' && (isEntry || at.dataset['card'])) {
      if (bar || drafting || document.querySelector('[data-sheet]')) return;
      document.getElementById('place')?.focus();
    } else return;
    event.preventDefault();
    event.stopPropagation();
  };

  const { snap: step } = me.settings;
  const Days = view === 'weeks' ? FourWeeks : view === 'spread' ? Spread : TimeGrid;
  const [first = anchor] = shown.days;
  const last = shown.days.at(-1) ?? first;
  const heading =
    first === last
      ? sayDay(first, today)
      : `${sayDay(first, today).replace(/^\w+ /, '')} – ${sayDay(last, today).replace(/^\w+ /, '')}`;
  if (asked.isPending) return <Waiting what="Opening the plan" />;
  if (asked.error && !asked.data) return <Failed problem={asked.error} retry={() => void asked.refetch()} />;
  return (
    // Keys of what is being placed come before those of what has the focus.
    <div
      className="flex h-full flex-col"
      role="presentation"
      onKeyDownCapture={keys.onKeyDownCapture}
      onKeyDown={goAbout}
      onPointerDownCapture={(event) => {
        if (placing && !(event.target as Element).closest('[data-gap]')) usePlanning.getState().place(null);
      }}
    >
      <PlanHead
        me={me}
        today={today}
        narrow={narrow}
        heading={heading}
        shown={shown}
        days={days}
        hidden={layers.hidden}
        go={go}
        goTo={goTo}
        draft={draft}
      />
      {days.every((day) => day.entries.length === 0) && (
        <p className="shrink-0 border-b border-rule px-[18px] py-2 text-soft max-md:px-3">
          Nothing stands on these days. Draw on them, give something time on{' '}
          <Link to="/sort" className="underline underline-offset-2">
            Sort
          </Link>{' '}
          or{' '}
          <Link to="/lists" className="underline underline-offset-2">
            Lists
          </Link>
          , or{' '}
          <Link to="/sources/files" className="underline underline-offset-2">
            take a calendar in
          </Link>
          .
        </p>
      )}
      <DndContext accessibility={DRAG_SAYS} {...context} autoScroll={{ threshold: { x: 0, y: 0.12 } }}>
        <ActingProvider value={ways}>
          <Grab>
            <Days
              ref={columns}
              beside={plan.side && !narrow}
              me={me}
              now={now}
              days={days}
              calendars={calendars.data ?? []}
              lists={lists.data ?? []}
              placing={dragged ?? placing}
              target={dragged ? target : (placing?.target ?? null)}
              gaps={offered.length ? offered : keys.gaps}
              take={offered.length ? ({ slot }) => turnOffered(slot.start) : keys.take}
              making={making}
              dues={layers.dues}
              turn={go}
            />
            <Offering me={me} today={today} gaps={offered} />
            <MarkedEntries days={days} calendars={calendars.data ?? []} snap={step} />
            {drafting ? (
              <Draft me={me} today={today} />
            ) : (
              <Tray me={me} now={now} today={today} lists={lists.data ?? []} place={keys.begin} />
            )}
          </Grab>
        </ActingProvider>
        <DragOverlay dropAnimation={null}>
          {dragged && dragged.what !== 'resize' && (target?.from ?? null) === null && <Carried placing={dragged} />}
        </DragOverlay>
      </DndContext>
      <p role="status" className="sr-only">
        {placing && sayPlacing(placing.target, days, me, today)}
      </p>
    </div>
  );
}

/** What hangs on the pointer. */
function Carried({ placing }: { placing: Placing }): ReactNode {
  const [title, more] =
    placing.what === 'cards' ? [placing.cards[0]?.task.title ?? '', placing.cards.length - 1] : [placing.entry.title, 0];
  return (
    <div className="w-40 truncate border border-dashed border-plum bg-plum-wash px-2 py-1 text-xs font-semibold opacity-90">
      {title}
      {more > 0 && ` and ${more} more`}
    </div>
  );
}

/** For those who do not see where it stands. */
function sayPlacing({ day, from, minutes }: Target, days: Parameters<typeof usePlacingKeys>[1], me: Me, today: string): string {
  if (from === null) return `${sayDay(day, today)}, no time`;
  const shown = days.find((one) => one.day === day);
  const meets = shown ? sayShadow(shadowOf(shown, from, minutes, me.zone)) : '';
  return `${sayDay(day, today)}, ${clockText(from)} to ${clockText(from + minutes)}${meets ? `, ${meets}` : ''}`;
}

/** Height of the tray when it is folded away, and of the bar of what is marked. */
const FOLDED = 37;
const BAR = 40;

/** The line that says what was done stands above the tray. */
function useSaidAbove(height: number): void {
  useEffect(() => {
    const place = document.getElementById('place');
    place?.style.setProperty('--said-bottom', `${height + 8}px`);
    return () => void place?.style.removeProperty('--said-bottom');
  }, [height]);
}
