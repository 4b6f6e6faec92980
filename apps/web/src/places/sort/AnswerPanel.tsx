import type { Me } from '@corvun/contract';
import { dayOf, findDates, sayDay, type Zone } from '@corvun/core';
import { useState, type FormEvent, type ReactNode } from 'react';
import { Key } from '../../parts/marks';
import { serverNow } from '../../parts/useNow';
import type { Decide } from './SortPlace';

const input = 'w-full border-b border-soft bg-transparent py-1';
const REPLIES = [
  ['yes', 'Yes'],
  ['maybe', 'Maybe'],
  ['no', 'No'],
] as const;

/** Yes, maybe, no, or another time, with a note to the organizer. Digits answer at once while no field has the focus. */
export function AnswerPanel({ me, decide }: { me: Me; decide: Decide }): ReactNode {
  const [note, setNote] = useState('');
  const [when, setWhen] = useState('');
  const found = timeIn(when, me.zone);
  const notes = note.trim() ? { notes: note.trim() } : {};
  const propose = (event: FormEvent) => {
    event.preventDefault();
    if (found) void decide({ to: 'answer', start: `${found.day}T${found.time}`, ...notes });
  };
  return (
    <form onSubmit={propose} className="px-1">
      <div
        role="group"
        aria-label="Answer"
        className="grid grid-cols-3 gap-1"
        onKeyDown={(event) => {
          const reply = REPLIES[Number(event.key) - 1];
          if (!reply) return;
          event.preventDefault();
          void decide({ to: 'answer', reply: reply[0], ...notes });
        }}
      >
        {REPLIES.map(([reply, name], at) => (
          <button
            key={reply}
            type="button"
            autoFocus={at === 0}
            className="flex items-center justify-center gap-2 border border-ink py-1 hover:bg-card focus:bg-card"
            onClick={() => void decide({ to: 'answer', reply, ...notes })}
          >
            <Key>{at + 1}</Key> {name}
          </button>
        ))}
      </div>
      <label htmlFor="answer-note" className="mt-2 block text-xs text-soft">
        Note to the organizer
      </label>
      <input
        id="answer-note"
        className={input}
        value={note}
        autoComplete="off"
        onChange={(event) => setNote(event.target.value)}
      />
      <label htmlFor="answer-when" className="mt-1 block text-xs text-soft">
        Or propose another time: Thursday 14:00
      </label>
      <input
        id="answer-when"
        className={input}
        value={when}
        autoComplete="off"
        aria-describedby="answer-read"
        onChange={(event) => setWhen(event.target.value)}
      />
      <p id="answer-read" className={`h-4 text-xs ${when && !found ? 'text-brick' : 'text-soft'}`}>
        {found ? `${sayDay(found.day, dayOf(serverNow(), me.zone))}, ${found.time}` : when ? 'Add a day and a time' : ''}
      </p>
      {found && (
        <button type="submit" className="mt-1 w-full bg-teal px-3 py-1 font-semibold text-on-teal">
          Propose this time
        </button>
      )}
      <p className="mt-1 text-xs text-soft">The answer goes out after 20 seconds; until then undo holds it back.</p>
    </form>
  );
}

function timeIn(text: string, zone: Zone): { day: string; time: string } | null {
  const found = findDates(text, { now: serverNow(), zone, language: 'en' }).find((one) => one.time);
  return found?.time ? { day: found.day ?? dayOf(serverNow(), zone), time: found.time } : null;
}
