import type { AgendaEntry, Me } from '@corvun/contract';
import { addDays, daysFrom, mondayOf, sayDay, weekOf } from '@corvun/core';
import { DropdownMenu } from 'radix-ui';
import { useState, type ReactNode } from 'react';
import { useNavigate } from 'react-router';
import { changeTask, removeBlock, removeEvent } from '../../data/thingActions';
import { CommandItem } from '../../parts/CommandItem';
import { useOpenTask } from '../../sheets/open';
import { minutesOf } from './grid';
import { place, step, tick } from './moves';

const item = 'flex items-center px-3 py-1 outline-none data-[highlighted]:bg-teal-wash data-[disabled]:text-soft';
const panel = 'z-50 min-w-[210px] border border-ink bg-card py-1 shadow-lg';

/** Everything an entry can do, for those who do not drag: opens with Enter, a click, or the right button. */
export function EntryMenu({
  entry,
  me,
  today,
  move,
  children,
}: {
  entry: AgendaEntry;
  me: Me;
  today: string;
  /** Begins to move it with the arrow keys. */
  move?: (() => void) | undefined;
  children: ReactNode;
}): ReactNode {
  const navigate = useNavigate();
  const openTask = useOpenTask();
  const [open, setOpen] = useState(false);
  const days = daysFrom(mondayOf(weekOf(entry.day || today)), 12)
    .filter((day) => day >= addDays(today, -1))
    .slice(0, 8);
  const timed = entry.kind !== 'task' && !entry.allDay;
  const own = !entry.fixed;
  const at = timed && entry.start ? entry.start.slice(11, 16).split(':').map(Number) : null;
  const from = at ? (at[0] ?? 0) * 60 + (at[1] ?? 0) : null;
  return (
    <DropdownMenu.Root open={open} onOpenChange={setOpen} modal={false}>
      <DropdownMenu.Trigger
        asChild
        onPointerDown={(event) => event.preventDefault()}
        onClick={(event) => {
          if (!event.defaultPrevented) setOpen(true);
        }}
        onContextMenu={(event) => {
          event.preventDefault();
          setOpen(true);
        }}
      >
        {children}
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content align="start" sideOffset={2} className={panel} collisionPadding={8}>
          <p className="max-w-[280px] truncate px-3 py-1 font-semibold">{entry.title}</p>
          {entry.taskId && <CommandItem where="task" command="open" run={() => openTask(entry.taskId ?? '')} />}
          {entry.taskId && (
            <CommandItem
              where="entry"
              command="tick"
              {...(entry.status === 'COMPLETED' && { name: 'Not done yet' })}
              run={() => void tick(entry)}
            />
          )}
          {entry.incomingId && (
            <CommandItem where="entry" command="original" run={() => void navigate(`/sort/${entry.incomingId}`)} />
          )}
          {own && (
            <DropdownMenu.Sub>
              <DropdownMenu.SubTrigger className={`${item} justify-between`}>
                Put on another day <span aria-hidden="true">›</span>
              </DropdownMenu.SubTrigger>
              <DropdownMenu.Portal>
                <DropdownMenu.SubContent className={panel} collisionPadding={8}>
                  {days.map((day) => (
                    <DropdownMenu.Item
                      key={day}
                      className={item}
                      disabled={day === entry.day}
                      onSelect={() => void place(entry, { day, from, minutes: minutesOf(entry), what: 'move' }, me.zone)}
                    >
                      {sayDay(day, today)}
                    </DropdownMenu.Item>
                  ))}
                </DropdownMenu.SubContent>
              </DropdownMenu.Portal>
            </DropdownMenu.Sub>
          )}
          {own && timed && (
            <>
              {move && <CommandItem where="entry" command="move" run={move} />}
              <DropdownMenu.Item className={item} onSelect={() => void step(entry, 'ArrowUp', false, me)}>
                15 min earlier
              </DropdownMenu.Item>
              <DropdownMenu.Item className={item} onSelect={() => void step(entry, 'ArrowDown', false, me)}>
                15 min later
              </DropdownMenu.Item>
              <DropdownMenu.Item className={item} onSelect={() => void step(entry, 'ArrowDown', true, me)}>
                15 min longer
              </DropdownMenu.Item>
              <DropdownMenu.Item className={item} onSelect={() => void step(entry, 'ArrowUp', true, me)}>
                15 min shorter
              </DropdownMenu.Item>
            </>
          )}
          {entry.kind === 'task' && entry.status !== 'COMPLETED' && (
            <DropdownMenu.Item
              className={item}
              onSelect={() =>
                void place(entry, { day: entry.day, from: 9 * 60, minutes: minutesOf(entry), what: 'move' }, me.zone)
              }
            >
              Give it time on this day, from 9:00
            </DropdownMenu.Item>
          )}
          {entry.kind === 'task' && (
            <DropdownMenu.Item className={item} onSelect={() => void changeTask(entry.id, { plannedDay: null })}>
              Take it off this day
            </DropdownMenu.Item>
          )}
          {entry.kind === 'block' && (
            <DropdownMenu.Item className={item} onSelect={() => void removeBlock(entry.id)}>
              Give the time back
            </DropdownMenu.Item>
          )}
          {entry.kind === 'event' && own && <TakeOut entry={entry} />}
          {entry.fixed && <p className="max-w-[260px] px-3 py-1 text-xs text-soft">{entry.fixed}</p>}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}

/** Takes an event out of the calendar; of a repeating one, as much of it as is chosen. */
function TakeOut({ entry }: { entry: AgendaEntry }): ReactNode {
  if (!entry.occurrence)
    return (
      <DropdownMenu.Item className={item} onSelect={() => void removeEvent(entry.id)}>
        Take out of the calendar
      </DropdownMenu.Item>
    );
  const scopes = { this: 'This date', following: 'This and all after it', all: 'All its dates' } as const;
  return (
    <DropdownMenu.Sub>
      <DropdownMenu.SubTrigger className={`${item} justify-between`}>
        Take out of the calendar <span aria-hidden="true">›</span>
      </DropdownMenu.SubTrigger>
      <DropdownMenu.Portal>
        <DropdownMenu.SubContent className={panel} collisionPadding={8}>
          {(['this', 'following', 'all'] as const).map((scope) => (
            <DropdownMenu.Item
              key={scope}
              className={item}
              onSelect={() => void removeEvent(entry.id, { scope, occurrence: entry.occurrence ?? '' })}
            >
              {scopes[scope]}
            </DropdownMenu.Item>
          ))}
        </DropdownMenu.SubContent>
      </DropdownMenu.Portal>
    </DropdownMenu.Sub>
  );
}
