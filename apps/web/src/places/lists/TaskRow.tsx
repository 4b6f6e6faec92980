import type { ListInfo, Me, TaskInfo } from '@corvun/contract';
import { count, sayDay, sayMinutes, sayTime } from '@corvun/core';
import { Mail } from 'lucide-react';
import { memo, useCallback, useRef, useState, type KeyboardEvent, type MouseEvent, type ReactNode } from 'react';
import { flushSync } from 'react-dom';
import { useNavigate } from 'react-router';
import { changeTask, skipOne } from '../../data/thingActions';
import { KEYS } from '../../keys';
import { Code, Deadline, Tally } from '../../parts/signs';
import { NameField } from '../../parts/NameField';
import { TickBox } from '../../parts/TickBox';
import { originalOf, useGiveTime, useOpenTask, useRemind } from '../../sheets/open';
import { FinishSteps, useFinish } from '../../sheets/useFinish';
import type { PartName } from '../../sheets/parts';
import { useMarked } from './marked';
import { DragFrom, DropOn, useDragging, type OnPointerDown } from './rowDrag';
import { TaskMenu } from './TaskMenu';

/** What a row needs of the list around it. */
export interface Around {
  /** Moves the focus by so many rows. */
  go: (id: string, by: number, mark: boolean) => void;
  /** Moves the task up or down by hand; null where the order is another. */
  move: ((id: string, by: 1 | -1) => void) | null;
  /** Asks for one thing of it, or of all that are marked. */
  ask: (id: string, part: PartName) => void;
  mark: (id: string, how: 'turn' | 'to') => void;
}

interface RowProps {
  me: Me;
  today: string;
  task: TaskInfo;
  depth: number;
  openSteps: number;
  lists: ListInfo[];
  code: boolean;
  current: boolean;
  around: Around;
}

const asks = (): Record<string, PartName> => ({ [KEYS.task.list]: 'list', [KEYS.task.day]: 'when', [KEYS.task.tag]: 'tags' });

/** A task in one line. What stands beside the title gives way before the title does. */
export const TaskRow = memo(function TaskRow({
  me,
  today,
  task,
  depth,
  openSteps,
  lists,
  code,
  current,
  around,
}: RowProps): ReactNode {
  const navigate = useNavigate();
  const openTask = useOpenTask();
  const giveTime = useGiveTime();
  const remind = useRemind();
  const finish = useFinish();
  const [menu, setMenu] = useState(false);
  const [naming, setNaming] = useState(false);
  const marked = useMarked((state) => state.ids.has(task.id));
  const [near, setNear] = useState(false);
  const dragging = useDragging((state) => state.on);
  const row = useRef<HTMLButtonElement>(null);
  const startDrag = useRef<OnPointerDown>(null);
  const ready = useCallback((start: OnPointerDown | null) => {
    startDrag.current = start;
  }, []);
  const done = task.status === 'COMPLETED';
  const list = lists.find((one) => one.id === task.listId);
  const tick = () => (done ? void changeTask(task.id, { status: 'NEEDS-ACTION' }) : finish.tick(task.id, openSteps));
  const onKeyDown = (event: KeyboardEvent) => {
    const arrow = { [KEYS.task.next]: 1, [KEYS.task.previous]: -1 }[event.key] as 1 | -1 | undefined;
    if (event.ctrlKey || event.metaKey) return;
    if (arrow && event.altKey) around.move?.(task.id, arrow);
    else if (arrow) around.go(task.id, arrow, event.shiftKey);
    else if (event.altKey) return;
    else if (event.key === KEYS.task.open || event.key === ' ') openTask(task.id);
    else if (event.key === KEYS.task.time && !done) giveTime(task.id);
    else if (event.key === KEYS.task.tick) {
      if (!openSteps || done) around.go(task.id, 1, false);
      tick();
    } else if (event.key === KEYS.task.menu) setMenu(true);
    else if (event.key === KEYS.task.name) setNaming(true);
    else if (event.key === KEYS.task.mark) around.mark(task.id, 'turn');
    else if (event.key === KEYS.task.remind && task.waitingOn) remind(task.id);
    else if (event.key === KEYS.task.skip && task.repeat && !done) void skipOne(task.id);
    else if (asks()[event.key]) around.ask(task.id, asks()[event.key] as PartName);
    else if (event.key === KEYS.task.original && task.incomingId) void navigate(...originalOf(task.incomingId ?? ''));
    else return;
    event.preventDefault();
    event.stopPropagation();
  };
  const onClick = (event: MouseEvent) => {
    if (event.shiftKey) around.mark(task.id, 'to');
    else if (event.ctrlKey || event.metaKey) around.mark(task.id, 'turn');
    else openTask(task.id);
  };
  return (
    <div
      className={`relative border-t border-rule ${marked ? 'bg-teal-wash' : current ? 'bg-paper' : ''} ${current ? 'shadow-[inset_3px_0_0_var(--ink)]' : ''}`}
      onPointerEnter={() => setNear(true)}
      onPointerLeave={() => setNear(false)}
    >
      <div
        className="flex min-h-9 items-center gap-2 pl-1 max-md:gap-1 max-md:pl-0"
        style={depth ? { paddingLeft: depth * 26 } : {}}
      >
        <TickBox done={done} title={task.title} onTick={tick} />
        {code && depth === 0 && <span className="w-[25px] shrink-0">{list && <Code code={list.code} hue={list.hue} />}</span>}
        {!naming ? (
          <button
            ref={row}
            onPointerDown={(event) => {
              // Pressed at once after it was reached, what begins to drag is not there yet.
              if (!startDrag.current) flushSync(() => setNear(true));
              startDrag.current?.(event);
            }}
            onContextMenu={(event) => {
              event.preventDefault();
              setMenu(true);
            }}
            type="button"
            data-task={task.id}
            aria-current={current ? 'true' : undefined}
            aria-describedby={marked ? 'is-marked' : undefined}
            onClick={onClick}
            onDoubleClick={() => setNaming(true)}
            onKeyDown={onKeyDown}
            className="flex min-w-0 flex-1 items-baseline gap-x-3 py-1.75 text-left max-md:flex-wrap max-md:gap-y-0"
          >
            <span
              className={`min-w-0 truncate max-md:basis-full ${done ? 'text-soft line-through' : depth ? '' : 'font-semibold'}`}
            >
              {task.title}
            </span>
            <Beside me={me} today={today} task={task} done={done} openSteps={openSteps} />
            <span className="shrink-0 text-right text-xs text-soft md:ml-auto">
              {done ? (task.spent ? `took ${sayMinutes(task.spent)}` : '') : task.estimate ? sayMinutes(task.estimate) : ''}
            </span>
          </button>
        ) : (
          <NameField
            label={`Title of “${task.title}”`}
            name={task.title}
            most={500}
            className="min-w-0 flex-1 py-1 font-semibold"
            keep={(title, byKey) => {
              setNaming(false);
              if (title) void changeTask(task.id, { title });
              if (byKey) setTimeout(() => row.current?.focus());
            }}
          />
        )}
        {task.incomingId ? (
          <button
            type="button"
            tabIndex={-1}
            className="grid size-7 shrink-0 place-items-center text-soft hover:text-ink max-md:size-6"
            aria-label={`Open the message “${task.title}” came from`}
            title="Open the message it came from"
            onClick={() => void navigate(...originalOf(task.incomingId ?? ''))}
          >
            <Mail size={14} aria-hidden="true" />
          </button>
        ) : (
          <span className="size-7 shrink-0 max-md:size-6" />
        )}
      </div>
      {menu && (
        <TaskMenu
          task={task}
          today={today}
          lists={lists}
          tick={tick}
          rename={() => setNaming(true)}
          mark={() => around.mark(task.id, 'turn')}
          closed={() => {
            setMenu(false);
            row.current?.focus();
          }}
        />
      )}
      {(near || dragging) && !naming && <DragFrom task={task} row={row} ready={ready} />}
      {dragging && <DropOn task={task} />}
      {!current && <FinishSteps finish={finish} id={task.id} />}
    </div>
  );
});

