import type { Me } from '@corvun/contract';
import { parseLine, sayParts, dayOf } from '@corvun/core';
import { useState, type ClipboardEvent, type ReactNode } from 'react';
import { useLists, usePeople } from '../../data/queries';
import { addTasks } from '../../data/thingActions';
import { serverNow } from '../../parts/useNow';
import { useDraft } from '../../sheets/drafts';
import { linesOf } from '../../sheets/Steps';

/** A new task in place: one line, or several by pasting them. It says when, how long and where as the capture line does. */
export function NewTask({ me, list, first }: { me: Me; list: string | null; first: boolean }): ReactNode {
  const [text, write] = useDraft(`new-task-${list ?? ''}`);
  const [focused, setFocused] = useState(false);
  const lists = useLists().data ?? [];
  const people = usePeople().data ?? [];
  const add = async (lines: string[]) => {
    if (!lines.length) return;
    write(null);
    if (!(await addTasks(lines, { list }))) write(lines.join(' '));
  };
  const onPaste = (event: ClipboardEvent) => {
    const lines = linesOf(event.clipboardData.getData('text/plain'));
    if (lines.length < 2) return;
    event.preventDefault();
    void add([`${text ?? ''}${lines[0]}`, ...lines.slice(1)]);
  };
  const now = serverNow();
  const read =
    focused && text
      ? sayParts(
          text,
          parseLine(text, { now, zone: me.zone, lists: lists.map((one) => one.name), people: people.map((one) => one.name) }),
          dayOf(now, me.zone),
        )
      : [];
  return (
    <div className="flex h-9 items-center gap-3 border-t border-rule">
      <span className="-ml-1 w-6 text-center text-soft" aria-hidden="true">
        +
      </span>
      <input
        {...(first && { id: 'new-task' })}
        aria-label="New task"
        placeholder="New task; paste many lines for many"
        className="min-w-0 flex-1 bg-transparent placeholder:text-soft"
        value={text ?? ''}
        maxLength={2000}
        autoComplete="off"
        onFocus={() => setFocused(true)}
        onBlur={() => setFocused(false)}
        onPaste={onPaste}
        onChange={(event) => write(event.target.value || null)}
        onKeyDown={(event) => {
          if (event.key === 'Enter' && text?.trim()) void add([text.trim()]);
          else if (event.key === 'Escape') event.currentTarget.blur();
        }}
      />
      <span className="shrink-0 truncate text-xs text-soft" aria-live="polite">
        {read.map(([name, value]) => `${name} ${value}`).join(' · ')}
      </span>
    </div>
  );
}
