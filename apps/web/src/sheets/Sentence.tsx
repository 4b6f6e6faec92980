import type { TaskChange, TaskFull } from '@corvun/contract';
import { dayOf, sayDay } from '@corvun/core';
import { useState, type ReactNode } from 'react';
import { skipOne } from '../data/thingActions';
import { KEYS, keyName } from '../keys';
import { Key } from '../parts/signs';
import { Better } from './Better';
import { MoreMenu } from './MoreMenu';
import { partOf, type PartName, type Saying } from './parts';
import { PartControl } from './PartControl';

/** What can be added where it says nothing, in this order. */
const OFFERED: PartName[] = [
  'deadline',
  'estimate',
  'when',
  'tags',
  'priority',
  'concentration',
  'waitingOn',
  'waitingUntil',
  'repeat',
  'notBefore',
  'reminder',
  'assignedTo',
  'spent',
  'billable',
  'lookAgain',
];

interface SentenceProps {
  task: TaskFull;
  saying: Saying;
  save: (change: TaskChange) => void;
}

/** The fields of a task as one sentence, each part changeable where it stands; at its end what else can be said. */
export function Sentence({ task, saying, save }: SentenceProps): ReactNode {
  const [asked, setAsked] = useState<PartName | null>(null);
  const { today, zone } = saying;
  const has = (name: PartName) => partOf(name, task, saying).shown !== null || asked === name;
  const part = (name: PartName) => (
    <PartControl
      key={`${name}${asked === name ? '-asked' : ''}`}
      part={partOf(name, task, saying)}
      save={save}
      {...(asked === name && { open: true, closed: () => setAsked(null) })}
    />
  );
  const since = task.waitingSince ? sayDay(dayOf(Date.parse(task.waitingSince), zone), today) : null;
  const missing = OFFERED.filter((name) => !has(name) && (name !== 'waitingUntil' || task.waitingOn));
  return (
    <div role="group" aria-label="What it is" className="mt-3 text-[15px] leading-[27px]">
      {task.status === 'COMPLETED' && <b className="font-semibold">Done. </b>}
      {task.status === 'CANCELLED' && <b className="font-semibold">Dropped. </b>}
      On {part('list')}
      {has('deadline') && (
        <>
          , due {part('deadline')}
          {task.deadline && <>, {part('fixed')}</>}
        </>
      )}
      {'. '}
      {(has('estimate') || has('concentration') || has('priority')) && (
        <>
          {has('estimate') && <>Takes {part('estimate')}</>}
          {has('concentration') && (
            <>
              {has('estimate') ? ' of ' : 'It is '}
              {part('concentration')} work
            </>
          )}
          {has('priority') && (
            <>
              {has('estimate') || has('concentration') ? ', priority ' : 'Priority '}
              {part('priority')}
            </>
          )}
          {'. '}
        </>
      )}
      {has('when') && <>To do {part('when')}. </>}
      {has('notBefore') && <>Not before {part('notBefore')}. </>}
      {has('repeat') && (
        <>
          Repeats {part('repeat')}
          {task.repeat && <>, counted from {part('repeatFrom')}</>}.{' '}
        </>
      )}
      {has('waitingOn') && (
        <>
          Waiting on {part('waitingOn')}
          {since && ` since ${since}`}
          {has('waitingUntil') && <>, expected by {part('waitingUntil')}</>}.{' '}
        </>
      )}
      {has('assignedTo') && <>Done by {part('assignedTo')}. </>}
      {has('reminder') && <>Reminder {part('reminder')}. </>}
      {has('spent') && <>Spent {part('spent')}. </>}
      {has('billable') && <>It is {part('billable')}. </>}
      {has('lookAgain') && <>On the shelf, look again {part('lookAgain')}. </>}
      {has('tags') && <>{part('tags')} </>}
      <MoreMenu missing={missing.map((name) => ({ name, label: partOf(name, task, saying).label }))} ask={setAsked} />
      {task.better && <Better better={task.better} task={task} save={save} lists={saying.lists} />}
      {task.nextDays.length > 0 && (
        <p className="text-xs leading-4 text-soft">
          Next: {task.nextDays.map((day) => sayDay(day, today)).join(' · ')}{' '}
          {task.status !== 'COMPLETED' && (
            <button
              type="button"
              id="skip-one"
              className="min-h-6 text-teal underline underline-offset-2"
              onClick={() => void skipOne(task.id)}
            >
              skip this one <Key>{keyName(KEYS.sheet.skip)}</Key>
            </button>
          )}
        </p>
      )}
    </div>
  );
}
