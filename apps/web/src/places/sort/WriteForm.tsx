import type { IncomingFull } from '@corvun/contract';
import { sayMinutes } from '@corvun/core';
import { useEffect, useState, type FormEvent, type ReactNode } from 'react';
import type { Decide } from './decide';
import { useDrafts } from './draft';
import type { MailDraft } from './proposal';

const field = 'block w-full border border-soft bg-card px-2 py-1 text-ink';

interface WriteFormProps {
  incoming: IncomingFull;
  decide: Decide;
  mail: MailDraft;
  /** Whether mail has a way out. */
  canSend: boolean;
}

/** A reply or a forward. The mail is done with that, and the time spent is counted. */
export function WriteForm({ incoming, decide, mail, canSend }: WriteFormProps): ReactNode {
  const edit = useDrafts((state) => state.edit);
  const [since] = useState(() => Date.now());
  const [wrong, setWrong] = useState('');
  const { kind } = mail;
  useEffect(() => {
    const first = document.getElementById(kind === 'reply' ? 'mail-text' : 'mail-to');
    first?.focus({ preventScroll: true });
    first?.closest('form')?.scrollIntoView({ block: 'nearest' });
  }, [kind]);
  const to = incoming.sender.name || incoming.sender.address;
  const put = (change: Partial<typeof mail>) => edit(incoming.id, { mail: { ...mail, ...change } });
  const send = () => {
    if (!canSend) return setWrong('It cannot be sent: mail has no way out yet. What you wrote stays.');
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
      className="mx-8 mt-6 border border-teal bg-paper p-3 @max-[560px]/sheet:mx-4"
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
