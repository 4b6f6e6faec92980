import type { Me, TaskFull } from '@corvun/contract';
import { useState, type ReactNode } from 'react';
import { useLocation } from 'react-router';
import { changeTask } from '../data/thingActions';
import { useDays, useLists, usePeople, useTags } from '../data/queries';
import { TickBox } from '../parts/TickBox';
import { useNow } from '../parts/useNow';
import { FilesAndLinks } from './FilesAndLinks';
import { useFileDrop } from './useFileDrop';
import { HandOver } from './HandOver';
import { History } from './History';
import { Meeting } from './Meeting';
import { Notes } from './Notes';
import { Origin } from './Origin';
import { Placed } from './Placed';
import { Sentence } from './Sentence';
import { SheetTitle } from './SheetTitle';
import { Steps } from './Steps';
import { TimeSpent } from './TimeSpent';
import { useSave } from './useSave';
import { WaitingOn } from './WaitingOn';
import { FinishSteps, useFinish } from './useFinish';

/** Days in which time is offered. */
const AHEAD = 14;

/** Everything of a task, each thing changed where it stands. */
export function SheetBody({ me, task, today }: { me: Me; task: TaskFull; today: string }): ReactNode {
  const now = useNow();
  const lists = useLists().data ?? [];
  const tags = useTags().data ?? [];
  const people = usePeople().data ?? [];
  const free = useDays(today, AHEAD);
  const days = free.data ?? [];
  const saving = useSave(task);
  const finish = useFinish();
  // From a list or from Find it can be opened where its time is chosen.
  const { state } = useLocation() as { state: { time?: boolean } | null };
  const [choosing, setChoosing] = useState(state?.time === true);
  const { over, ...drop } = useFileDrop('task', task.id);
  const { save, met } = saving;
  const done = task.status === 'COMPLETED';
  const openSteps = task.steps.filter((step) => step.status !== 'COMPLETED').length;
  return (
    <div className={`px-6 pb-10 max-md:px-4 ${over}`} {...drop}>
      <div className="flex items-start gap-2">
        <span className="mt-[3px]">
          <TickBox
            id="sheet-tick"
            done={done}
            title={task.title}
            onTick={() => (done ? void changeTask(task.id, { status: 'NEEDS-ACTION' }) : finish.tick(task.id, openSteps))}
          />
        </span>
        <SheetTitle draft={`title-${task.id}`} of="task" title={task.title} soft={done} save={(title) => save({ title })} />
      </div>
      <FinishSteps finish={finish} id={task.id} />
      {met && <Meeting met={met} saving={saving} lists={lists} today={today} />}
      <Sentence
        task={task}
        saying={{ lists, tags, people, days, today, now, zone: me.zone }}
        save={(change) => Object.keys(change).length > 0 && void save(change)}
      />
      <WaitingOn task={task} today={today} />
      <HandOver task={task} />
      <Placed me={me} task={task} free={free} today={today} now={now} choosing={choosing} setChoosing={setChoosing} />
      <TimeSpent me={me} task={task} today={today} />
      <Steps task={task} />
      <Notes draft={`notes-${task.id}`} text={task.notes} save={(notes) => save({ notes })} />
      <FilesAndLinks task={task} save={save} />
      <Origin task={task} today={today} zone={me.zone} />
      <History lines={task.history} today={today} zone={me.zone} />
    </div>
  );
}
