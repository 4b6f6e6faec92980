import type { BlockMove, CalendarInfo, DayInfo, Me, TaskInfo, YesCost } from '@corvun/contract';
import {
  addDays,
  count,
  dayOf,
  firstDayOf,
  sayDay,
  sayMinutes,
  sayMoment,
  sayParts,
  sayRule,
  wallOf,
  type Draft,
} from '@corvun/core';
import { useEffect, useState, type KeyboardEvent, type ReactNode } from 'react';
import { movesOf, useYesCost } from '../../cost/cost';
import { addEvent, setBlock } from '../../data/calendarActions';
import { useLists, useTasks } from '../../data/queries';
import { useReading } from '../../parts/reading';
import { Code, Key } from '../../parts/signs';
import { serverNow } from '../../parts/useNow';
import { useDraft } from '../../sheets/drafts';
import { clockText, sayShadow, shadowOf } from './grid';
import { instantAt } from './moves';
import { usePlanning, type Target } from './planning';
import { cardsOf, isLike } from './tray';
import { MAKING, type Making } from './useMaking';

const KINDS = ['event', 'task', 'quiet', 'break'] as const;
type Kind = (typeof KINDS)[number];
const NAMES: Record<Kind, string> = { event: 'Event', task: 'Time for a task', quiet: 'Quiet time', break: 'Break' };
const ASKS: Record<Kind, string> = {
  event: 'Site walk every Tue at 10:00 for 90 min',
  task: 'An open task, or a new one',
  quiet: 'What for, if you like',
  break: 'What it is called, if you like',
};
const MOST_LIKE = 6;

interface NewProps {
  me: Me;
  now: number;
  making: Making;
  at: Target;
  calendars: readonly CalendarInfo[];
  days: readonly DayInfo[];
  /** What it is to be at first. */
  first?: Kind;
}

/** A small form where something new was drawn: one line, and what it is to be. */
export function NewEntry({ me, now, making, at, calendars, days, first = 'event' }: NewProps): ReactNode {
  const [kept, write] = useDraft(MAKING);
  const [kind, setKind] = useState<Kind>(first);
  const [chosen, setChosen] = useState(0);
  const [busy, setBusy] = useState(false);
  const text = kept ?? '';
  const today = dayOf(now, me.zone);
  const lists = useLists().data ?? [];
  const tasks = useTasks().data ?? [];
  const { parseLine } = useReading();
  const names = lists.map((list) => list.name);
  const draft = text.trim() ? parseLine(text, { now: serverNow(), zone: me.zone, lists: names }) : null;
  const found =
    kind === 'task'
      ? cardsOf(tasks, me.settings.lengths)
          .filter((card) => isLike(card, text.trim()))
          .slice(0, MOST_LIKE)
          .map(({ task }) => task)
      : [];
  const place = placeSaid(draft, at, kind);
  const { day: saidDay, from: saidFrom, minutes: saidMinutes, calendarId: saidIn } = place;
  useEffect(() => {
    usePlanning.setState({
      said: { ...(saidIn ? { calendarId: saidIn } : {}), day: saidDay, from: saidFrom, minutes: saidMinutes },
    });
    return () => usePlanning.setState({ said: null });
  }, [saidDay, saidFrom, saidMinutes, saidIn]);
  const day = days.find((one) => one.day === place.day);
  const meets = day && place.from !== null ? sayShadow(shadowOf(day, place.from, place.minutes, me.zone)) : '';
  const main =
    calendars.find(({ id }) => id === at.calendarId) ??
    calendars.find((one) => one.main && one.origin !== 'feed') ??
    calendars.find((one) => one.origin !== 'feed');
  const start = place.from === null ? null : instantAt(place.day, place.from, me.zone);
  const { data: cost } = useYesCost(kind === 'event' && start ? { start, minutes: String(place.minutes) } : null);
  const moves = movesOf(cost);
  const close = () => making.end();
  const make = async (task?: TaskInfo, giveWay = false) => {
    if (busy) return;
    setBusy(true);
    const done = await made(kind, { me, text: text.trim(), draft, place, task, moves: giveWay ? moves : [] });
    setBusy(false);
    if (done) close();
  };
  const picked = kind === 'task' ? found[chosen] : undefined;
  const ready = kind === 'quiet' || kind === 'break' || text.trim() !== '' || picked !== undefined;
  const onKeyDown = (event: KeyboardEvent) => {
    const by = { ArrowDown: 1, ArrowUp: -1 }[event.key];
    if (event.key === 'Enter') {
      event.preventDefault();
      if (ready) void make(picked);
    } else if (by && kind === 'task') {
      event.preventDefault();
      // One after the last is the new task that the line says.
      const most = found.length - (text.trim() ? 0 : 1);
      setChosen(Math.max(0, Math.min(most, chosen + by)));
    }
  };
  return (
    <div className="p-3">
      <label htmlFor="plan-new" className="sr-only">
        What it is
      </label>
      <input
        id="plan-new"
        autoFocus
        autoComplete="off"
        maxLength={2000}
        className="w-full border-b border-ink bg-transparent py-1"
        placeholder={ASKS[kind]}
        value={text}
        aria-describedby="plan-new-says"
        onChange={(event) => {
          write(event.target.value);
          setChosen(0);
        }}
        onKeyDown={onKeyDown}
      />
      <div role="radiogroup" aria-label="What it is to be" className="mt-2 flex flex-wrap gap-x-3 gap-y-1">
        {KINDS.filter((one) => at.from !== null || one === 'event').map((one) => (
          <label key={one} className="flex items-center gap-1 text-xs">
            <input type="radio" name="plan-kind" className="accent-teal" checked={kind === one} onChange={() => setKind(one)} />
            {NAMES[one]}
          </label>
        ))}
      </div>
      <p id="plan-new-says" className="mt-2 text-xs text-soft">
        <b className="font-semibold text-ink">
          {sayDay(place.day, today)}
          {place.from === null ? lastDay(place, today) : `, ${clockText(place.from)} – ${clockText(place.from + place.minutes)}`}
        </b>
        {kind === 'event' && main ? ` · ${main.name}` : ''}
        {kind === 'event' && draft?.repeat ? ` · ${sayRule(draft.repeat, today)}` : ''}
        {meets && ` · ${meets}`}
      </p>
      {kind === 'task' && (
        <ul aria-label="Open tasks" className="mt-2 max-h-[190px] overflow-y-auto border-t border-rule">
          {found.map((task, index) => {
            const list = lists.find((one) => one.id === task.listId);
            return (
              <li key={task.id}>
                <button
                  type="button"
                  className={`flex w-full items-baseline gap-2 px-1 py-1 text-left ${index === chosen ? 'bg-teal-wash' : 'hover:bg-teal-wash'}`}
                  onClick={() => void make(task)}
                >
                  {list && <Code code={list.code} hue={list.hue} />}
                  <span className="min-w-0 flex-1 truncate">{task.title}</span>
                  <span className="text-xs text-soft">{task.estimate ? sayMinutes(task.estimate) : ''}</span>
                </button>
              </li>
            );
          })}
          {text.trim() && (
            <li>
              <button
                type="button"
                className={`w-full px-1 py-1 text-left break-words ${chosen >= found.length ? 'bg-teal-wash' : 'hover:bg-teal-wash'}`}
                onClick={() => void make()}
              >
                A new task: <b className="font-semibold">{draft?.title || text.trim()}</b>
                <span className="block text-xs text-soft">
                  {draft
                    ? sayParts(text, draft, today)
                        .map(([name, value]) => `${name} ${value}`)
                        .join(' · ')
                    : ''}
                </span>
              </button>
            </li>
          )}
        </ul>
      )}
      <p className="mt-3 flex flex-wrap items-center gap-2">
        <button
          type="button"
          disabled={!ready || busy}
          className="bg-teal px-3 py-1 text-on-teal disabled:bg-rule disabled:text-soft"
          onClick={() => void make(picked)}
        >
          {kind === 'task' ? 'Give it this time' : 'Make it'} <Key>Enter</Key>
        </button>
        {kind === 'event' && moves.length > 0 && (
          <button
            type="button"
            disabled={!ready || busy}
            className="border border-ink px-3 py-1 hover:bg-teal-wash disabled:border-rule disabled:text-soft"
            title={moveTitle(cost, today, me.zone)}
            onClick={() => void make(undefined, true)}
          >
            … and move {count(moves.length, 'block')}
          </button>
        )}
        <button type="button" className="border border-rule px-3 py-1 hover:border-ink" onClick={close}>
          Leave it <Key>Esc</Key>
        </button>
      </p>
    </div>
  );
}

