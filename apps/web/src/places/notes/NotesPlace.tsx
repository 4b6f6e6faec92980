import type { Me, NoteLine } from '@corvun/contract';
import { count, dayOf, sayDay } from '@corvun/core';
import { useEffect, useRef, useState, type FormEvent, type ReactNode } from 'react';
import { Link, useNavigate, useParams } from 'react-router';
import { addNote } from '../../data/thingActions';
import { useNote, useNotes } from '../../data/queries';
import { KEYS } from '../../keys';
import { Empty, Failed, Waiting } from '../../parts/states';
import { useKeys } from '../../parts/useKeys';
import { useNow } from '../../parts/useNow';
import { useLetters } from '../../sheets/drafts';
import { NotePage, draftKey } from './NotePage';

let lastOpen: string | null = null;

/** Pages of notes: the table of contents, and one page. */
export function NotesPlace({ me }: { me: Me }): ReactNode {
  const navigate = useNavigate();
  const { id } = useParams();
  const today = dayOf(useNow(), me.zone);
  const notes = useNotes();
  const all = notes.data ?? [];
  // One comes back to the page one was on.
  const before = all.find((one) => one.id === lastOpen)?.id;
  const chosen = id ?? before ?? all[0]?.id ?? null;
  useEffect(() => {
    lastOpen = chosen ?? lastOpen;
  }, [chosen]);
  const note = useNote(chosen);
  const step = (by: number) => {
    const at = all.findIndex((one) => one.id === chosen);
    const next = all[Math.min(all.length - 1, Math.max(0, at + by))];
    if (next) void navigate(`/notes/${next.id}`);
  };
  useKeys({ [KEYS.notes.next]: () => step(1), [KEYS.notes.previous]: () => step(-1) });
  if (notes.isPending) return <Waiting what="Opening the notes" />;
  if (notes.error && !notes.data) return <Failed problem={notes.error} retry={() => void notes.refetch()} />;
  return (
    <div className="flex h-full max-md:h-auto max-md:flex-col">
      <h1 className="sr-only">Notes</h1>
      <aside
        aria-label="Pages"
        className="flex w-[300px] shrink-0 flex-col overflow-y-auto border-r border-rule max-md:w-full max-md:border-r-0 max-md:border-b"
      >
        <NewNote />
        <Contents all={all} chosen={chosen} today={today} />
      </aside>
      <div className="min-w-0 flex-1 overflow-y-auto bg-card max-md:min-h-[300px]">
        {note.error ? (
          <Failed problem={note.error} retry={() => void navigate('/notes')} next="Back to the notes" />
        ) : note.data ? (
          <NotePage key={note.data.id} me={me} today={today} note={note.data} />
        ) : chosen ? (
          <Waiting what="Opening the note" />
        ) : (
          <Empty title="No note yet">
            What is kept for reference can be written into a note: choose <b>Reference</b> on Sort and name one. Or begin a page
            of your own.
          </Empty>
        )}
      </div>
    </div>
  );
}

function Contents({ all, chosen, today }: { all: NoteLine[]; chosen: string | null; today: string }): ReactNode {
  const texts = useLetters((state) => state.texts);
  const begun = new Set(all.flatMap(({ id }) => (texts[draftKey(id)] === undefined ? [] : id)));
  return (
    <ul>
      {all.map((note) => (
        <li key={note.id} className="border-t border-rule">
          <Link
            to={`/notes/${note.id}`}
            aria-current={note.id === chosen ? 'page' : undefined}
            className={`block px-4 py-2 ${note.id === chosen ? 'bg-card shadow-[inset_3px_0_0_var(--teal)]' : 'hover:bg-card'}`}
          >
            <span className="block truncate font-semibold">{note.title}</span>
            <span className="block text-xs text-soft">
              {sayDay(note.changed.slice(0, 10), today)}
              {note.origins ? ` · from ${count(note.origins, 'message')}` : ''}
              {begun.has(note.id) && <span className="text-teal"> · being written</span>}
            </span>
          </Link>
        </li>
      ))}
    </ul>
  );
}

function NewNote(): ReactNode {
  const navigate = useNavigate();
  const [title, setTitle] = useState('');
  const [missing, setMissing] = useState(false);
  const field = useRef<HTMLInputElement>(null);
  const submit = async (event: FormEvent) => {
    event.preventDefault();
    if (!title.trim()) {
      setMissing(true);
      return field.current?.focus();
    }
    const made = await addNote(title.trim());
    if (!made) return undefined;
    setTitle('');
    return void navigate(`/notes/${made.id}`, { state: { write: true } });
  };
  return (
    <form onSubmit={(event) => void submit(event)} className="px-4 py-3" noValidate>
      <label htmlFor="new-note" className="text-xs text-soft">
        A new page called
      </label>
      <div className="flex items-end gap-2">
        <input
          id="new-note"
          ref={field}
          className="min-w-0 flex-1 border-b border-soft bg-transparent py-1"
          value={title}
          maxLength={200}
          autoComplete="off"
          aria-invalid={missing}
          aria-describedby="new-note-missing"
          onChange={(event) => {
            setTitle(event.target.value);
            setMissing(false);
          }}
        />
        <button type="submit" className="border border-ink px-3 py-1 hover:bg-card">
          Begin
        </button>
      </div>
      <p id="new-note-missing" className="text-xs text-brick empty:hidden">
        {missing ? 'Say what the page is called.' : ''}
      </p>
    </form>
  );
}
