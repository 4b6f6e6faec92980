import type { AgendaEntry, Me } from '@corvun/contract';
import { addDays, daysFrom, mondayOf, sayDay, weekOf } from '@corvun/core';
import { DropdownMenu } from 'radix-ui';
import { useState, type ReactNode } from 'react';
import { CommandItem } from '../../parts/CommandItem';
import { menuKeys } from '../../parts/menuKeys';
import { minutesOf } from './grid';
import { isDone, minuteOf, put, standing } from './moves';
import { usePlanning } from './planning';
import type { Deeds } from './entryDeeds';
import { MENU } from '../../parts/menuLooks';

const item = 'flex items-center px-3 py-1 outline-none data-[highlighted]:bg-teal-wash data-[disabled]:text-soft';
const panel = `${MENU} min-w-[230px]`;

interface MenuProps {
  entry: AgendaEntry;
  me: Me;
  today: string;
  deeds: Deeds;
  /** It was opened by a key: its first item takes the focus. */
  byKey: boolean;
  /** The focus goes back to the entry. */
  close: () => void;
}

/**
 * Everything an entry can do, for those who do not drag. It is there only while it is open: a week can have hundreds of
 * entries. It lies over its entry without taking part in it.
 */
export function EntryMenu({ entry, me, today, deeds, byKey, close }: MenuProps): ReactNode {
  const [open, setOpen] = useState(true);
  // What takes the focus itself begins when the menu has given it back.
  const [after, setAfter] = useState<(() => void) | null>(null);
  const then = (run: () => void) => () => setAfter(() => run);
  const days = daysFrom(mondayOf(weekOf(entry.day || today)), 12)
    .filter((day) => day >= addDays(today, -1))
    .slice(0, 8);
  const { snap } = me.settings;
  const own = !entry.fixed;
  const from = minuteOf(entry);
  const minutes = minutesOf(entry);
  const to = (change: Partial<ReturnType<typeof standing>>) =>
    void put({ what: 'move', entry }, { ...standing(entry), ...change }, me, []);
  const steps: [string, () => void][] =
    from === null
      ? []
      : [
          [`${snap} min earlier`, () => to({ from: from - snap })],
          [`${snap} min later`, () => to({ from: from + snap })],
          [`${snap} min longer`, () => to({ minutes: minutes + snap })],
          [`${snap} min shorter`, () => to({ minutes: Math.max(snap, minutes - snap) })],
        ];
  return (
    <DropdownMenu.Root open={open} onOpenChange={setOpen} modal={false}>
      <DropdownMenu.Trigger asChild>
        <span className="pointer-events-none absolute inset-0" aria-hidden="true" />
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          onKeyDownCapture={menuKeys}
          ref={(content) => {
            if (content && byKey && !content.contains(document.activeElement))
              requestAnimationFrame(() => content.querySelector<HTMLElement>('[role^="menuitem"]')?.focus());
          }}
          align="start"
          sideOffset={2}
          className={panel}
          collisionPadding={8}
          aria-label={entry.title}
          onCloseAutoFocus={(event) => {
            event.preventDefault();
            close();
            if (after) setTimeout(after);
            setAfter(null);
          }}
        >
          <p className="max-w-[280px] truncate px-3 py-1 font-semibold">{entry.title}</p>
          {deeds.open && <CommandItem where="entry" command="open" run={then(deeds.open)} />}
          {deeds.tick && (
            <CommandItem where="entry" command="tick" {...(isDone(entry) && { name: 'Not done yet' })} run={deeds.tick} />
          )}
          {deeds.ended && <CommandItem where="entry" command="ended" run={deeds.ended} />}
          {deeds.original && <CommandItem where="entry" command="original" run={deeds.original} />}
          {own && (
            <DropdownMenu.Sub>
              <DropdownMenu.SubTrigger className={`${item} justify-between`}>
                Put on another day <span aria-hidden="true">›</span>
              </DropdownMenu.SubTrigger>
              <DropdownMenu.Portal>
                <DropdownMenu.SubContent className={panel} collisionPadding={8}>
                  {days.map((day) => (
                    <DropdownMenu.Item key={day} className={item} disabled={day === entry.day} onSelect={() => to({ day })}>
                      {sayDay(day, today)}
                    </DropdownMenu.Item>
                  ))}
                </DropdownMenu.SubContent>
              </DropdownMenu.Portal>
            </DropdownMenu.Sub>
          )}
          {deeds.notToday && <CommandItem where="entry" command="notToday" run={deeds.notToday} />}
          {deeds.nextWeek && <CommandItem where="entry" command="nextWeek" run={deeds.nextWeek} />}
          {deeds.move && <CommandItem where="entry" command="move" run={then(deeds.move)} />}
          {own &&
            steps.map(([name, run]) => (
              <DropdownMenu.Item key={name} className={item} onSelect={run}>
                {name}
              </DropdownMenu.Item>
            ))}
          {deeds.another && <CommandItem where="entry" command="another" run={deeds.another} />}
          {deeds.shown && (
            <CommandItem
              where="entry"
              command="shown"
              name={entry.showAs === 'free' ? 'Show as busy to others' : 'Show as free to others'}
              run={deeds.shown}
            />
          )}
          {deeds.pin && (
            <CommandItem
              where="entry"
              command="pin"
              name={entry.pinned ? 'Planning may move it again' : 'Pin it: planning leaves it here'}
              run={deeds.pin}
            />
          )}
          {deeds.beside && (
            <DropdownMenu.Item className={item} onSelect={deeds.beside.run}>
              <span className="max-w-[280px] truncate">{deeds.beside.name}</span>
            </DropdownMenu.Item>
          )}
          {entry.blockKind === 'quiet' && from !== null && (
            <DropdownMenu.Item
              className={item}
              onSelect={then(() => usePlanning.getState().ask({ entry, target: standing(entry), sites: true }))}
            >
              Sites held back in it
            </DropdownMenu.Item>
          )}
          {entry.kind === 'task' && !isDone(entry) && (
            <DropdownMenu.Item className={item} onSelect={() => to({ from: 9 * 60 })}>
              Give it time on this day, from 9:00
            </DropdownMenu.Item>
          )}
          <CommandItem where="entry" command="mark" run={deeds.mark} />
          {deeds.remove && <CommandItem where="entry" command="remove" name={AWAY[entry.kind]} run={then(deeds.remove)} />}
          {entry.fixed && <p className="max-w-[260px] px-3 py-1 text-xs text-soft">{entry.fixed}</p>}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}

const AWAY = { block: 'Give the time back', task: 'Take it off this day', event: 'Take out of the calendar' } as const;
