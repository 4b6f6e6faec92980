import { useEffect, useRef, useState, type ReactNode } from 'react';
import { useMe } from '../data/queries';
import { NoWayLine } from '../parts/NoWayOut';
import { button, primary } from '../places/sources/common';

interface MailFormProps {
  /** What the form is called. */
  label: string;
  /** Said above the text: to whom it goes, and what about. */
  says: string;
  text: string;
  write: (text: string) => void;
  /** What has the focus when it is opened; null: what had it. */
  first: () => 'text' | 'send' | null;
  /** @returns something where it was taken */
  send: (text: string) => Promise<unknown>;
  /** Sent, or thrown away. */
  leave: () => void;
  /** Closed where it stands on no sheet; what is written stays. */
  close?: () => void;
  /** It goes by another way than mail. */
  byChat?: boolean;
}

/** A mail that is written on a sheet: sent with Ctrl and Enter, Escape goes back to the sheet. */
export function MailForm({
  label,
  says,
  text,
  write,
  first,
  send,
  leave,
  close = leave,
  byChat = false,
}: MailFormProps): ReactNode {
  const canSend = useMe().data?.mailOut !== false || byChat;
  const [wrong, setWrong] = useState('');
  const area = useRef<HTMLTextAreaElement>(null);
  const submit = useRef<HTMLButtonElement>(null);
  const begins = useRef(first);
  useEffect(() => {
    const focus = begins.current();
    if (focus) (focus === 'text' ? area : submit).current?.focus();
  }, []);
  const go = async () => {
    if (text.trim()) {
      if (await send(text.trim())) leave();
      return;
    }
    setWrong('Write a line or two.');
    area.current?.focus();
  };
  return (
    <form
      aria-label={label}
      className="mt-2 border border-teal bg-card p-3"
      noValidate
      onSubmit={(event) => {
        event.preventDefault();
        void go();
      }}
      onKeyDown={(event) => {
        if (event.key === 'Enter' && (event.ctrlKey || event.metaKey)) void go();
        else if (event.key === 'Escape') {
          const sheet = event.currentTarget.closest<HTMLElement>('[data-sheet]');
          if (sheet) sheet.focus();
          else close();
        } else return;
        event.preventDefault();
        event.stopPropagation();
      }}
    >
      {!canSend && <NoWayLine className="mb-2" />}
      <label className="block text-xs text-soft">
        {says}
        <textarea
          ref={area}
          rows={3}
          className="mt-1 block field-sizing-content max-h-64 min-h-16 w-full border border-soft bg-paper px-2 py-1 text-sm text-ink"
          value={text}
          aria-invalid={wrong !== ''}
          onChange={(event) => {
            write(event.target.value);
            setWrong('');
          }}
        />
      </label>
      <p role="alert" className="text-xs text-brick empty:hidden">
        {wrong}
      </p>
      <div className="mt-2 flex items-baseline gap-3 text-xs">
        <button ref={submit} type="submit" className={primary}>
          Send
        </button>
        <button type="button" className={button} onClick={leave}>
          Throw it away
        </button>
        <span className="text-soft">Undo holds it back for 20 seconds.</span>
      </div>
    </form>
  );
}
