import type { ListInfo, ProjectInfo, TaskInfo } from '@corvun/contract';
import { addDays, count, mondayOf, sayDay, sayMinutes, standingOf, weekInReview } from '@corvun/core';
import { useMemo, useState, type ReactNode } from 'react';
import { useNavigate } from 'react-router';
import { useDays, useLists, useProjects, useTasks } from '../data/queries';
import { addTasks, changeTask } from '../data/thingActions';
import { KEYS } from '../keys';
import { stillFree } from '../parts/gaps';
import { LoadBar } from '../parts/LoadBar';
import { Code } from '../parts/signs';
import { serverNow } from '../parts/useNow';
import { isOpen } from '../places/lists/view';
import { begin } from '../places/plan/proposing';
import { button, primary } from '../places/sources/common';
import { useOpenTask } from '../sheets/open';
import { Items, focusItem, type Deed } from './Items';
import { LineForm } from './LineForm';
import type { StepProps } from './stepProps';
import { useMine } from './useOpenWork';
import { forWeek, standingOn } from './week';

const NONE: readonly TaskInfo[] = [];
const FOUR_WEEKS = 28;

type Stuck = { list: ListInfo; project: ProjectInfo };

/** Projects that do not move: each gets a next step, or is looked at. */
export function StuckProjects({ today }: StepProps): ReactNode {
  const navigate = useNavigate();
  const openTask = useOpenTask();
  const lists = useLists().data ?? [];
  const [asked, ask] = useState<string | null>(null);
  const stuck = (useProjects().data ?? []).flatMap((project): Stuck[] => {
    const list = lists.find(({ id }) => id === project.listId);
    return list && (project.stalled || !project.next) ? [{ list, project }] : [];
  });
  const deeds: Deed<Stuck>[] = [
    { key: KEYS.lists.add, name: 'Next step', run: ({ list }) => ask(list.id) },
    { key: KEYS.card.open, name: 'Open', run: ({ list }) => void navigate(`/lists/${list.id}`) },
  ];
  const moving = (useProjects().data ?? []).flatMap((project) => {
    const list = lists.find(({ id }) => id === project.listId);
    return list && project.next && !project.stalled ? [{ list, project, next: project.next }] : [];
  });
  return (
    <>
      <Items
        label="Projects that do not move"
        items={stuck}
        idOf={({ list }) => list.id}
        deeds={deeds}
        empty="Every project has a next step and moves."
        below={({ list }) =>
          asked === list.id && (
            <LineForm
              kept={`next-${list.id}`}
              label="What can be done next, by you, now?"
              empty="Write what can be done next."
              send={(line) => addTasks([line], { list: list.id, after: null })}
              close={() => {
                ask(null);
                focusItem(list.id);
              }}
            />
          )
        }
      >
        {({ list, project }) => (
          <>
            <Code code={list.code} hue={list.hue} />
            <span className="min-w-0 flex-1">
              {list.name}
              <span className="block text-xs text-amber">{project.stalled || 'Nothing is left to do in it.'}</span>
            </span>
            {list.ends && <span className="shrink-0 text-xs text-soft">ends {sayDay(list.ends, today)}</span>}
          </>
        )}
      </Items>
      {moving.length > 0 && (
        <>
          <h3 className="mt-4 font-head font-semibold">Those that move</h3>
          <ul aria-label="Projects that move" className="border-b border-rule">
            {moving.map(({ list, project, next }) => (
              <li key={list.id} className="border-t border-rule px-2 py-[5px]">
                <span className="flex items-baseline gap-2">
                  <Code code={list.code} hue={list.hue} />
                  <span className="min-w-0 flex-1">{list.name}</span>
                  <span className="shrink-0 text-xs text-soft">
                    {project.done} of {count(project.done + project.open, 'step')}
                  </span>
                </span>
                <span className="block text-xs text-soft">
                  next:{' '}
                  <button type="button" className="min-h-6 text-left text-ink hover:underline" onClick={() => openTask(next.id)}>
                    {next.title}
                  </button>
                </span>
              </li>
            ))}
          </ul>
        </>
      )}
    </>
  );
}

