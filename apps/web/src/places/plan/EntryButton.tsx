import type { AgendaEntry, Me } from '@corvun/contract';
import { useEffect, useLayoutEffect, useRef, useState, type CSSProperties, type ReactNode } from 'react';
import { useShallow } from 'zustand/react/shallow';
import { useActing } from './acting';
import { EntryMenu } from './EntryMenu';
import { grabs } from './Grab';
import { entryKey, usePlanning } from './planning';
import { deedsOf, focusAnew, onEntryKey } from './entryDeeds';

interface EntryButtonProps {
  me: Me;
  now: number;
  today: string;
  entry: AgendaEntry;
  /** Whether it can be dragged. */
  loose: boolean;
  /** What it is called, where what it shows does not say it all; what it shows is not read out then. */
  label?: string;
  'data-code'?: string;
  className: string;
  style?: CSSProperties;
  children: ReactNode;
}

/** Whether an entry is dragged, moved by keys, or marked. */
export function useEntryState(entry: AgendaEntry): { dragged: boolean; moving: boolean; marked: boolean } {
  const key = entryKey(entry);
  return usePlanning(
    useShallow(({ dragged, placing, marked }) => ({
      dragged: dragged?.what === 'move' && entryKey(dragged.entry) === key && dragged.entry.start === entry.start,
      moving: placing !== null && placing.what !== 'cards' && entryKey(placing.entry) === key,
      marked: marked.has(key),
    })),
  );
}

/** An entry to press, drag, mark and open, with its menu and its keys. */
export function EntryButton({
  me,
  now,
  today,
  entry,
  loose,
  label,
  'data-code': code,
  className,
  style,
  children,
}: EntryButtonProps): ReactNode {
  const ways = useActing();
  const button = useRef<HTMLButtonElement>(null);
  const [menu, setMenu] = useState<'closed' | 'open' | 'by key'>('closed');
  const key = entryKey(entry);
  const deeds = () => deedsOf(entry, me, now, today, ways);
  useLayoutEffect(() => grabs(button.current, loose ? { what: 'move', entry } : null), [entry, loose]);
  useEffect(() => focusAnew(key, button.current), [key]);
  return (
    <>
      <button
        ref={button}
        type="button"
        aria-label={label}
        data-code={code}
        aria-haspopup="menu"
        aria-expanded={menu !== 'closed'}
        data-goes={entry.end ?? ''}
        onKeyDown={(event) => onEntryKey(deeds())(event)}
        onClick={(event) => {
          event.preventDefault();
          if (event.shiftKey) deeds().mark();
          // A key that presses it counts no clicks.
          else setMenu(event.detail ? 'open' : 'by key');
        }}
        onContextMenu={(event) => {
          event.preventDefault();
          if (!usePlanning.getState().dragged) setMenu('open');
        }}
        onDoubleClick={() => deeds().open?.()}
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
          deeds={deeds()}
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
