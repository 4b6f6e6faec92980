import type { EventChange, EventFull } from '@corvun/contract';
import { count, sayMoment } from '@corvun/core';
import { useEffect, useRef, type ReactNode } from 'react';
import { useLongDraft } from './drafts';

interface TellProps {
  event: EventFull;
  change: EventChange;
  today: string;
  answer: (tell?: string) => void;
  forget: () => void;
}

/** Where the note is kept while it is written. */
export const noteKey = (id: string): string => `tell-note-${id}`;

/** Asked before a change that others would have to hear of is kept. */
export function TellFirst({ event, change, today, answer, forget }: TellProps): ReactNode {
  const [written, setNote] = useLongDraft(noteKey(event.id));
  const note = written ?? '';
  const frame = useRef<HTMLDivElement>(null);
  useEffect(() => frame.current?.querySelector('textarea')?.focus(), []);
  const guests = change.guests ?? event.guests.filter((guest) => guest.address && !guest.you).map((guest) => guest.address);
  const gone = event.guests.filter((guest) => change.guests?.every((one) => !one.includes(guest.address)) ?? false);
  return (
    <div ref={frame} role="group" aria-label="Tell the guests?" className="mt-3 border-l-2 border-teal bg-card px-3 py-2">
      <p>
        Changed, not kept yet: <b className="font-semibold">{sayChange(change, today)}</b>
      </p>
      <label htmlFor="tell-note" className="mt-2 block text-xs text-soft">
        A note to them, if you like
      </label>
      <textarea
        id="tell-note"
        className="field-sizing-content min-h-10 w-full border border-soft bg-paper p-1"
        maxLength={5000}
        value={note}
        onChange={(event_) => setNote(event_.target.value)}
      />
      <p className="mt-2 flex flex-wrap gap-2">
        <button type="button" className="bg-teal px-3 py-1 font-semibold text-on-teal" onClick={() => answer(note)}>
          Tell {count(Math.max(guests.length, gone.length), 'guest')}
        </button>
        <button type="button" className="border border-ink px-3 py-1 hover:bg-paper" onClick={() => answer()}>
          Tell nobody
        </button>
        <button type="button" className="border border-rule px-3 py-1 hover:border-ink" onClick={forget}>
          Leave it as it was
        </button>
      </p>
      <p className="mt-1 text-xs text-soft">It goes out after 20 seconds; until then undo holds it back.</p>
    </div>
  );
}

function sayChange(change: EventChange, today: string): string {
  const said = [
    change.title && `called “${change.title}”`,
    change.start && `begins ${sayMoment(change.start.slice(0, 16), today)}`,
    change.repeat !== undefined && 'how it repeats',
    change.location !== undefined && (change.location ? `at ${change.location}` : 'no place'),
    change.description !== undefined && 'what it is about',
    change.guests !== undefined && (change.guests.length ? `with ${change.guests.join(', ')}` : 'without guests'),
    change.meetingLink !== undefined && 'the link',
    change.endZone !== undefined && 'the zone of its end',
  ].filter(Boolean);
  return said.join(', ') || 'something of it';
}
