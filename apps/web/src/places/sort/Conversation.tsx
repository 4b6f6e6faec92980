import type { IncomingFull } from '@corvun/contract';
import { sayDay } from '@corvun/core';
import { useState, type ReactNode } from 'react';
import { Link } from 'react-router';

type Part = IncomingFull['thread'][number];

/** The line that names whom it is to. */
const GREETING = /^[^\n]{2,50},\s*\n\s*/;

const who = ({ sender }: Part) => sender.name || sender.address || 'Unknown sender';

/** That the conversation went on after the message that is read. */
export function WentOn({ incoming, today }: { incoming: IncomingFull; today: string }): ReactNode {
  const [newest] = incoming.thread;
  if (!newest || newest.received <= incoming.received) return null;
  return (
    <p className="mx-8 mb-3 border-l-2 border-plum pl-3 text-xs @max-[560px]/sheet:mx-4">
      This conversation went on:{' '}
      <Link to={`/sort/${newest.id}`} className="underline underline-offset-2">
        {who(newest)}, {sayDay(newest.received.slice(0, 10), today)}
      </Link>
      {newest.state === 'decided' && <Decided part={newest} />}
    </p>
  );
}

/** What was said before in the same conversation, the newest first, each folded to a line, and what was decided about it. */
export function Earlier({ incoming, today }: { incoming: IncomingFull; today: string }): ReactNode {
  const parts = incoming.thread.filter((part) => part.received <= incoming.received);
  if (!parts.length) return null;
  return (
    <section className="mt-5 pr-5 pl-8 @max-[560px]/sheet:px-4" aria-labelledby="earlier">
      <h3 id="earlier" className="text-xs text-soft">
        Earlier in this conversation
      </h3>
      <ul className="mt-1 border-b border-rule">
        {parts.map((part) => (
          <EarlierPart key={part.id} part={part} today={today} subject={incoming.subject} />
        ))}
      </ul>
    </section>
  );
}

function EarlierPart({ part, today, subject }: { part: Part; today: string; subject: string }): ReactNode {
  const [open, setOpen] = useState(false);
  const first = part.text.replace(GREETING, '').replace(/\s+/g, ' ').slice(0, 200);
  return (
    <li className="border-t border-rule">
      <button
        type="button"
        aria-expanded={open}
        className="flex min-h-7 w-full items-baseline gap-x-3 text-left hover:bg-paper"
        onClick={() => setOpen(!open)}
      >
        <span className="shrink-0 font-semibold">{who(part)}</span>
        <span className="min-w-0 flex-1 truncate text-xs text-soft">{open ? '' : first || part.subject}</span>
        <span className="shrink-0 text-xs text-soft">{sayDay(part.received.slice(0, 10), today)}</span>
      </button>
      {open && (
        <div className="max-w-[66ch] pt-1 pb-2 pl-4">
          {part.subject !== subject && <p className="text-xs text-soft">{part.subject}</p>}
          <p className="leading-[23px] break-words whitespace-pre-wrap select-text">{part.text || 'It has no text.'}</p>
          <Link to={`/sort/${part.id}`} className="text-xs underline underline-offset-2">
            Open the whole message
          </Link>
        </div>
      )}
      {part.state === 'decided' && (
        <p className="pb-1 pl-4 text-xs">
          <Decided part={part} />
        </p>
      )}
    </li>
  );
}

function Decided({ part }: { part: Part }): ReactNode {
  const [first, ...more] = part.made;
  if (!first) return <span className="text-teal">was decided</span>;
  return (
    <span className="text-teal">
      became{' '}
      {first.kind === 'task' || first.kind === 'person' ? (
        <Link to={`?${first.kind}=${first.id}`} className="underline underline-offset-2">
          “{first.title}”
        </Link>
      ) : (
        `“${first.title}”`
      )}
      {more.length ? ` and ${more.length} more` : ''}
    </span>
  );
}
