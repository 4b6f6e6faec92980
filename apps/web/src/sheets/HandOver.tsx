import type { Nudge, TaskFull } from '@corvun/contract';
import { useEffect, useRef, useState, type ReactNode } from 'react';
import { useLocation } from 'react-router';
import { get, saysWrong } from '../data/api';
import { usePeople } from '../data/queries';
import { handOver } from '../data/thingActions';
import { KEYS, keyName } from '../keys';
import { Key } from '../parts/signs';
import { button, primary } from '../places/sources/common';
import { useDraft, useLongDraft } from './drafts';
import { MailForm } from './MailForm';

/** Hands a task over to somebody else: who it is, and the mail that asks them. What is written survives a reload. */
export function HandOver({ task }: { task: TaskFull }): ReactNode {
  const { state } = useLocation() as { state: { handOver?: boolean } | null };
  const [who, setWho] = useDraft(`hand-over-${task.id}`);
  const [text, write] = useLongDraft(`hand-over-text-${task.id}`);
  const [mail, setMail] = useState<Nudge | null>(null);
  const [wrong, setWrong] = useState('');
  const people = usePeople().data ?? [];
  const field = useRef<HTMLInputElement>(null);
  const asked = state?.handOver === true;
  useEffect(() => {
    if (asked && who === null) setWho('');
    // Only as it is opened.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, []);
  const open = task.status !== 'COMPLETED' && task.status !== 'CANCELLED' && !task.waitingOn && !task.parentId;
  const asking = who !== null;
  useEffect(() => {
    if (asking) field.current?.focus();
  }, [asking]);
  if (!open) return null;
  if (who === null)
    return (
      <p className="mt-2 text-xs">
        <button
          type="button"
          id="hand-over"
          className="min-h-6 text-soft underline underline-offset-2 hover:text-ink"
          onClick={() => setWho('')}
        >
          hand it over
        </button>{' '}
        <Key>{keyName(KEYS.sheet.handOver)}</Key>
      </p>
    );
  const leave = () => {
    setWho(null);
    write(null);
    setMail(null);
    setWrong('');
  };
  const named = who.trim();
  const draft = async () => {
    if (!named) return setWrong('Write to whom.');
    setWrong('');
    try {
      const drafted = await get('/tasks/:id/handing-over', { id: task.id, to: named });
      setMail(drafted);
      write(text ?? drafted.text);
    } catch (problem) {
      setWrong(saysWrong(problem));
    }
    return undefined;
  };
  const give = async (input: { mail: boolean; text?: string }) => {
    const done = await handOver(task.id, { to: named, ...input });
    if (done) leave();
    return done;
  };
  if (mail)
    return (
      <MailForm
        label={`Hand it over to ${mail.to.name || mail.to.address}`}
        says={`To ${mail.to.name ? `${mail.to.name}, ${mail.to.address}` : mail.to.address}: ${mail.subject}`}
        text={text ?? ''}
        write={write}
        first={() => 'send'}
        send={(written) => give({ mail: true, text: written })}
        leave={leave}
      />
    );
  return (
    <form
      aria-label="Hand it over"
      noValidate
      className="mt-2 border border-teal bg-card p-3"
      onSubmit={(event) => {
        event.preventDefault();
        void draft();
      }}
      onKeyDown={(event) => {
        if (event.key !== 'Escape') return;
        event.preventDefault();
        event.stopPropagation();
        event.currentTarget.closest<HTMLElement>('[data-sheet]')?.focus();
        leave();
      }}
    >
      <label className="block text-xs text-soft">
        To whom?
        <input
          ref={field}
          list="hand-over-people"
          autoComplete="off"
          maxLength={200}
          placeholder="A name, or a mail address"
          className="mt-1 block w-full border border-soft bg-paper px-2 py-1 text-sm text-ink"
          value={who}
          aria-invalid={wrong !== ''}
          onChange={({ target }) => {
            setWho(target.value);
            setWrong('');
          }}
        />
      </label>
      <datalist id="hand-over-people">
        {people.map(({ id, name }) => (
          <option key={id} value={name} />
        ))}
      </datalist>
      <p role="alert" className="text-xs text-brick empty:hidden">
        {wrong}
      </p>
      <div className="mt-2 flex flex-wrap items-baseline gap-3 text-xs">
        <button type="submit" className={primary}>
          Draft a mail
        </button>
        <button
          type="button"
          className={button}
          onClick={() => (named ? void give({ mail: false }) : setWrong('Write to whom.'))}
        >
          Without a mail
        </button>
        <button type="button" className={button} onClick={leave}>
          Leave it
        </button>
      </div>
    </form>
  );
}
