import type { ListInfo, Me, TaskInfo } from '@corvun/contract';
import { addDays, count, daysFrom, sayDay, sayMinutes, sayTime, weekOf } from '@corvun/core';
import { Mail } from 'lucide-react';
import { DropdownMenu } from 'radix-ui';
import { useEffect, useRef, useState, type KeyboardEvent, type ReactNode } from 'react';
import { useNavigate } from 'react-router';
import { changeTask } from '../../data/actions';
import { KEYS } from '../../keys';
import { CommandItem } from '../../parts/CommandItem';
import { Code, Deadline, Tally } from '../../parts/signs';
import { TickBox } from '../plan/Slip';

interface RowsProps {
  me: Me;
  today: string;
  tasks: TaskInfo[];
  lists: ListInfo[];
  showList: boolean;
  focusOn: string | null;
}

const item = 'flex items-center gap-2 px-3 py-1 outline-none data-[highlighted]:bg-teal-wash';
const panel = 'z-50 min-w-[210px] border border-ink bg-card py-1 shadow-lg';
const tick = (task: TaskInfo) => changeTask(task.id, { status: task.status === 'COMPLETED' ? 'NEEDS-ACTION' : 'COMPLETED' });

export function TaskRows(props: RowsProps): ReactNode {
  const frame = useRef<HTMLUListElement>(null);
  const { focusOn } = props;
  useEffect(() => {
    if (focusOn) frame.current?.querySelector<HTMLElement>(`[data-task="${focusOn}"]`)?.focus();
  }, [focusOn]);
  const onKeyDown = (event: KeyboardEvent<HTMLUListElement>) => {
    const by = { [KEYS.task.next]: 1, [KEYS.task.previous]: -1 }[event.key];
    if (!by) return;
    const rows = [...(frame.current?.querySelectorAll<HTMLElement>('[data-task]') ?? [])];
    const at = rows.indexOf(document.activeElement as HTMLElement);
    if (at < 0) return;
    event.preventDefault();
    rows[Math.min(rows.length - 1, Math.max(0, at + by))]?.focus();
  };
  return (
    <ul ref={frame} className="mt-3 border-b border-rule" onKeyDown={onKeyDown}>
      {props.tasks.map((task) => (
        <TaskRow key={task.id} {...props} task={task} />
      ))}
    </ul>
  );
}

/** Moves the focus to the next row, or the one before: the ticked one goes elsewhere and would take it along. */
function focusBeside(row: HTMLElement): void {
  const rows = [...(row.closest('ul')?.querySelectorAll<HTMLElement>('[data-task]') ?? [])];
  const at = rows.indexOf(row);
  (rows[at + 1] ?? rows[at - 1])?.focus();
}

function TaskRow({ me, today, task, lists, showList }: RowsProps & { task: TaskInfo }): ReactNode {
  const navigate = useNavigate();
  const [menu, setMenu] = useState(false);
  const done = task.status === 'COMPLETED';
  const list = lists.find((one) => one.id === task.listId);
  const block = task.blocks[0];
  const onKeyDown = (event: KeyboardEvent) => {
    // The menu's trigger would open on an arrow key; here arrows walk through the rows.
    if (event.key === KEYS.task.next || event.key === KEYS.task.previous) return event.preventDefault();
    if (event.key === KEYS.task.tick) {
      focusBeside(event.currentTarget as HTMLElement);
      void tick(task);
    } else if (event.key === KEYS.task.original && task.incomingId) void navigate(`/sort/${task.incomingId}`);
    else return;
    event.preventDefault();
    event.stopPropagation();
  };
  return (
    <li className={`flex items-center gap-3 border-t border-rule py-[7px] ${task.parentId ? 'pl-8' : ''}`}>
      <TickBox done={done} title={task.title} onTick={() => void tick(task)} />
      <TaskMenu task={task} today={today} lists={lists} open={menu} setOpen={setMenu}>
        <button
          type="button"
          data-task={task.id}
          onKeyDown={onKeyDown}
          className="flex min-w-0 flex-1 flex-wrap items-baseline gap-x-3 text-left"
        >
          <span className={`min-w-0 truncate ${done ? 'text-soft line-through' : 'font-semibold'}`}>{task.title}</span>
          <span className="flex flex-wrap items-baseline gap-x-3 text-xs text-soft">
            {task.priority !== 'normal' && <Tally priority={task.priority} />}
            {showList && list && (
              <span>
                <Code code={list.code} hue={list.hue} /> {list.name}
              </span>
            )}
            {block ? (
              <span>
                {sayDay(block.start.slice(0, 10), today)}, {sayTime(Date.parse(block.start), me.zone)}
              </span>
            ) : task.plannedDay ? (
              <span>{sayDay(task.plannedDay, today)}</span>
            ) : task.plannedWeek ? (
              <span>week {Number(task.plannedWeek.slice(6))}</span>
            ) : null}
            {task.deadline && !done && <Deadline deadline={task.deadline} fixed={task.deadlineFixed} today={today} />}
            {task.waitingOn && (
              <span>
                waiting on {task.waitingOn}
                {task.waitingSince ? `, since ${sayDay(task.waitingSince.slice(0, 10), today)}` : ''}
              </span>
            )}
            {task.lookAgain && <span>look again {sayDay(task.lookAgain, today)}</span>}
            {task.tags.map((tag) => (
              <span key={tag}>#{tag}</span>
            ))}
            {task.repeat && <span>repeats</span>}
            {task.attachmentList.length > 0 && <span>{count(task.attachmentList.length, 'file')}</span>}
          </span>
          {task.notes.trim() && (
            <span className="order-last basis-full truncate text-xs text-soft">{task.notes.trim().split('\n')[0]}</span>
          )}
          <span className="ml-auto shrink-0 text-xs text-soft">
            {done ? (task.spent ? `took ${sayMinutes(task.spent)}` : '') : task.estimate ? sayMinutes(task.estimate) : ''}
          </span>
        </button>
      </TaskMenu>
      {task.incomingId ? (
        <button
          type="button"
          className="grid size-7 shrink-0 place-items-center text-soft hover:text-ink"
          aria-label={`Open the message “${task.title}” came from`}
          title="Open the message it came from"
          onClick={() => void navigate(`/sort/${task.incomingId}`)}
        >
          <Mail size={14} aria-hidden="true" />
        </button>
      ) : (
        <span className="size-7 shrink-0" />
      )}
    </li>
  );
}

