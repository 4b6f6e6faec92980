import type { Me, TaskFull } from '@corvun/contract';
import { useEffect, useRef, useState, type DragEvent, type ReactNode } from 'react';
import { addFiles, changeTask } from '../data/thingActions';
import { useDays, useLists, usePeople, useTags } from '../data/queries';
import { TickBox } from '../parts/TickBox';
import { useNow } from '../parts/useNow';
import { useKeptField } from './drafts';
import { FilesAndLinks } from './FilesAndLinks';
import { History } from './History';
import { Meeting } from './Meeting';
import { Notes } from './Notes';
import { Origin } from './Origin';
import { Placed } from './Placed';
import { Sentence } from './Sentence';
import { Steps } from './Steps';
import { useSave } from './useSave';
import { FinishSteps, useFinish } from './useFinish';

/** Days in which time is offered. */
const AHEAD = 14;

/** Everything of a task, each thing changed where it stands. */
export function SheetBody({ me, task, today }: { me: Me; task: TaskFull; today: string }): ReactNode {
  const now = useNow();
  const lists = useLists().data ?? [];
  const tags = useTags().data ?? [];
  const people = usePeople().data ?? [];
  const days = useDays(today, AHEAD).data ?? [];
  const saving = useSave(task);
  const finish = useFinish();
  const [choosing, setChoosing] = useState(false);
  const { over, ...drop } = useFileDrop(task.id);
  const { save, met } = saving;
  const done = task.status === 'COMPLETED';
  const openSteps = task.steps.filter((step) => step.status !== 'COMPLETED').length;
  return (
    <div className={`px-6 pb-10 max-md:px-4 ${over ? 'outline-2 -outline-offset-4 outline-dashed outline-teal' : ''}`} {...drop}>
      <div className="flex items-start gap-2">
        <span className="mt-[3px]">
          <TickBox
            id="sheet-tick"
            done={done}
            title={task.title}
            onTick={() => (done ? void changeTask(task.id, { status: 'NEEDS-ACTION' }) : finish.tick(task.id, openSteps))}
          />
        </span>
        <Title task={task} save={(title) => save({ title })} />
      </div>
      <FinishSteps finish={finish} id={task.id} />
      {met && <Meeting met={met} saving={saving} lists={lists} today={today} />}
      <Sentence
        task={task}
        saying={{ lists, tags, people, days, today, now, zone: me.zone }}
        save={(change) => Object.keys(change).length > 0 && void save(change)}
      />
      <Placed me={me} task={task} days={days} today={today} now={now} choosing={choosing} setChoosing={setChoosing} />
      <Steps task={task} />
      <Notes task={task} save={save} />
      <FilesAndLinks task={task} save={save} />
      <Origin task={task} today={today} zone={me.zone} />
      <History lines={task.history} today={today} zone={me.zone} />
    </div>
  );
}

function Title({ task, save }: { task: TaskFull; save: (title: string) => Promise<boolean> }): ReactNode {
  const { text, empty, write, leave } = useKeptField(`title-${task.id}`, task.title, save);
  return (
    <div className="min-w-0 flex-1">
      <textarea
        id="sheet-title"
        aria-label="Title"
        rows={1}
        className={`field-sizing-content w-full resize-none border-b border-transparent bg-transparent font-head text-lg leading-[29px] font-semibold tracking-tight hover:border-soft focus:border-teal ${task.status === 'COMPLETED' ? 'text-soft' : ''}`}
        value={text}
        maxLength={500}
        aria-invalid={empty}
        aria-describedby="title-wrong"
        onChange={(event) => write(event.target.value.replace(/\n/g, ' '))}
        onBlur={() => void leave()}
        onKeyDown={(event) => {
          if (event.key !== 'Enter' && event.key !== 'Escape') return;
          event.preventDefault();
          event.stopPropagation();
          if (event.key === 'Escape') write(null);
          event.currentTarget.closest<HTMLElement>('[data-sheet]')?.focus();
        }}
      />
      <p id="title-wrong" role="alert" className="text-xs text-brick empty:hidden">
        {empty ? 'The task needs a title. Esc brings the one it had back.' : ''}
      </p>
    </div>
  );
}

/** Files that are dropped on the sheet, or pasted while it has the focus, go to the task. */
function useFileDrop(taskId: string) {
  const [over, setOver] = useState(false);
  const isFiles = (event: DragEvent) => event.dataTransfer.types.includes('Files');
  const latest = useRef(taskId);
  useEffect(() => {
    latest.current = taskId;
  });
  return {
    over,
    onDragOver: (event: DragEvent) => {
      if (!isFiles(event)) return;
      event.preventDefault();
      event.stopPropagation();
      setOver(true);
    },
    onDragLeave: () => setOver(false),
    onDrop: (event: DragEvent) => {
      setOver(false);
      if (!isFiles(event)) return;
      event.preventDefault();
      event.stopPropagation();
      if (event.dataTransfer.files.length) void addFiles(latest.current, [...event.dataTransfer.files]);
    },
    onPaste: (event: React.ClipboardEvent) => {
      const files = [...event.clipboardData.files];
      if (!files.length) return;
      event.preventDefault();
      void addFiles(latest.current, files);
    },
  };
}
