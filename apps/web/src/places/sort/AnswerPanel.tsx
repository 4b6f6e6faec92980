import type { IncomingFull, Me } from '@corvun/contract';
import { count, dayOf, sayDay, type Zone } from '@corvun/core';
import { useState, type FormEvent, type ReactNode } from 'react';
import { REPLIES, askedBy, movesOf, useYesCost } from '../../cost/cost';
import { Field } from '../../parts/Field';
import { Key } from '../../parts/signs';
import { useReading } from '../../parts/reading';
import { serverNow } from '../../parts/useNow';
import type { Decide } from './decide';

/** Yes, maybe, no, or another time, with a note to the organizer. Digits answer at once while no field has the focus. */
export function AnswerPanel({ me, decide, incoming }: { me: Me; decide: Decide; incoming: IncomingFull | undefined }): ReactNode {
  const moves = movesOf(useYesCost(askedBy(incoming)).data);
  const [note, setNote] = useState('');
  const [when, setWhen] = useState('');
  const found = useTimeIn(when, me.zone);
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
          if (!reply && (event.key !== '4' || !moves.length)) return;
          event.preventDefault();
          void decide({ to: 'answer', ...(reply ? { reply: reply[0] } : { reply: 'yes', moves }), ...notes });
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
        {moves.length > 0 && (
          <button
            type="button"
            className="col-span-3 flex items-center justify-center gap-2 border border-ink py-1 hover:bg-card focus:bg-card"
            onClick={() => void decide({ to: 'answer', reply: 'yes', moves, ...notes })}
          >
            <Key>4</Key> Yes, and move {count(moves.length, 'block')}
          </button>
        )}
      </div>
      <Field id="answer-note" label="Note to the organizer" value={note} change={setNote} />
      <Field
        id="answer-when"
        label="Or propose another time: Thursday 14:00"
        value={when}
        change={setWhen}
        wrong={when !== '' && !found}
        says={found ? `${sayDay(found.day, dayOf(serverNow(), me.zone))}, ${found.time}` : when ? 'Add a day and a time' : ''}
      />
      {found && (
        <button type="submit" className="mt-1 w-full bg-teal px-3 py-1 font-semibold text-on-teal">
          Propose this time
        </button>
      )}
      <p className="mt-1 text-xs text-soft">The answer goes out after 20 seconds; until then undo holds it back.</p>
    </form>
  );
}

function useTimeIn(text: string, zone: Zone): { day: string; time: string } | null {
  const found = useReading()
    .typedDates(text, { now: serverNow(), zone })
    .find((one) => one.time);
  return found?.time ? { day: found.day ?? dayOf(serverNow(), zone), time: found.time } : null;
}
