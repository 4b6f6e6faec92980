import type { DayInfo, TaskInfo } from '@corvun/contract';
import { SAID_WHY, count, sayDay, sayMinutes, weekInReview, type LeftWhy } from '@corvun/core';
import { useState, type ReactNode } from 'react';
import { useDays, useLists, usePeople, useTasks } from '../data/queries';
import { breakDown, changeTask } from '../data/thingActions';
import { KEYS } from '../keys';
import { Code } from '../parts/signs';
import { serverNow } from '../parts/useNow';
import { isOpen } from '../places/lists/view';
import { Remind } from '../sheets/WaitingOn';
import { useOpenTask } from '../sheets/open';
import { BreakDown } from './BreakDown';
import { Items, focusItem, type Deed } from './Items';
import { LineForm } from './LineForm';
import type { StepProps } from './stepProps';
import { useMine } from './useOpenWork';
import { dayDone, doneIn, leftOf, metOn, type Left } from './week';

const NONE: readonly TaskInfo[] = [];
const NO_DAYS: readonly DayInfo[] = [];

/** What was done in the week, and what one took part in. */
export function Finished({ me, today }: StepProps): ReactNode {
  const openTask = useOpenTask();
  const lists = useLists().data ?? [];
  const review = weekInReview(today);
  const done = doneIn(useTasks().data ?? NONE, review, me.zone);
  const { meetings, minutes } = metOn(useDays(review.from, 7).data ?? NO_DAYS, serverNow());
  const spent = done.reduce((sum, task) => sum + task.spent, 0);
  return (
    <>
      <p className="mb-2">
        Week {Number(review.week.slice(6))}: {count(done.length, 'thing')} done
        {spent > 0 && `, ${sayMinutes(spent)} spent on them`}
        {meetings > 0 && `; ${count(meetings, 'meeting')}, ${sayMinutes(minutes)}`}.
      </p>
      <Items
        label="Done in the week"
        items={done}
        idOf={({ id }) => id}
        deeds={[
          { key: 'n', name: 'Not done', run: (task) => changeTask(task.id, { status: 'NEEDS-ACTION' }) },
          { key: KEYS.card.open, name: 'Open', run: (task) => openTask(task.id) },
        ]}
        empty="Nothing was ticked off in this week."
      >
        {(task) => {
          const list = lists.find(({ id }) => id === task.listId);
          return (
            <>
              {list && <Code code={list.code} hue={list.hue} />}
              <span className="min-w-0 flex-1">{task.title}</span>
              <span className="shrink-0 text-xs text-soft">{sayDay(dayDone(task, me.zone), today)}</span>
            </>
          );
        }}
      </Items>
    </>
  );
}

type Asked = { id: string; what: 'too-big' | 'blocked' | 'waiting' };