/** What is on the shelf and is to be looked at again until the end of the coming week. */
export function ShelfDue({ today }: StepProps): ReactNode {
  const openTask = useOpenTask();
  const { coming } = weekInReview(today);
  const end = addDays(mondayOf(coming), 6);
  const due = (useTasks().data ?? NONE)
    .filter((task) => isOpen(task) && task.shelved && !task.parentId && task.lookAgain !== null && task.lookAgain <= end)
    .sort((a, b) => (a.lookAgain ?? '').localeCompare(b.lookAgain ?? ''));
  const later = addDays(today, FOUR_WEEKS);
  const deeds: Deed<TaskInfo>[] = [
    {
      key: 't',
      name: 'Into the week',
      run: ({ id }) => changeTask(id, { shelved: false, lookAgain: null, plannedWeek: coming }),
    },
    { key: 'l', name: `Again ${sayDay(later, today)}`, run: ({ id }) => changeTask(id, { lookAgain: later }) },
    { key: 'Backspace', name: 'Drop', run: ({ id }) => changeTask(id, { status: 'CANCELLED' }) },
    { key: KEYS.card.open, name: 'Open', run: ({ id }) => openTask(id) },
  ];
  return (
    <Items
      label="To be looked at again"
      items={due}
      idOf={({ id }) => id}
      deeds={deeds}
      empty="Nothing on the shelf wants to be looked at."
    >
      {(task) => (
        <>
          <span className="min-w-0 flex-1">{task.title}</span>
          <span className="shrink-0 text-xs text-soft">{sayDay(task.lookAgain ?? '', today)}</span>
        </>
      )}
    </Items>
  );
}

/** What comes again in the coming week as in every other, and how full its days are. */
export function StandingWeek({ today }: StepProps): ReactNode {
  const { coming } = weekInReview(today);
  const days = useDays(mondayOf(coming), 7).data;
  const standing = useMemo(() => standingOf(standingOn(days ?? [])), [days]);
  if (!days) return null;
  const minutes = standing.reduce((sum, one) => sum + one.minutes, 0);
  return (
    <>
      <h3 className="font-head font-semibold">
        Comes every time{minutes > 0 && <span className="font-sans text-xs font-normal text-soft"> {sayMinutes(minutes)}</span>}
      </h3>
      {standing.length ? (
        <ul aria-label="Standing commitments" className="mb-4 border-b border-rule">
          {standing.map((one) => (
            <li key={one.id} className="flex items-baseline gap-2 border-t border-rule py-[5px]">
              <span className="min-w-0 flex-1">{one.title}</span>
              <span className="shrink-0 text-xs text-soft">
                {one.days.map((day) => sayDay(day, today).slice(0, 3)).join(', ')}
                {one.minutes > 0 && `, ${sayMinutes(one.minutes)}`}
              </span>
            </li>
          ))}
        </ul>
      ) : (
        <p className="mb-4 text-soft">Nothing comes again and again in this week.</p>
      )}
      <h3 className="font-head font-semibold">How full its days are</h3>
      <ul aria-label="Loads of the coming week" className="border-b border-rule">
        {days
          .filter(({ working, load }) => working.length > 0 || load.unplaced > 0)
          .map((info) => ({ ...info, left: stillFree(info, serverNow()) }))
          .map(({ day, off, load, left }) => (
            <li key={day} className="border-t border-rule py-[5px]">
              <span className="flex items-baseline justify-between gap-2">
                {sayDay(day, today)}
                <span className={`text-xs ${load.over > 0 ? 'font-semibold text-amber' : 'text-soft'}`}>
                  {off ?? (load.over > 0 ? `${sayMinutes(load.over)} too much` : `${sayMinutes(left)} left`)}
                </span>
              </span>
              <LoadBar load={load} wide="full" />
            </li>
          ))}
      </ul>
    </>
  );
}

/** What is for the coming week against its free time, and its plan. */
export function PlanWeek({ me, today }: StepProps): ReactNode {
  const { coming } = weekInReview(today);
  const days = useDays(mondayOf(coming), 7).data;
  const mine = useMine();
  if (!days) return null;
  const { tasks, open, free } = forWeek(mine, days, coming, me.settings.lengths);
  return (
    <>
      <p>
        {count(tasks.length, 'task')} {tasks.length === 1 ? 'is' : 'are'} for week {Number(coming.slice(6))}
        {open > 0 && `; ${sayMinutes(open)} of them have no time yet`}.
      </p>
      <p className={`mb-3 ${open > free ? 'font-semibold text-amber' : ''}`}>
        {sayMinutes(free)} of the week are free
        {open > free ? `: ${sayMinutes(open - free)} too few. Something has to go to another week.` : '.'}
      </p>
      <p className="flex flex-wrap gap-2 text-xs">
        <button type="button" className={primary} onClick={() => void begin({ week: coming, what: 'these' })}>
          Plan the week …
        </button>
        <button type="button" className={button} onClick={() => void begin({ week: coming, what: 'due' })}>
          with what is due soon …
        </button>
      </p>
    </>
  );
}