type BesideProps = Pick<RowProps, 'me' | 'today' | 'task' | 'openSteps'> & { done: boolean };

/** What there is to know at a glance; what there is no room for is left out, and not the title. */
function Beside({ me, today, task, done, openSteps }: BesideProps): ReactNode {
  const block = task.blocks[0];
  const when = block
    ? `${sayDay(block.start.slice(0, 10), today)}, ${sayTime(Date.parse(block.start), me.zone)}`
    : task.plannedDay
      ? sayDay(task.plannedDay, today)
      : task.plannedWeek
        ? `week ${Number(task.plannedWeek.slice(6))}`
        : '';
  const since = task.waitingSince ? ` since ${sayDay(task.waitingSince.slice(0, 10), today)}` : '';
  return (
    <span className="-mb-1 box-content flex h-[1lh] min-w-0 flex-[1_1_0] flex-wrap items-baseline gap-x-3 gap-y-2 overflow-hidden pb-1 text-xs whitespace-nowrap text-soft max-md:flex-[0_1_auto]">
      {/* What is first in a line is never moved to the next: with this the first part can be, too. */}
      <span className="-mr-3 w-0" aria-hidden="true">
        {'\u200b'}
      </span>
      {!done && task.priority !== 'normal' && <Tally priority={task.priority} />}
      {!done && task.deadline && <Deadline deadline={task.deadline} fixed={task.deadlineFixed} today={today} />}
      {when && <span>{when}</span>}
      {task.waitingOn && (
        <span className={task.waitingUntil && task.waitingUntil < today ? 'text-amber' : ''}>
          waiting on {task.waitingOn}
          {since}
          {task.waitingUntil && `, expected ${sayDay(task.waitingUntil, today)}`}
          {task.nudged && `, reminded ${sayDay(task.nudged.slice(0, 10), today)}`}
        </span>
      )}
      {task.assignedTo && <span>by {task.assignedTo}</span>}
      {task.lookAgain && <span>look again {sayDay(task.lookAgain, today)}</span>}
      {task.tags.map((tag) => (
        <span key={tag}>#{tag}</span>
      ))}
      {task.repeat && <span>repeats</span>}
      {openSteps > 0 && <span>{count(openSteps, 'step')}</span>}
      {task.attachmentList.length > 0 && <span>{count(task.attachmentList.length, 'file')}</span>}
      {task.notes.trim() && <span className="min-w-[12ch] flex-[1_1_0] truncate">{plain(task.notes)}</span>}
    </span>
  );
}

/** The first line of Markdown without its signs. */
const plain = (notes: string) =>
  (notes.trim().split('\n')[0] ?? '')
    .replace(/\[([^\]]*)\]\([^)]*\)/g, '$1')
    .replace(/[*_`#>]+/g, '')
    .trim()
    .slice(0, 160);
