import type { LooseEndInfo, Me } from '@corvun/contract';
import { dayOf, sayDay, sayMinutes, sayTime } from '@corvun/core';
import { useState, type ReactNode } from 'react';
import { addTime } from '../../data/doing';
import { beginTask, changeTask, changeTasks } from '../../data/thingActions';
import { LineForm } from '../../passes/LineForm';
import { useNextWorkday } from '../../passes/useOpenWork';
import { Key } from '../../parts/signs';
import { useKeys } from '../../parts/useKeys';
import { thoughtOf } from '../../reminders/useReminders';
import { useOpenTask, useRemind } from '../../sheets/open';

/** Minutes that are begun with where nothing says how many are left. */
const USUAL = 25;
/** So many have a number. */
const NUMBERED = 9;

type Deed = [name: string, run: () => unknown];

/** What is not finished, each with its few deeds; the first of them has the number. */
export function LooseEnds({ me, now, loose }: { me: Me; now: number; loose: readonly LooseEndInfo[] }): ReactNode {
  const today = dayOf(now, me.zone);
  const [writing, setWriting] = useState<string | null>(null);
  const [openTask, remind] = [useOpenTask(), useRemind()];
  const next = useNextWorkday(today);
  const deedsOf = (one: LooseEndInfo): Deed[] => {
    const id = one.taskId ?? '';
    const goOn: Deed = ['Go on', () => beginTask(id, Math.min(600, one.minutes ?? USUAL))];
    const done: Deed = ['Done', () => changeTask(id, { status: 'COMPLETED' })];
    const later: Deed[] = next
      ? [['Not today', () => changeTasks({ ids: [id], change: { plannedDay: next }, freeOn: today })]]
      : [];
    switch (one.kind) {
      case 'over':
        return [done, goOn, ...later];
      case 'begun':
        return [goOn, done, ...later];
      case 'waiting':
        return [
          ['Ask again', () => remind(id)],
          ['It is here', () => changeTask(id, { waitingOn: null })],
        ];
      case 'took':
        return [
          ...(one.minutes === null
            ? []
            : [[`As planned, ${sayMinutes(one.minutes)}`, () => addTime(id, { minutes: one.minutes ?? USUAL })] satisfies Deed]),
          ['Write it', () => setWriting(one.id)],
        ];
      case 'reminder':
        return [...(id ? [['Open', () => openTask(id)] satisfies Deed] : []), ['Seen', () => thoughtOf([one.id])]];
    }
  };
  useKeys(Object.fromEntries(loose.slice(0, NUMBERED).map((one, at) => [String(at + 1), () => void deedsOf(one)[0]?.[1]()])));
  return (
    <section
      aria-label="Loose ends"
      className="max-h-[34%] shrink-0 overflow-y-auto border-t border-ink px-10 py-3 max-md:max-h-none max-md:px-4"
    >
      <h2 className="font-head font-semibold">Loose ends</h2>
      <ul className="mt-2 grid grid-cols-[repeat(auto-fill,minmax(280px,1fr))] gap-x-8 gap-y-3">
        {loose.map((one, at) => (
          <li key={one.kind + one.id} className="min-w-0 border-l-[3px] border-rule pl-3">
            <p className="truncate font-semibold max-md:line-clamp-2 max-md:whitespace-normal">{one.title}</p>
            <p className="truncate text-xs text-soft">{sayLoose(one, me, today)}</p>
            {writing === one.id && one.taskId ? (
              <div className="-mx-2">
                <LineForm
                  label="How many minutes it took"
                  kept={`took-${one.id}`}
                  empty="Write how many minutes it took."
                  check={(line) =>
                    /^[1-9]\d{0,3}$/.test(line) && Number(line) <= 1440 ? '' : 'Write whole minutes, from 1 to 1440.'
                  }
                  send={(line) => addTime(one.taskId ?? '', { minutes: Number(line) })}
                  close={() => setWriting(null)}
                />
              </div>
            ) : (
              <p className="flex flex-wrap items-center gap-x-3 text-xs">
                {deedsOf(one).map(([name, run], place) => (
                  <button
                    key={name}
                    type="button"
                    className="relative flex min-h-6 items-center gap-[6px] hover:text-teal"
                    onClick={() => void run()}
                  >
                    {place === 0 && at < NUMBERED && <Key>{at + 1}</Key>}
                    {name}
                    <span className="sr-only"> {one.title}</span>
                  </button>
                ))}
              </p>
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}

/** What is loose about it. */
function sayLoose({ kind, at, who, minutes }: LooseEndInfo, { zone }: Me, today: string): string {
  const instant = Date.parse(at);
  const day = dayOf(instant, zone);
  const when = day === today ? sayTime(instant, zone) : sayDay(day, today);
  const left = minutes === null ? '' : `, ${sayMinutes(minutes)} left`;
  switch (kind) {
    case 'over':
      return `its time ended ${when}, still open${left}`;
    case 'begun':
      return `begun, no time set aside${left}`;
    case 'waiting':
      return `waiting on ${who} since ${day === today ? 'today' : sayDay(day, today)}, wanted by now`;
    case 'took':
      return `done ${when}; how long did it take?`;
    case 'reminder':
      return `reminder of ${when}`;
  }
}
