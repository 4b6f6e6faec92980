import type { PersonFull } from '@corvun/contract';
import { useEffect, useRef, useState, type FormEvent, type ReactNode } from 'react';
import { mailPerson } from '../data/people';
import { useMe } from '../data/queries';
import { NoWayLine } from '../parts/NoWayOut';
import { button, primary } from '../places/sources/common';

interface WriteToProps {
  person: PersonFull;
  /** What is written already: the subject in the first line. */
  draft: string | null;
  write: (text: string | null) => void;
  /** Closed: what is written stays. */
  close: () => void;
  /** Sent, or thrown away. */
  done: () => void;
}

const field = 'block w-full border border-soft bg-card px-2 py-1 text-sm text-ink';

/** A mail to somebody, written on their card; what is written stays until it is sent. */
export function WriteTo({ person, draft, write, close, done }: WriteToProps): ReactNode {
  const [subject = '', ...rest] = (draft ?? '').split('\n');
  const text = rest.join('\n');
  const all = [person.address, ...person.addresses].filter(Boolean);
  const [to, setTo] = useState(all[0] ?? '');
  const [wrong, setWrong] = useState('');
  const first = useRef<HTMLInputElement>(null);
  const canSend = useMe().data?.mailOut !== false;
  useEffect(() => first.current?.focus(), []);
  const send = async (event: FormEvent) => {
    event.preventDefault();
    if (!subject.trim() || !text.trim()) return setWrong('Write a subject, and a line or two.');
    if (await mailPerson(person.id, { subject: subject.trim(), text: text.trim(), to })) done();
  };
  return (
    <form
      aria-label={`Mail to ${person.name}`}
      className="mt-3 border border-teal bg-card p-3"
      noValidate
      onSubmit={(event) => void send(event)}
      onKeyDown={(event) => {
        if (event.key === 'Enter' && (event.ctrlKey || event.metaKey)) void send(event);
        if (event.key !== 'Escape') return;
        event.stopPropagation();
        close();
      }}
    >
      {!canSend && <NoWayLine className="mb-2" />}
      {all.length > 1 && (
        <label className="mb-2 block text-xs text-soft">
          To
          <select className={field} value={to} onChange={(event) => setTo(event.target.value)}>
            {all.map((one) => (
              <option key={one}>{one}</option>
            ))}
          </select>
        </label>
      )}
      <label className="block text-xs text-soft">
        Subject
        <input
          ref={first}
          className={field}
          value={subject}
          maxLength={300}
          autoComplete="off"
          onChange={(event) => write(`${event.target.value}\n${text}`)}
        />
      </label>
      <label className="mt-2 block text-xs text-soft">
        Text
        <textarea
          rows={4}
          className={`${field} field-sizing-content max-h-64`}
          value={text}
          onChange={(event) => write(`${subject}\n${event.target.value}`)}
        />
      </label>
      <p role="alert" className="min-h-4 text-xs text-brick">
        {wrong}
      </p>
      <div className="flex gap-2 text-xs">
        <button type="submit" className={primary}>
          Send
        </button>
        <button type="button" className={button} onClick={done}>
          Throw it away
        </button>
      </div>
    </form>
  );
}
