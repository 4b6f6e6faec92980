import type { AgendaEntry, Me } from '@corvun/contract';
import { count } from '@corvun/core';
import { useState, type ReactNode } from 'react';
import { useEvent } from '../../data/calendarActions';
import { place, takeAway } from './moves';
import { entryKey, focusEntry, usePlanning, type Asked, type Scope } from './planning';
import { useLongDraft } from '../../sheets/drafts';
import { ScopeChoice } from '../../sheets/ScopeChoice';

/** Asked in place before an entry goes elsewhere or away: how much of a series is meant, and whether its guests are told. */
export function AskFirst({ me, asked: { entry, target } }: { me: Me; asked: Asked }): ReactNode {
  const { scope, choose } = usePlanning();
  const event = useEvent(entry.id, entry.occurrence);
  const [telling, setTelling] = useState(entry.guests > 0);
  const [written, setNote] = useLongDraft(`move-note-${entry.id}`);
  const note = written ?? '';
  const go = () => {
    usePlanning.setState({ asked: null, focus: target && entryKey(entry) });
    const answered = {
      ...(entry.occurrence ? { scope } : {}),
      ...(entry.guests && telling ? { tell: note } : {}),
    };
    const going = target ? place(entry, target, me.zone, answered) : takeAway(entry, answered);
    // A note to a change that was refused stays for the next try.
    void going.then((done) => done && setNote(null));
  };
  return (
    <form
      className="p-3"
      onSubmit={(form) => {
        form.preventDefault();
        go();
      }}
    >
      <p className="font-semibold break-words">
        {target ? 'Move' : 'Take away'} “{entry.title}”
      </p>
      {entry.occurrence && (
        <ScopeChoice
          reach={event.data?.reach ?? null}
          scope={scope}
          choose={(one: Scope) => choose(one)}
          what={target ? 'moves' : 'goes'}
          focus
        />
      )}
      {entry.guests > 0 && (
        <div className="mt-2">
          <label className="flex items-center gap-2">
            <input
              type="checkbox"
              className="accent-teal"
              checked={telling}
              autoFocus={!entry.occurrence}
              onChange={(change) => setTelling(change.target.checked)}
            />
            Tell {count(entry.guests, 'guest')}
          </label>
          {telling && (
            <textarea
              aria-label="A note to the guests"
              placeholder="A note to them, if you like"
              className="mt-1 field-sizing-content min-h-10 w-full border border-soft bg-paper p-1"
              maxLength={5000}
              value={note}
              onChange={(change) => setNote(change.target.value)}
            />
          )}
        </div>
      )}
      <p className="mt-3 flex gap-2">
        <button type="submit" className="bg-teal px-3 py-1 text-on-teal">
          {target ? 'Move it' : 'Take it away'}
        </button>
        <button type="button" className="border border-rule px-3 py-1 hover:border-ink" onClick={() => leave(entry)}>
          Leave it
        </button>
      </p>
    </form>
  );
}

/** Nothing happens; the focus goes back to the entry. */
export function leave({ id }: AgendaEntry): void {
  usePlanning.getState().ask(null);
  focusEntry(id);
}
