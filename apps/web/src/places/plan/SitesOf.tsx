import type { AgendaEntry, Me } from '@corvun/contract';
import { readSites } from '@corvun/core';
import { useState, type ReactNode } from 'react';
import { saysWrong } from '../../data/api';
import { changeBlock } from '../../data/calendarActions';
import { useLongDraft } from '../../sheets/drafts';
import { leave } from './AskFirst';

const choice = 'flex min-h-6 items-baseline gap-2';

/** Which sites are held back in a quiet time: those that always are, or its own. */
export function SitesOf({ me, entry }: { me: Me; entry: AgendaEntry }): ReactNode {
  const { sites } = me.settings.quiet;
  const [draft, write] = useLongDraft(`sites-${entry.id}`);
  const [own, setOwn] = useState(draft !== null || entry.sites !== null);
  const [wrong, setWrong] = useState('');
  const text = draft ?? (entry.sites ?? sites).join('\n');
  const keep = () => {
    try {
      void changeBlock(entry.id, { sites: own ? readSites(text) : null });
      write(null);
      leave(entry);
    } catch (problem) {
      setWrong(saysWrong(problem));
    }
  };
  return (
    <form
      noValidate
      className="p-3"
      onSubmit={(event) => {
        event.preventDefault();
        keep();
      }}
    >
      <p className="font-semibold break-words">Held back in “{entry.title}”</p>
      <label className={`mt-2 ${choice}`}>
        <input type="radio" name="sites" className="accent-teal" checked={!own} autoFocus={!own} onChange={() => setOwn(false)} />
        <span className="min-w-0">
          What always is
          <span className="block text-xs break-words text-soft">
            {sites.join(', ') || 'nothing: there is none in your settings'}
          </span>
        </span>
      </label>
      <label className={choice}>
        <input type="radio" name="sites" className="accent-teal" checked={own} autoFocus={own} onChange={() => setOwn(true)} />
        These sites
      </label>
      {own && (
        <textarea
          aria-label="Sites, one on each line"
          aria-invalid={wrong !== ''}
          aria-describedby="sites-wrong"
          placeholder="nothing is held back"
          className="mt-1 field-sizing-content max-h-40 min-h-14 w-full border border-soft bg-paper p-1"
          spellCheck={false}
          maxLength={20_000}
          value={text}
          onChange={({ target }) => {
            setWrong('');
            write(target.value);
          }}
        />
      )}
      <p id="sites-wrong" role="alert" className="text-xs text-brick empty:hidden">
        {wrong}
      </p>
      <p className="mt-3 flex gap-2">
        <button type="submit" className="bg-teal px-3 py-1 text-on-teal">
          Keep
        </button>
        <button
          type="button"
          className="border border-rule px-3 py-1 hover:border-ink"
          onClick={() => {
            write(null);
            leave(entry);
          }}
        >
          Leave it
        </button>
      </p>
    </form>
  );
}