/** What was meant for the week and is still open: why, and what becomes of it. */
export function WhyLeft({ me, today }: StepProps): ReactNode {
  const openTask = useOpenTask();
  const people = usePeople().data ?? [];
  const [asked, ask] = useState<Asked | null>(null);
  const review = weekInReview(today);
  const left = leftOf(useMine(), useTasks().data ?? NONE, review, me.settings.lengths, today);
  const because = (leftOpen: LeftWhy) => ({ leftOpen, plannedWeek: review.coming });
  const change = ({ task }: Left, fields: Parameters<typeof changeTask>[1]) => changeTask(task.id, fields);
  const deeds: Deed<Left>[] = [
    { key: 'b', name: 'Too big', run: ({ task }) => ask({ id: task.id, what: 'too-big' }) },
    { key: 'k', name: 'Blocked', run: ({ task }) => ask({ id: task.id, what: 'blocked' }) },
    { key: 'w', name: 'Waiting', run: ({ task }) => ask({ id: task.id, what: 'waiting' }) },
    { key: 't', name: 'No time', run: (one) => change(one, because('no-time')) },
    { key: 'n', name: 'Not wanted', run: (one) => change(one, { leftOpen: 'not-wanted', status: 'CANCELLED' }) },
    {
      key: 's',
      name: 'Shelf',
      run: (one) => change(one, { leftOpen: 'not-wanted', shelved: true, plannedDay: null, plannedWeek: null }),
    },
    { key: 'x', name: 'Done', run: (one) => change(one, { status: 'COMPLETED' }) },
    { key: KEYS.card.open, name: 'Open', run: ({ task }) => openTask(task.id) },
  ];
  const close = (id: string) => {
    ask(null);
    focusItem(id);
  };
  return (
    <Items
      label="Not finished"
      textOf={({ task }) => task.title}
      items={left}
      idOf={({ task }) => task.id}
      deeds={deeds}
      empty="Everything that was for this week is done."
      below={({ task }) => {
        if (asked?.id !== task.id) return null;
        const done = () => close(task.id);
        if (asked.what === 'too-big') return <BreakDown {...{ me, today, task }} change={because('too-big')} close={done} />;
        return asked.what === 'blocked' ? (
          <LineForm
            kept={`blocked-${task.id}`}
            label="What has to happen first?"
            placeholder="It becomes the first step"
            empty="Write what has to happen first."
            send={(title) => breakDown(task.id, { steps: [{ title, minutes: null }], before: true, change: because('blocked') })}
            close={done}
          />
        ) : (
          <LineForm
            kept={`waits-${task.id}`}
            label="On whom does it wait?"
            empty="Write a name."
            offered={people.map(({ name }) => name).filter(Boolean)}
            send={(waitingOn) => changeTask(task.id, { waitingOn, leftOpen: 'waiting' })}
            close={done}
          />
        );
      }}
    >
      {({ task, day, likely }) => (
        <>
          <span className="min-w-0 flex-1">
            {task.title}
            {task.leftOpen !== null || likely !== 'no-time' ? (
              <span className="block text-xs text-soft">
                {task.leftOpen ? `last time ${SAID_WHY[task.leftOpen]}` : `perhaps ${SAID_WHY[likely]}`}
              </span>
            ) : null}
          </span>
          <span className="shrink-0 text-xs text-soft">
            {task.estimate !== null && `${sayMinutes(task.estimate)}, `}
            {sayDay(day, today)}
          </span>
        </>
      )}
    </Items>
  );
}

/** What waits on others, since when, and asking them once more. */
export function Waits({ today }: StepProps): ReactNode {
  const openTask = useOpenTask();
  const [asking, setAsking] = useState<string | null>(null);
  const waiting = (useTasks().data ?? NONE)
    .filter((task) => isOpen(task) && task.waitingOn !== null)
    .sort((a, b) => (a.waitingSince ?? '').localeCompare(b.waitingSince ?? ''));
  const deeds: Deed<TaskInfo>[] = [
    { key: KEYS.task.remind, name: 'Remind', run: ({ id }) => setAsking(id) },
    { key: 'c', name: 'It has come', run: ({ id }) => changeTask(id, { waitingOn: null }) },
    { key: KEYS.card.open, name: 'Open', run: ({ id }) => openTask(id) },
  ];
  return (
    <Items
      label="Waiting on others"
      items={waiting}
      idOf={({ id }) => id}
      deeds={deeds}
      empty="Nothing waits on anybody."
      below={(task) =>
        asking === task.id && (
          <div className="mx-2 mb-2">
            <Remind
              id={task.id}
              who={task.waitingOn ?? ''}
              begins
              left={() => {
                setAsking(null);
                focusItem(task.id);
              }}
            />
          </div>
        )
      }
    >
      {(task) => {
        const late = task.waitingUntil !== null && task.waitingUntil < today;
        return (
          <>
            <span className="min-w-0 flex-1">
              {task.title}
              <span className="block text-xs text-soft">
                {task.waitingOn}
                {task.waitingSince && `, since ${sayDay(task.waitingSince.slice(0, 10), today)}`}
                {task.nudged && `, asked again ${sayDay(task.nudged.slice(0, 10), today)}`}
              </span>
            </span>
            {task.waitingUntil && (
              <span className={`shrink-0 text-xs ${late ? 'text-amber' : 'text-soft'}`}>
                by {sayDay(task.waitingUntil, today)}
              </span>
            )}
          </>
        );
      }}
    </Items>
  );
}
