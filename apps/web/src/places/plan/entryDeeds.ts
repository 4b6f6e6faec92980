import type { AgendaEntry, DayInfo, Me } from '@corvun/contract';
import type { KeyboardEvent } from 'react';
import { changeBlock } from '../../data/calendarActions';
import { addTime } from '../../data/doing';
import { client } from '../../data/queries';
import { KEYS } from '../../keys';
import { useSaid } from '../../state/said';
import { originalOf } from '../../sheets/open';
import type { Ways } from './acting';
import { another, isDone, nextWeek, notToday, remove, standing, tick } from './moves';
import { entryKey, usePlanning } from './planning';

/** What can be done with an entry: the same by its keys and by its menu; what cannot be is not there. */
export interface Deeds {
  open: (() => void) | undefined;
  move: (() => void) | undefined;
  mark: () => void;
  tick: (() => void) | undefined;
  ended: (() => void) | undefined;
  another: (() => void) | undefined;
  notToday: (() => void) | undefined;
  nextWeek: (() => void) | undefined;
  shown: (() => void) | undefined;
  pin: (() => void) | undefined;
  /** It moves with what it lies beside, or does so no more. */
  beside: { name: string; run: () => void } | undefined;
  remove: (() => void) | undefined;
  original: (() => void) | undefined;
}

export function deedsOf(entry: AgendaEntry, me: Me, now: number, today: string, ways: Ways): Deeds {
  const { openTask, openEvent, navigate } = ways;
  const { taskId, incomingId, kind } = entry;
  const own = !entry.fixed;
  // Where it goes by a key the focus goes with it.
  const follow = (work: () => Promise<void>) => {
    usePlanning.setState({ focus: entryKey(entry) });
    void work();
  };
  const open = isDone(entry) ? undefined : entry;
  const worked =
    kind === 'block' ? Math.floor((Math.min(now, Date.parse(entry.end ?? '')) - Date.parse(entry.start ?? '')) / 60_000) : 0;
  return {
    open: taskId ? () => openTask(taskId) : kind === 'event' ? () => openEvent(entry.id, entry.occurrence) : undefined,
    move: own
      ? () => {
          usePlanning.getState().place({ what: 'move', entry, target: standing(entry) });
          useSaid
            .getState()
            .say(
              `Arrow keys move it by ${me.settings.snap} minutes or a day, Shift with ↑ ↓ makes it shorter or longer, Enter puts it there, Escape ends`,
              'none',
            );
        }
      : undefined,
    mark: () => usePlanning.getState().mark(entryKey(entry)),
    tick: taskId ? () => void tick(entry) : undefined,
    ended: worked > 0 && taskId && open ? () => void addTime(taskId, { minutes: worked, block: entry.id }) : undefined,
    another: kind === 'block' && taskId && open ? () => void another(entry, now, me) : undefined,
    notToday: kind !== 'event' && open ? () => follow(() => notToday(entry, today, me)) : undefined,
    nextWeek: taskId && open ? () => void nextWeek(entry, today) : undefined,
    shown: kind === 'block' ? () => void changeBlock(entry.id, { busy: entry.showAs === 'free' }) : undefined,
    pin: kind === 'block' ? () => void changeBlock(entry.id, { pinned: !entry.pinned }) : undefined,
    beside: besideDeed(entry),
    remove: own ? () => void remove(entry) : undefined,
    original: incomingId ? () => navigate(...originalOf(incomingId)) : undefined,
  };
}

/** Minutes that may lie between a break and the event it belongs to. */
const APART = 15;

function besideDeed(entry: AgendaEntry): Deeds['beside'] {
  const { id, kind, taskId, start, end, day, beside } = entry;
  if (kind !== 'block' || taskId || !start || !end) return undefined;
  if (beside) return { name: 'It stands for itself again', run: () => void changeBlock(id, { beside: null }) };
  const [from, to] = [Date.parse(start), Date.parse(end)];
  const events = shownOn(day).filter((one) => one.kind === 'event' && !one.allDay && one.start && one.end);
  const apart = (one: AgendaEntry) => Math.max(Date.parse(one.start ?? '') - to, from - Date.parse(one.end ?? ''));
  const [next] = events.filter((one) => apart(one) <= APART * 60_000).sort((a, b) => apart(b) - apart(a));
  return next && { name: `Move it with “${next.title}”`, run: () => void changeBlock(id, { beside: next.id }) };
}

/** What stands on a day, as far as it was read. */
const shownOn = (day: string): AgendaEntry[] =>
  client
    .getQueriesData<DayInfo[]>({ queryKey: ['days'] })
    .flatMap(([, days]) => days ?? [])
    .find((one) => one.day === day)?.entries ?? [];

/** Keys on an entry. */
export const onEntryKey =
  (deeds: Deeds) =>
  (event: KeyboardEvent): void => {
    if (event.ctrlKey || event.metaKey || event.altKey) return;
    const name = (Object.keys(deeds) as (keyof Deeds)[])
      .filter((one) => one !== 'beside')
      .find((one) => KEYS.entry[one] === event.key);
    const deed = name && deeds[name];
    if (!deed) return;
    deed();
    event.preventDefault();
    event.stopPropagation();
  };

/** An entry that was put elsewhere by keys has the focus where it appears. */
export function focusAnew(key: string, button: HTMLButtonElement | null): void {
  if (usePlanning.getState().focus !== key) return;
  usePlanning.setState({ focus: null });
  button?.focus();
}