/** What would move where. */
const moveTitle = (cost: YesCost | undefined, today: string, zone: string): string =>
  (cost?.overlaps ?? [])
    .flatMap(({ title, moveTo }) => (moveTo ? `“${title}” to ${sayMoment(wallOf(Date.parse(moveTo.start), zone), today)}` : []))
    .join('; ');

/** The last of several whole days. */
const lastDay = ({ day, minutes }: Target, today: string): string =>
  minutes > 1440 ? ` – ${sayDay(addDays(day, Math.round(minutes / 1440) - 1), today)}` : '';

/** Where it is to be: as drawn, and as the line says otherwise. */
function placeSaid(draft: Draft | null, at: Target, kind: Kind): Target {
  if (!draft) return at;
  const clock = (time: string) => Number(time.slice(0, 2)) * 60 + Number(time.slice(3, 5));
  const from = draft.time ? clock(draft.time) : at.from;
  const until = draft.endTime && draft.time ? (clock(draft.endTime) - clock(draft.time) + 1440) % 1440 : null;
  const day = draft.date ?? at.day;
  const first = kind === 'event' && draft.repeat ? firstDayOf(draft.repeat, day) : day;
  return { ...at, day: first, from, minutes: draft.minutes ?? (until || at.minutes) };
}

interface Wanted {
  me: Me;
  text: string;
  draft: Draft | null;
  place: Target;
  task: TaskInfo | undefined;
  /** Own time that gives way. */
  moves: BlockMove[];
}

async function made(
  kind: Kind,
  { me, text, draft, place: { day, from, minutes, calendarId }, task, moves }: Wanted,
): Promise<unknown> {
  const title = draft?.title || text;
  if (kind === 'event') {
    const when =
      from === null
        ? { start: day, allDay: true, minutes: Math.max(1, Math.round(minutes / 1440)) * 1440 }
        : { start: instantAt(day, from, me.zone), minutes };
    return addEvent({
      title,
      ...when,
      ...(calendarId ? { calendarId } : {}),
      ...(draft?.repeat ? { repeat: draft.repeat } : {}),
      ...(draft?.people.length ? { guests: draft.people } : {}),
      ...(moves.length ? { moves } : {}),
    });
  }
  const start = instantAt(day, from ?? 0, me.zone);
  if (kind === 'task') return setBlock({ start, minutes, ...(task ? { taskId: task.id } : { line: text }) });
  return setBlock({ kind, start, minutes, ...(title ? { title } : {}) });
}
