import type { TaskChange, TaskFull } from '@corvun/contract';
import { useEffect, useRef, type ReactNode } from 'react';
import { KEYS, keyName } from '../keys';
import { Markdown } from '../parts/Markdown';
import { Key } from '../parts/signs';
import { useDraft } from './drafts';

/** Notes of a task: read as they are meant (CommonMark), written as they are; kept when the field is left. */
export function Notes({ task, save }: { task: TaskFull; save: (change: TaskChange) => Promise<boolean> }): ReactNode {
  const [text, write] = useDraft(`notes-${task.id}`);
  const area = useRef<HTMLTextAreaElement>(null);
  const writing = text !== null;
  const asked = useRef(false);
  useEffect(() => {
    if (writing && asked.current) area.current?.focus();
    asked.current = false;
  }, [writing]);
  const begin = () => {
    asked.current = true;
    write(task.notes);
  };
  const leave = async () => {
    if (text === null) return;
    if (text === task.notes || (await save({ notes: text }))) write(null);
  };
  return (
    <section aria-labelledby="notes-head" className="mt-4">
      <h3 id="notes-head" className="flex items-baseline gap-2 font-head font-semibold">
        Notes
        {!writing && (
          <button
            type="button"
            id="write-notes"
            className="font-sans text-xs font-normal text-teal underline underline-offset-2"
            onClick={begin}
          >
            {task.notes.trim() ? 'change' : 'write'} <Key>{keyName(KEYS.sheet.notes)}</Key>
          </button>
        )}
      </h3>
      {writing ? (
        <>
          <textarea
            ref={area}
            aria-label="Notes, in Markdown"
            className="mt-1 field-sizing-content min-h-24 w-full border border-soft bg-card p-2"
            value={text}
            maxLength={100_000}
            onChange={(event) => write(event.target.value)}
            onBlur={() => void leave()}
            onKeyDown={(event) => {
              if (event.key !== 'Escape' && !(event.key === 'Enter' && (event.ctrlKey || event.metaKey))) return;
              event.preventDefault();
              event.stopPropagation();
              event.currentTarget.closest<HTMLElement>('[data-sheet]')?.focus();
            }}
          />
          <p className="text-xs text-soft">Markdown. It is kept when you leave the field; Esc leaves it.</p>
        </>
      ) : (
        task.notes.trim() !== '' && (
          <div className="mt-1">
            <Markdown text={task.notes} />
          </div>
        )
      )}
    </section>
  );
}
