import type { Nudge, TaskFull } from '@corvun/contract';
import { sayDay } from '@corvun/core';
import { useEffect, useRef, useState, type ReactNode } from 'react';
import { Link, useLocation } from 'react-router';
import { get, saysWrong } from '../data/api';
import { changeTask, remindThem } from '../data/thingActions';
import { KEYS, keyName } from '../keys';
import { Key } from '../parts/signs';
import { button } from '../places/sources/common';
import { useLongDraft } from './drafts';
import { MailForm } from './MailForm';

/** Whom a task waits on: they can be asked once more; or which message answered. */
export function WaitingOn({ task, today }: { task: TaskFull; today: string }): ReactNode {
  const { waitingOn, answeredBy, nudged, waitingUntil } = task;
  if (!waitingOn && !answeredBy) return null;
  if (!waitingOn)
    return (
      <p className="mt-2 border-l-2 border-teal pl-3 text-xs">
        What it waited for was answered.{' '}
        <Link to={`/sort/${answeredBy}`} className="text-teal underline underline-offset-2">
          Read the answer
        </Link>
      </p>
    );
  const late = waitingUntil !== null && waitingUntil < today;
  return (
    <section aria-label={`Waiting on ${waitingOn}`} className="mt-2">
      {(late || nudged) && (
        <p className={`mb-1 text-xs ${late ? 'text-amber' : 'text-soft'}`}>
          {[
            late && `It was expected by ${sayDay(waitingUntil, today)}`,
            nudged && `asked again ${sayDay(nudged.slice(0, 10), today)}`,
          ]
            .filter(Boolean)
            .join(', ')}
          .
        </p>
      )}
      <Remind key={task.id} id={task.id} who={waitingOn} />
    </section>
  );
}

interface RemindProps {
  /** The task that waits. */
  id: string;
  who: string;
  /** It is drafted at once. */
  begins?: boolean;
  /** The mail is sent, or not wanted any more. */
  left?: () => void;
}

/** Asks somebody once more: a mail is drafted, and sent with one more key. */
export function Remind({ id, who, begins: atOnce = false, left }: RemindProps): ReactNode {
  const { state } = useLocation() as { state: { remind?: boolean } | null };
  const [text, write] = useLongDraft(`remind-${id}`);
  const [mail, setMail] = useState<Nudge | null>(null);
  const [wrong, setWrong] = useState('');
  const ask = async () => {
    setWrong('');
    try {
      const drafted = await get('/tasks/:id/nudge', { id });
      setMail(drafted);
      write(text ?? drafted.text);
    } catch (problem) {
      setWrong(saysWrong(problem));
    }
  };
  const latest = useRef(ask);
  useEffect(() => {
    latest.current = ask;
  });
  // From a list it is opened where the mail is drafted; what was being written before a reload needs its address again.
  const begins = atOnce || state?.remind === true || text !== null;
  useEffect(() => {
    if (begins) void latest.current();
    // Only as it is opened.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, []);
  const close = () => {
    setMail(null);
    left?.();
  };
  const leave = () => {
    write(null);
    close();
  };
  if (!mail || text === null)
    return (
      <>
        <p className="flex flex-wrap gap-2 text-xs">
          <button type="button" id="remind-them" className={button} onClick={() => void ask()}>
            Remind {who} <Key>{keyName(KEYS.sheet.remind)}</Key>
          </button>
          <button type="button" className={button} onClick={() => void changeTask(id, { waitingOn: null })}>
            It has come
          </button>
        </p>
        <p role="alert" className="mt-1 text-xs text-brick empty:hidden">
          {wrong}
        </p>
      </>
    );
  return (
    <MailForm
      label={`Remind ${who}`}
      says={`To ${mail.to.name ? `${mail.to.name}, ${mail.to.address}` : mail.to.address}: ${mail.subject}`}
      text={text}
      write={write}
      // It is drafted: to send it is one more key.
      first={() => 'send'}
      send={(written) => remindThem(id, written)}
      leave={leave}
      close={close}
    />
  );
}
