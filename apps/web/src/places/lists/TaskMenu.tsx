import type { ListInfo, TaskInfo } from '@corvun/contract';
import { addDays, daysFrom, sayDay, sayMinutes, weekOf } from '@corvun/core';
import { DropdownMenu } from 'radix-ui';
import type { ReactNode } from 'react';
import { useNavigate } from 'react-router';
import { changeTask, skipOne } from '../../data/thingActions';
import { CommandItem } from '../../parts/CommandItem';
import { menuKeys } from '../../parts/menuKeys';
import { Code } from '../../parts/signs';
import { originalOf, useGiveTime, useOpenTask, useRemind } from '../../sheets/open';
import { MENU } from '../../parts/menuLooks';

const item = 'flex items-center gap-2 px-3 py-1 outline-none data-[highlighted]:bg-teal-wash';
const panel = `${MENU} min-w-[210px]`;

const LENGTHS = [5, 15, 30, 45, 60, 90, 120, 180, 240];

/** When to look again at what is on the shelf, in days from today. */
const LOOK_AGAIN = [
  ['Look again in a week', 7],
  ['Look again in a month', 30],
  ['Look again in three months', 91],
  ['No day to look again', 0],
] as const;

interface MenuProps {
  task: TaskInfo;
  today: string;
  lists: ListInfo[];
  tick: () => void;
  rename: () => void;
  mark: () => void;
  closed: () => void;
}

/** Everything a task can do: opens with a key or the right button. */
export function TaskMenu({ task, today, lists, tick, rename, mark, closed }: MenuProps): ReactNode {
  const navigate = useNavigate();
  const openTask = useOpenTask();
  const giveTime = useGiveTime();
  const remind = useRemind();
  const nextWeek = weekOf(addDays(today, 7));
  return (
    <DropdownMenu.Root defaultOpen onOpenChange={(open) => !open && closed()} modal={false}>
      <DropdownMenu.Trigger tabIndex={-1} aria-hidden="true" className="pointer-events-none absolute bottom-0 left-8 size-0" />
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          onKeyDownCapture={menuKeys}
          align="start"
          sideOffset={2}
          className={panel}
          collisionPadding={8}
          onCloseAutoFocus={(event) => event.preventDefault()}
        >
          <CommandItem where="task" command="open" run={() => openTask(task.id)} />
          {task.status !== 'COMPLETED' && <CommandItem where="task" command="time" run={() => giveTime(task.id)} />}
          <CommandItem where="task" command="name" run={rename} />
          <CommandItem where="task" command="mark" run={mark} />
          <CommandItem where="task" command="tick" {...(task.status === 'COMPLETED' && { name: 'Not done yet' })} run={tick} />
          {task.waitingOn && <CommandItem where="task" command="remind" run={() => remind(task.id)} />}
          {task.waitingOn && (
            <DropdownMenu.Item className={item} onSelect={() => void changeTask(task.id, { waitingOn: null })}>
              It has come
            </DropdownMenu.Item>
          )}
          {task.repeat && task.status !== 'COMPLETED' && (
            <CommandItem where="task" command="skip" run={() => void skipOne(task.id)} />
          )}
          {task.incomingId && (
            <CommandItem where="task" command="original" run={() => void navigate(...originalOf(task.incomingId ?? ''))} />
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
          <DropdownMenu.Item
            className={item}
            onSelect={() => void changeTask(task.id, task.shelved ? { shelved: false, lookAgain: null } : { shelved: true })}
          >
            {task.shelved ? 'Take off the shelf' : 'Put on the shelf'}
          </DropdownMenu.Item>
          <Sub title="On the shelf until">
            {LOOK_AGAIN.map(([name, days]) => (
              <DropdownMenu.Item
                key={name}
                className={item}
                onSelect={() => void changeTask(task.id, { shelved: true, lookAgain: days ? addDays(today, days) : null })}
              >
                {name}
              </DropdownMenu.Item>
            ))}
          </Sub>
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
