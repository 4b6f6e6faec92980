import { useState, type FormEvent, type ReactNode } from 'react';
import { sayMinutes } from '@corvun/core';
import { useNotes } from '../../data/queries';
import { Field } from '../../parts/Field';
import { Choices } from './Choices';
import type { Decide } from './decide';

const MOST_NOTES = 6;

/** Kept only, or written into a note. */
export function ReferencePanel({ decide }: { decide: Decide }): ReactNode {
  const notes = useNotes();
  const [title, setTitle] = useState('');
  const all = notes.data ?? [];
  const known = all.some((note) => note.title.toLowerCase() === title.trim().toLowerCase());
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (title.trim()) void decide({ to: 'reference', note: title.trim() });
  };
  return (
    <>
      <Choices
        label="Where it is kept"
        choices={[
          { id: 'kept', choose: () => void decide({ to: 'reference' }), content: <span>Keep it findable, in no note</span> },
          ...all.slice(0, MOST_NOTES).map((note) => ({
            id: note.id,
            choose: () => void decide({ to: 'reference', note: note.id }),
            content: <span className="truncate">Into “{note.title}”</span>,
          })),
        ]}
      />
      <form onSubmit={submit} className="mt-1 px-1">
        <Field
          id="note-title"
          label="Or into the note called"
          value={title}
          change={setTitle}
          list="note-titles"
          maxLength={200}
          says={title.trim() ? (known ? 'Enter writes it into that note' : 'Enter makes this note') : ''}
        />
        <datalist id="note-titles">
          {all.map((note) => (
            <option key={note.id} value={note.title} />
          ))}
        </datalist>
      </form>
    </>
  );
}

const TOOK = [2, 5, 10, 15, 30];

/** Done before it was decided, with the minutes that it took. */
export function DonePanel({ decide }: { decide: Decide }): ReactNode {
  const [text, setText] = useState('');
  const wrong = text.trim() !== '' && !/^[1-9]\d{0,3}$/.test(text.trim());
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (text.trim() && !wrong) void decide({ to: 'done', minutes: Number(text) });
  };
  return (
    <>
      <Choices
        label="How long it took"
        choices={[
          { id: 'none', choose: () => void decide({ to: 'done', minutes: null }), content: <span>Done, time not counted</span> },
          ...TOOK.map((minutes) => ({
            id: String(minutes),
            choose: () => void decide({ to: 'done', minutes }),
            content: <span>It took {sayMinutes(minutes)}</span>,
          })),
        ]}
      />
      <form onSubmit={submit} className="mt-1 px-1">
        <Field
          id="done-minutes"
          label="Or so many minutes"
          value={text}
          change={setText}
          inputMode="numeric"
          wrong={wrong}
          says={wrong ? 'Write a whole number of minutes, 1 to 6000' : ''}
        />
      </form>
    </>
  );
}