const LENGTHS = [5, 15, 30, 45, 60, 90, 120, 180, 240];

interface MenuProps {
  task: TaskInfo;
  today: string;
  lists: ListInfo[];
  open: boolean;
  setOpen: (open: boolean) => void;
  children: ReactNode;
}

function TaskMenu({ task, today, lists, open, setOpen, children }: MenuProps): ReactNode {
  const navigate = useNavigate();
  const nextWeek = weekOf(addDays(today, 7));
  return (
    <DropdownMenu.Root open={open} onOpenChange={setOpen} modal={false}>
      <DropdownMenu.Trigger asChild>{children}</DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content align="start" sideOffset={2} className={panel} collisionPadding={8}>
          <CommandItem
            where="task"
            command="tick"
            {...(task.status === 'COMPLETED' && { name: 'Not done yet' })}
            run={() => void tick(task)}
          />
          {task.incomingId && (
            <CommandItem where="task" command="original" run={() => void navigate(`/sort/${task.incomingId}`)} />
          )}
          {task.attachmentList.map((file) => (
            <DropdownMenu.Item key={file.id} className={item} asChild>
              <a href={file.url} target="_blank" rel="noreferrer">
                Open {file.name}
              </a>
            </DropdownMenu.Item>
          ))}
          <Sub title="Put on a day">
            {daysFrom(today, 8).map((day) => (
              <DropdownMenu.Item
                key={day}
                className={item}
                onSelect={() => void changeTask(task.id, { plannedDay: day, shelved: false })}
              >
                {sayDay(day, today)}
              </DropdownMenu.Item>
            ))}
            <DropdownMenu.Item
              className={item}
              onSelect={() => void changeTask(task.id, { plannedWeek: weekOf(today), shelved: false })}
            >
              This week, any day
            </DropdownMenu.Item>
            <DropdownMenu.Item
              className={item}
              onSelect={() => void changeTask(task.id, { plannedWeek: nextWeek, shelved: false })}
            >
              Next week, any day
            </DropdownMenu.Item>
            {(task.plannedDay ?? task.plannedWeek) && (
              <DropdownMenu.Item
                className={item}
                onSelect={() => void changeTask(task.id, { plannedDay: null, plannedWeek: null })}
              >
                No day
              </DropdownMenu.Item>
            )}
          </Sub>
          <Sub title="How long it takes">
            {LENGTHS.map((minutes) => (
              <DropdownMenu.Item key={minutes} className={item} onSelect={() => void changeTask(task.id, { estimate: minutes })}>
                {sayMinutes(minutes)}
              </DropdownMenu.Item>
            ))}
            {task.estimate !== null && (
              <DropdownMenu.Item className={item} onSelect={() => void changeTask(task.id, { estimate: null })}>
                Not known
              </DropdownMenu.Item>
            )}
          </Sub>
          <Sub title="Put on another list">
            {lists.map((list) => (
              <DropdownMenu.Item key={list.id} className={item} onSelect={() => void changeTask(task.id, { list: list.id })}>
                <Code code={list.code} hue={list.hue} /> {list.name}
              </DropdownMenu.Item>
            ))}
          </Sub>
          <DropdownMenu.Item className={item} onSelect={() => void changeTask(task.id, { shelved: !task.shelved })}>
            {task.shelved ? 'Take off the shelf' : 'Put on the shelf'}
          </DropdownMenu.Item>
          <DropdownMenu.Item className={item} onSelect={() => void changeTask(task.id, { status: 'CANCELLED' })}>
            Drop
          </DropdownMenu.Item>
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}

function Sub({ title, children }: { title: string; children: ReactNode }): ReactNode {
  return (
    <DropdownMenu.Sub>
      <DropdownMenu.SubTrigger className={`${item} justify-between`}>
        {title} <span aria-hidden="true">›</span>
      </DropdownMenu.SubTrigger>
      <DropdownMenu.Portal>
        <DropdownMenu.SubContent className={panel} collisionPadding={8}>
          {children}
        </DropdownMenu.SubContent>
      </DropdownMenu.Portal>
    </DropdownMenu.Sub>
  );
}
