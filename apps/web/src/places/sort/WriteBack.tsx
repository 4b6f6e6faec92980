import type { IncomingFull } from '@corvun/contract';
import { sayMinutes } from '@corvun/core';
import { useEffect, useState, type FormEvent, type ReactNode } from 'react';
import { KEYS, keyName } from '../../keys';
import { Key } from '../../parts/signs';
import { useDrafts } from './draft';
import type { Decide } from './decide';

const field = 'block w-full border border-soft bg-card px-2 py-1 text-ink';
const EMPTY = { text: '', to: '' };

/** Opens the reply or the forward below a mail. */
export function openMail(id: string, kind: 'reply' | 'forward'): void {
  const { drafts, edit } = useDrafts.getState();
  edit(id, { mail: { ...EMPTY, ...drafts[id]?.mail, kind, closed: false } });
}

/** Two minutes: a reply or a forward right below the mail. It is done with that, and the time spent is counted. */
export function WriteBack({ incoming, decide }: { incoming: IncomingFull; decide: Decide }): ReactNode {
  const mail = useDrafts((state) => state.drafts[incoming.id]?.mail);
  const edit = useDrafts((state) => state.edit);
  const [since] = useState(() => Date.now());
  const [wrong, setWrong] = useState('');
  const kind = mail?.closed ? undefined : mail?.kind;
  useEffect(() => {
    const first = kind && document.getElementById(kind === 'reply' ? 'mail-text' : 'mail-to');
    if (!first) return;
    first.focus({ preventScroll: true });
    first.closest('form')?.scrollIntoView({ block: 'nearest' });
  }, [kind]);
  const to = incoming.sender.name || incoming.sender.address;
  if (!mail || mail.closed) {
    const begun = mail?.text.trim() ? mail.kind : null;
    return (
      <div className="mx-8 mt-6 flex gap-2 text-xs max-md:mx-4">
        <button
          type="button"
          className="border border-ink px-3 py-1 hover:bg-paper"
          onClick={() => openMail(incoming.id, 'reply')}
        >
          {begun === 'reply' ? 'Go on with the reply' : 'Reply'} <Key>{keyName(KEYS.sort.writeBack)}</Key>
        </button>
        <button
          type="button"
          className="border border-ink px-3 py-1 hover:bg-paper"
          onClick={() => openMail(incoming.id, 'forward')}
        >
          {begun === 'forward' ? 'Go on with giving it on' : 'Give on'} <Key>{keyName(KEYS.sort.passOn)}</Key>
        </button>
      </div>
    );
  }
  const put = (change: Partial<typeof mail>) => edit(incoming.id, { mail: { ...mail, ...change } });
  const send = () => {
    if (kind === 'reply' && !mail.text.trim()) return setWrong('Write a line or two.');
    if (kind === 'forward' && !/^\S+@\S+\.\S+$/.test(mail.to.trim())) return setWrong('Write the address of whom it goes to.');
    const minutes = Math.max(1, Math.round((Date.now() - since) / 60_000));
    return void decide({
      to: 'done',
      minutes,
      mail: { kind: mail.kind, text: mail.text, ...(kind === 'forward' ? { to: mail.to.trim() } : {}) },
    });
  };
  return (
    <form
      aria-label={kind === 'reply' ? `Reply to ${to}` : 'Give it on'}
      className="mx-8 mt-6 border border-teal bg-paper p-3 max-md:mx-4"
      data-keeps-enter
      noValidate
      onSubmit={(event: FormEvent) => {
        event.preventDefault();
        send();
      }}
      onKeyDown={(event) => {
        if (event.key === 'Enter' && (event.ctrlKey || event.metaKey)) send();
        if (event.key === 'Escape') put({ closed: true });
      }}
    >
      {kind === 'forward' && (
        <label className="mb-2 block text-xs text-soft">
          To
          <input
            id="mail-to"
            type="email"
            className={`${field} text-sm`}
            value={mail.to}
            autoComplete="off"
            onChange={(event) => put({ to: event.target.value })}
          />
        </label>
      )}
      <label className="block text-xs text-soft">
        {kind === 'reply' ? `Reply to ${to}` : 'A line with it'}
        <textarea
          id="mail-text"
          rows={4}
          className={`${field} text-sm`}
          value={mail.text}
          onChange={(event) => put({ text: event.target.value })}
        />
      </label>
      <p role="alert" className="text-xs text-brick empty:hidden">
        {wrong}
      </p>
      <div className="mt-2 flex items-center gap-2">
        <button type="submit" className="bg-teal px-3 py-1 font-semibold text-on-teal">
          Send and done
        </button>
        <button
          type="button"
          className="border border-ink px-3 py-1 text-xs hover:bg-card"
          onClick={() => edit(incoming.id, { mail: null })}
        >
          Throw it away
        </button>
      </div>
      <p className="mt-2 text-xs text-soft">
        Ctrl and Enter send. It goes out after 20 seconds; until then undo holds it back.
        {incoming.facts.minutes ? ` The text speaks of ${sayMinutes(incoming.facts.minutes)}.` : ''}
      </p>
    </form>
  );
}
