import type { ListInfo, Me } from '@corvun/contract';
import { sayMinutes } from '@corvun/core';
import { DropdownMenu } from 'radix-ui';
import { useState, type KeyboardEvent, type ReactNode } from 'react';
import { changeTask } from '../../data/thingActions';
import { KEYS } from '../../keys';
import { CommandItem } from '../../parts/CommandItem';
import { menuKeys } from '../../parts/menuKeys';
import { Code, Deadline } from '../../parts/signs';
import { useOpenTask } from '../../sheets/open';
import { grabs } from './Grab';
import { usePlanning } from './planning';
import type { Card } from './tray';
import { MENU } from '../../parts/menuLooks';

interface CardProps {
  me: Me;
  today: string;
  card: Card;
  width: number;
  height: number;
  lists: readonly ListInfo[];
  /** Whether Tab reaches it. */
  reached: boolean;
  focused: () => void;
  /** The cards that go with this one: those that are marked, or it alone. */
  together: readonly Card[];
  /** Begins to give it time by keys. */
  place: () => void;
}

/** A task without its time, as wide as it is long. */
export function TrayCard({ me, today, card, width, height, lists, reached, focused, together, place }: CardProps): ReactNode {
  const { task, minutes } = card;
  const [menu, setMenu] = useState(false);
  const openTask = useOpenTask();
  const marked = usePlanning((state) => state.cards.has(task.id));
  const placing = usePlanning(
    (state) => state.placing?.what === 'cards' && state.placing.cards.some((one) => one.task.id === task.id),
  );
  const dragged = usePlanning(
    (state) => state.dragged?.what === 'cards' && state.dragged.cards.some((one) => one.task.id === task.id),
  );
  const list = lists.find((one) => one.id === task.listId);
  const mark = () => usePlanning.getState().markCard(task.id);
  const tick = () => void changeTask(task.id, { status: 'COMPLETED' });
  const onKeyDown = (event: KeyboardEvent) => {
    if (event.ctrlKey || event.metaKey || event.altKey) return;
    const deed = {
      [KEYS.card.place]: place,
      [KEYS.card.open]: () => openTask(task.id),
      [KEYS.card.menu]: () => setMenu(true),
      [KEYS.card.mark]: mark,
      [KEYS.card.tick]: tick,
    }[event.key];
    if (!deed) return;
    event.preventDefault();
    event.stopPropagation();
    deed();
  };
  const over = task.blocks.length === 0 && task.placed > 0;
  const partly = task.placed > 0 && !over;
  const whole = task.estimate ?? me.settings.lengths[task.concentration];
  const wide = width > 150;
  const says = [
    wide ? list?.name : '',
    partly ? `${sayMinutes(task.placed)} of ${sayMinutes(whole)}${wide ? ' placed' : ''}` : '',
    over ? (wide ? 'its time is over, still open' : 'still open') : '',
  ].filter(Boolean);
  const length = (
    <span className="shrink-0">
      <span className="sr-only">needs </span>
      {sayMinutes(minutes)}
    </span>
  );
  return (
    <div className="relative shrink-0" style={{ width, height }}>
      <button
        ref={(element) => grabs(element, { what: 'cards', cards: together })}
        type="button"
        data-card={task.id}
        tabIndex={reached ? 0 : -1}
        aria-pressed={marked}
        className={`flex size-full flex-col overflow-hidden rounded-sm border-[1.4px] border-plum bg-plum-wash px-2 py-1 text-left text-xs ${dragged ? 'opacity-40' : ''} ${marked || placing ? 'outline-2 outline-offset-1 outline-teal' : ''}`}
        onKeyDown={onKeyDown}
        onFocus={focused}
        onClick={(event) => {
          if (event.shiftKey || event.ctrlKey || event.metaKey) mark();
          else place();
        }}
        onDoubleClick={() => openTask(task.id)}
        onContextMenu={(event) => {
          event.preventDefault();
          setMenu(true);
        }}
      >
        <span className="line-clamp-2 text-[14px] leading-[17px] text-ink">{task.title}</span>
        <span className="mt-[2px] flex w-full min-w-0 items-baseline gap-1 text-soft">
          {list && <Code code={list.code} hue={list.hue} />}
          <span className={`min-w-0 flex-1 truncate ${over ? 'text-amber' : ''}`}>{says.join(' · ')}</span>
          {!wide && length}
        </span>
        <span className="mt-auto flex w-full items-baseline justify-between gap-1 text-soft">
          <span className="min-w-0 truncate">
            {task.deadline && <Deadline deadline={task.deadline} fixed={task.deadlineFixed} today={today} />}
          </span>
          {wide && length}
        </span>
      </button>
      {menu && (
        <DropdownMenu.Root open onOpenChange={setMenu} modal={false}>
          <DropdownMenu.Trigger
            tabIndex={-1}
            aria-hidden="true"
            className="pointer-events-none absolute bottom-0 left-2 size-0"
          />
          <DropdownMenu.Portal>
            <DropdownMenu.Content
              onKeyDownCapture={menuKeys}
              side="top"
              align="start"
              collisionPadding={8}
              className={`${MENU} min-w-[210px]`}
              onCloseAutoFocus={(event) => {
                event.preventDefault();
                document.querySelector<HTMLElement>(`[data-card="${task.id}"]`)?.focus();
              }}
            >
              <CommandItem where="card" command="place" run={() => setTimeout(place)} />
              <CommandItem where="card" command="open" run={() => openTask(task.id)} />
              <CommandItem where="card" command="mark" run={mark} />
              <CommandItem where="card" command="tick" run={tick} />
            </DropdownMenu.Content>
          </DropdownMenu.Portal>
        </DropdownMenu.Root>
      )}
    </div>
  );
}
