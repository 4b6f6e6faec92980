import type { IncomingFull, TaskFull } from '@corvun/contract';
import { dayOf, plainSubject, sayDay } from '@corvun/core';
import { useRef, useState, type ReactNode } from 'react';
import { Link } from 'react-router';
import { reply } from '../data/thingActions';
import { useIncoming } from '../data/queries';
import { KEYS, keyName } from '../keys';
import { Key } from '../parts/signs';
import { marksOf, piecesOf } from '../parts/marks';
import { useLongDraft } from './drafts';
import { MailForm } from './MailForm';
import { NameOf } from './NameOf';
import { useOpenTask } from './open';

/** Characters that are shown of a long message until the rest is asked for. */
const SHOWN = 420;

/** Where a task came from: the message itself with its evidence, answered from here, and what else came of it. */
export function Origin({ task, today, zone }: { task: TaskFull; today: string; zone: string }): ReactNode {
  const { origin, besides } = task;
  const incoming = useIncoming(origin?.id ?? null);
  const open = useOpenTask();
  if (!origin) return null;
  const others = besides.filter((thing) => thing.kind !== 'block');
  return (
    <section aria-label="Where it came from" className="mt-4 border border-rule bg-card p-3">
      <h3 className="flex flex-wrap items-baseline gap-x-2">
        <b className="font-semibold">
          <NameOf address={origin.sender.address}>{origin.sender.name || origin.sender.address || 'You'}</NameOf>
        </b>
        <span className="min-w-0 truncate text-soft">{plainSubject(origin.subject)}</span>
        <span className="ml-auto text-xs text-soft">{sayDay(dayOf(Date.parse(origin.received), zone), today)}</span>
      </h3>
      {incoming.data && <Message incoming={incoming.data} today={today} />}
      {incoming.error && <p className="mt-1 text-xs text-soft">{incoming.error.message}</p>}
      {others.length > 0 && (
        <p className="mt-2 text-xs text-soft">
          Also came of it:{' '}
          {others.map((thing, at) => (
            <span key={thing.id}>
              {at > 0 && ', '}
              {thing.kind === 'task' ? (
                <button type="button" className="underline underline-offset-2 hover:text-ink" onClick={() => open(thing.id)}>
                  {thing.title}
                </button>
              ) : (
                `${thing.title} (${thing.kind})`
              )}
            </span>
          ))}
        </p>
      )}
    </section>
  );
}

function Message({ incoming, today }: { incoming: IncomingFull; today: string }): ReactNode {
  const [whole, setWhole] = useState(false);
  const long = incoming.text.length > SHOWN * 1.4;
  const text = whole || !long ? incoming.text : incoming.text.slice(0, SHOWN);
  const marks = marksOf(incoming, today).filter((mark) => mark.end <= text.length);
  const answers = incoming.canReply || incoming.sender.address.includes('@');
  return (
    <>
      <div className="mt-1 break-words whitespace-pre-wrap select-text">
        {piecesOf(text, marks)}
        {text.length < incoming.text.length && ' …'}
      </div>
      <p className="mt-2 flex flex-wrap items-baseline gap-x-4 text-xs">
        {long && (
          <button
            type="button"
            className="text-teal underline underline-offset-2"
            aria-expanded={whole}
            onClick={() => setWhole(!whole)}
          >
            {whole ? 'Less of it' : 'All of it'}
          </button>
        )}
        <Link
          id="open-origin"
          to={`/sort/${incoming.id}`}
          state={{ back: true }}
          className="text-teal underline underline-offset-2"
        >
          Open <Key>{keyName(KEYS.sheet.original)}</Key>
        </Link>
        {incoming.link && /^https?:/.test(incoming.link) && (
          <a href={incoming.link} target="_blank" rel="noreferrer" className="text-teal underline underline-offset-2">
            In its source
          </a>
        )}
      </p>
      {answers && <Reply incoming={incoming} />}
    </>
  );
}

function Reply({ incoming }: { incoming: IncomingFull }): ReactNode {
  const [text, write] = useLongDraft(`reply-${incoming.id}`);
  const asked = useRef(false);
  const to = incoming.sender.name || incoming.sender.address;
  if (text === null)
    return (
      <button
        type="button"
        id="reply-to-origin"
        className="mt-2 border border-ink px-3 py-[2px] text-xs hover:bg-paper"
        onClick={() => {
          asked.current = true;
          write('');
        }}
      >
        Write back <Key>{keyName(KEYS.sheet.reply)}</Key>
      </button>
    );
  return (
    <MailForm
      label={`Reply to ${to}`}
      says={`Reply to ${to}`}
      text={text}
      write={write}
      first={() => (asked.current ? 'text' : null)}
      send={(written) => reply(incoming.id, written)}
      leave={() => write(null)}
      byChat={incoming.kind === 'chat'}
    />
  );
}
