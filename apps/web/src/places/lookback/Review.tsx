import type { DayInfo, Me, TaskInfo } from '@corvun/contract';
import { addDays, count, mondayOf, sayDay, sayMinutes, sayTime, weekInReview, weekOf } from '@corvun/core';
import { useState, type ReactNode } from 'react';
import { Link } from 'react-router';
import { beginPass, usePasses } from '../../data/passes';
import { useDays, useLists, useTasks } from '../../data/queries';
import { useTimeLedger } from '../../data/lookback';
import { serverNow } from '../../parts/useNow';
import { Code } from '../../parts/signs';
import { PASS_NAMES, isClosed } from '../../passes/due';
import { useMine } from '../../passes/useOpenWork';
import { dayDone, doneIn, leftOf, metOn } from '../../passes/week';
import { useOpenTask } from '../../sheets/open';
import { button, primary } from '../sources/common';
import { LookBackHead } from './LookBackHead';
import { sayRange } from './range';

const NONE: readonly TaskInfo[] = [];
const NO_DAYS: readonly DayInfo[] = [];

/** What a week came to, and the passes that close the day and the week. */
export function Review({ me, today }: { me: Me; today: string }): ReactNode {
  const due = weekInReview(today);
  const [shown, setShown] = useState(0);
  const from = addDays(due.from, shown * 7);
  const week = { ...due, from, to: addDays(from, 6) };
  const number = Number(due.week.slice(6));
  const passes = usePasses().data;
  const reviewed = passes?.reviewed ?? null;
  const isDone = reviewed !== null && weekInReview(reviewed).week === due.week;
  return (
    <div className="flex h-full flex-col">
      <LookBackHead
        part="review"
        title={sayRange({ kind: 'week', from: week.from, to: week.to }, today)}
        about={`week ${Number(weekOf(week.from).slice(6))}`}
        step={(by) => setShown((now) => Math.min(Math.max(now + by, -52), 1))}
        present={['the week in review', () => setShown(0)]}
      />
      <div className="flex min-h-0 flex-1 max-md:flex-col max-md:overflow-y-auto">
        <div className="min-w-0 flex-1 overflow-y-auto px-[26px] pt-4 pb-10 max-md:flex-none max-md:overflow-visible max-md:px-3">
          <Came me={me} today={today} week={week} />
        </div>
        <aside
          aria-label="Passes"
          className="w-[414px] shrink-0 overflow-y-auto border-l border-rule bg-card px-[26px] pt-4 pb-10 max-lg:w-[330px] max-md:w-full max-md:border-t max-md:border-l-0 max-md:px-3"
        >
          <section aria-label={PASS_NAMES['week-review']}>
            <h2 className="font-head font-semibold">{PASS_NAMES['week-review']}</h2>
            <p className="mt-1 text-soft">
              Seven steps: what was finished, what was not and why, what waits on whom, projects that do not move, the shelf, what
              stands already, and a plan for week {Number(due.coming.slice(6))}.
            </p>
            <p className="mt-1 text-soft">
              {isDone
                ? `Week ${number} was looked back on on ${sayDay(reviewed, today)}.`
                : reviewed === null
                  ? 'No week was looked back on yet.'
                  : `Done last on ${sayDay(reviewed, today)}.`}
            </p>
            <button type="button" className={`${isDone ? button : primary} mt-3`} onClick={() => void beginPass('week-review')}>
              {passes?.running?.kind === 'week-review' ? 'Go on with the review' : `Look back on week ${number}`}
            </button>
          </section>
          <section aria-label={PASS_NAMES['close-day']} className="mt-8">
            <h2 className="font-head font-semibold">{PASS_NAMES['close-day']}</h2>
            <p className="mt-1 text-soft">
              {passes && isClosed(passes.today) && passes.today.closed
                ? `Closed at ${sayTime(Date.parse(passes.today.closed), me.zone)}. What arrives now waits until tomorrow.`
                : 'Four steps: tick off what is done, say how long it took, look at tomorrow, stop.'}
            </p>
            <button type="button" className={`${button} mt-3`} onClick={() => void beginPass('close-day')}>
              {passes && isClosed(passes.today) ? 'Close it again' : 'Close the day'}
            </button>
          </section>
        </aside>
      </div>
    </div>
  );
}

type Week = ReturnType<typeof weekInReview>;

/** What was done in the week and what stayed open, with the numbers above. */
function Came({ me, today, week }: { me: Me; today: string; week: Week }): ReactNode {
  const openTask = useOpenTask();
  const lists = useLists().data ?? [];
  const tasks = useTasks().data ?? NONE;
  const mine = useMine();
  const { data: ledger } = useTimeLedger({ from: week.from, to: week.to }, 'list');
  const done = doneIn(tasks, week, me.zone);
  const left = leftOf(mine, tasks, week, me.settings.lengths, today);
  const { meetings, minutes } = metOn(useDays(week.from, 7).data ?? NO_DAYS, serverNow());
  const spent = ledger?.from === week.from ? ledger.total.spent : 0;
  return (
    <>
      <p>
        {count(done.length, 'thing')} done, {count(meetings, 'meeting')}
        {minutes > 0 && `, ${sayMinutes(minutes)}`}
        {spent > 0 && `; ${sayMinutes(spent)} spent on work`}.{' '}
        <Link to={`/look-back/ledger/${weekOf(week.from)}`} className="text-soft underline underline-offset-2 hover:text-ink">
          Where the time went
        </Link>
      </p>
      <section aria-label="Done in the week" className="mt-4">
        <h2 className="mb-1 font-head font-semibold">Done</h2>
        {done.length === 0 && <p className="text-soft">Nothing was ticked off in this week.</p>}
        <ul>
          {done.map((task) => {
            const list = lists.find(({ id }) => id === task.listId);
            return (
              <li key={task.id} className="flex items-baseline gap-2 border-t border-rule py-[5px]">
                {list && <Code code={list.code} hue={list.hue} />}
                <button
                  type="button"
                  data-task={task.id}
                  className="min-h-6 min-w-0 flex-1 truncate text-left underline-offset-2 hover:underline"
                  onClick={() => openTask(task.id)}
                >
                  {task.title}
                </button>
                {task.spent > 0 && <span className="shrink-0 text-soft">{sayMinutes(task.spent)}</span>}
                <Link
                  to={`/look-back/log/${dayDone(task, me.zone)}`}
                  className="min-h-6 w-[74px] shrink-0 text-right text-xs text-soft underline-offset-2 hover:underline"
                >
                  {sayDay(dayDone(task, me.zone), today)}
                </Link>
              </li>
            );
          })}
        </ul>
      </section>
      {week.to < mondayOf(week.coming) && left.length > 0 && (
        <p className="mt-4 text-soft">
          {count(left.length, 'thing')} that {left.length === 1 ? 'was' : 'were'} meant for it or for before{' '}
          {left.length === 1 ? 'is' : 'are'} still open; the review asks why.
        </p>
      )}
    </>
  );
}
