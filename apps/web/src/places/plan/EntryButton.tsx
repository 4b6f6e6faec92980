import type { AgendaEntry, Me } from '@corvun/contract';
import type { useDraggable } from '@dnd-kit/core';
import { useRef, useState, type CSSProperties, type ReactNode } from 'react';
import { EntryMenu } from './EntryMenu';
import { entryKey, usePlanning } from './planning';
import { onEntryKey, useDeeds, useFocusAnew } from './useEntryKeys';

interface EntryButtonProps {
  me: Me;
  now: number;
  today: string;
  entry: AgendaEntry;
  /** How it is dragged. */
  drag: Pick<ReturnType<typeof useDraggable>, 'setNodeRef' | 'listeners'>;
  className: string;
  style?: CSSProperties;
  children: ReactNode;
}

/** Whether an entry is being moved, and whether it is marked. */
export function useEntryState(entry: AgendaEntry): { moving: boolean; marked: boolean } {
  const key = entryKey(entry);
  const moving = usePlanning(({ placing }) => placing !== null && placing.what !== 'cards' && entryKey(placing.entry) === key);
  const marked = usePlanning((state) => state.marked.has(key));
  return { moving, marked };
}

/** An entry to press, drag, mark and open, with its menu and its keys. */
export function EntryButton({ me, now, today, entry, drag, className, style, children }: EntryButtonProps): ReactNode {
  const deeds = useDeeds(entry, me, now, today);
  const holds = useFocusAnew(entryKey(entry));
  const button = useRef<HTMLButtonElement>(null);
  const [menu, setMenu] = useState<'closed' | 'open' | 'by key'>('closed');
  const onKey = onEntryKey(deeds);
  return (
    <>
      <button
        ref={(element) => {
          button.current = element;
          drag.setNodeRef(element);
          holds(element);
        }}
        type="button"
        {...drag.listeners}
        aria-haspopup="menu"
        aria-expanded={menu !== 'closed'}
        onKeyDown={(event) => {
          if (event.key !== 'ArrowDown') return onKey(event);
          event.preventDefault();
          setMenu('by key');
        }}
        onClick={(event) => {
          event.preventDefault();
          if (event.shiftKey) deeds.mark();
          // A key that presses it counts no clicks.
          else setMenu(event.detail ? 'open' : 'by key');
        }}
        onContextMenu={(event) => {
          event.preventDefault();
          setMenu('open');
        }}
        onDoubleClick={deeds.open}
        className={className}
        style={style}
      >
        {children}
      </button>
      {menu !== 'closed' && (
        <EntryMenu
          entry={entry}
          me={me}
          today={today}
          deeds={deeds}
          byKey={menu === 'by key'}
          close={() => {
            setMenu('closed');
            button.current?.focus();
          }}
        />
      )}
    </>
  );
}
