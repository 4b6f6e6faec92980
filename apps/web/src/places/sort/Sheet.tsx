import type { IncomingFull, IncomingLine, Me } from '@corvun/contract';
import { dayOf, plainSubject, sayDay, saySize, sayTime } from '@corvun/core';
import { useDraggable } from '@dnd-kit/core';
import { Download, ExternalLink, FileText, GripVertical } from 'lucide-react';
import { Fragment, memo, useEffect, useRef, type ReactNode } from 'react';
import { Link } from 'react-router';
import { Part, later } from '../../parts/later';
import { reopen } from '../../data/actions';
import { NameOf } from '../../sheets/NameOf';
import { useOpenTask } from '../../sheets/open';
import { Key } from '../../parts/signs';
import { Failed, Waiting } from '../../parts/states';
import { ChatContext, ConflictCard, InvitationCard, Joined } from './AroundMessage';
import { Earlier, WentOn } from './Conversation';
import { useDrafts } from './draft';
import { MarkedText } from './MarkedText';
import type { Decide } from './decide';
import { Unread, isUnread, saysFirst } from './Unread';
import { WriteBack } from './WriteBack';

/** The message as its sender laid it out is looked at seldom. */
const AS_SENT = later(async () => (await import('./AsSent')).AsSent);

interface SheetProps {
  me: Me;
  today: string;
  line: IncomingLine;
  incoming: IncomingFull | undefined;
  problem: Error | null;
  retry: () => void;
  asSent: boolean;
  setAsSent: (asSent: boolean) => void;
  decide: Decide;
}

/** The open original, readable, with its evidence marked. */
export const Sheet = memo(function Sheet({
  me,
  today,
  line,
  incoming,
  problem,
  retry,
  asSent,
  setAsSent,
  decide,
}: SheetProps): ReactNode {
  const { edit, open } = useDrafts.getState();
  const scroller = useRef<HTMLElement>(null);
  const { setNodeRef, listeners } = useDraggable({ id: `sheet-${line.id}`, data: { line } });
  useEffect(() => {
    scroller.current?.scrollTo({ top: 0 });
  }, [line.id]);
  const at = Date.parse(incoming?.written ?? line.received);
  const sender = line.kind === 'typed' ? 'Typed by you' : line.sender.name || line.sender.address || 'Unknown sender';
  return (
    <article
      ref={scroller}
      aria-label="Sheet"
      className="@container/sheet flex min-w-0 flex-1 flex-col overflow-y-auto bg-card pb-6 @max-[640px]/sort:flex-none @max-[640px]/sort:overflow-visible"
      tabIndex={-1}
    >
      <header className="flex gap-2 pt-5 pr-5 pb-4 pl-8 @max-[560px]/sheet:px-4">
        <div className="min-w-0 flex-1">
          <h2 className="font-head text-lg font-semibold tracking-tight break-words">
            {plainSubject(line.subject) || 'No subject'}
          </h2>
          <p className="mt-1 text-xs text-soft select-text">
            <NameOf address={line.sender.address}>{sender}</NameOf>
            {line.kind !== 'typed' && line.kind !== 'chat' && line.sender.name && line.sender.address
              ? ` · ${line.sender.address}`
              : ''}{' '}
            · {line.sourceName && line.sourceName !== line.sender.name ? `${line.sourceName} · ` : ''}
            {sayDay(dayOf(at, me.zone), today)}, {sayTime(at, me.zone)}
            {incoming?.to.map((person, at) => (
              <Fragment key={`${person.address} ${at}`}>
                {at ? ', ' : ' · to '}
                {person.address === me.email ? 'you' : <NameOf address={person.address}>{person.name || person.address}</NameOf>}
              </Fragment>
            ))}
          </p>
        </div>
        <div className="flex shrink-0 items-start gap-1 text-soft">
          {incoming?.html && (
            <button
              type="button"
              className="flex items-center gap-2 border border-rule px-2 py-[3px] text-xs hover:text-ink"
              aria-pressed={asSent}
              onClick={() => setAsSent(!asSent)}
            >
              {asSent ? 'As text' : 'As sent'} <Key>V</Key>
            </button>
          )}
          {incoming?.link && (
            <a
              className="grid size-7 place-items-center hover:text-ink"
              href={incoming.link}
              target="_blank"
              rel="noreferrer"
              aria-label={`Open in ${incoming.sourceName || 'its source'}`}
              title={`Open in ${incoming.sourceName || 'its source'}`}
            >
              <ExternalLink size={15} aria-hidden="true" />
            </a>
          )}
          {(line.kind === 'mail' || line.kind === 'invitation') && (
            <a
              className="grid size-7 place-items-center hover:text-ink"
              href={`/api/incoming/${line.id}/original`}
              aria-label="Save the original"
              title="Save the original, byte for byte"
            >
              <Download size={15} aria-hidden="true" />
            </a>
          )}
          <span
            ref={setNodeRef}
            {...listeners}
            className="grid h-7 w-5 cursor-grab place-items-center @max-[560px]/sheet:hidden"
            title="Drag onto a list, a day or a gap"
            aria-hidden="true"
          >
            <GripVertical size={15} />
          </span>
        </div>
      </header>
      {problem && !incoming ? (
        <Failed problem={problem} retry={retry} />
      ) : !incoming ? (
        <Waiting what="Opening the message" />
      ) : (
        <Body
          key={line.id}
          me={me}
          today={today}
          incoming={incoming}
          asSent={asSent}
          decide={decide}
          edit={(change) => {
            edit(line.id, change);
            if (change.handTo) open('hand-over');
            if (change.place) open('event');
            if (change.when) open(change.when.includes(' ') && /:/.test(change.when) ? 'event' : 'day');
          }}
        />
      )}
    </article>
  );
});

function Body({
  me,
  today,
  incoming,
  asSent,
  decide,
  edit,
}: {
  me: Me;
  today: string;
  incoming: IncomingFull;
  asSent: boolean;
  decide: Decide;
  edit: Parameters<typeof MarkedText>[0]['use'];
}): ReactNode {
  const first = saysFirst(incoming);
  const notes = [incoming.heldBack, ...(first ? [] : incoming.problems)].filter(Boolean);
  return (
    <>
      <WentOn incoming={incoming} today={today} />
      {first && <Unread incoming={incoming} />}
      {incoming.conflict && incoming.state === 'waiting' && (
        <ConflictCard id={incoming.id} sourceName={incoming.sourceName} conflict={incoming.conflict} />
      )}
      {incoming.invitation && (
        <InvitationCard me={me} today={today} incoming={incoming} invitation={incoming.invitation} decide={decide} />
      )}
      {asSent && incoming.html ? (
        <Part of={AS_SENT} with={{ html: incoming.html, title: incoming.subject }} />
      ) : isUnread(incoming) ? null : (
        <MarkedText incoming={incoming} today={today} use={incoming.state === 'waiting' ? edit : null} />
      )}
      <div className="mt-4 flex flex-wrap gap-2 pr-5 pl-8 @max-[560px]/sheet:px-4">
        {incoming.attachmentList.map((part) => (
          <a
            key={part.id}
            href={part.url}
            target="_blank"
            rel="noreferrer"
            className="inline-flex items-center gap-2 border border-rule px-2 py-[5px] text-xs hover:border-ink"
          >
            <FileText size={14} aria-hidden="true" />
            <span className="max-w-[24ch] truncate">{part.name}</span>
            <span className="text-soft">{saySize(part.size)}</span>
          </a>
        ))}
      </div>
      {notes.map((note) => (
        <p key={note} className="mt-2 pr-5 pl-8 text-xs text-soft @max-[560px]/sheet:px-4">
          {note}
        </p>
      ))}
      {incoming.kind === 'chat' && <ChatContext me={me} incoming={incoming} />}
      {incoming.kind === 'mail' && incoming.state === 'waiting' && !incoming.bulk && (
        <WriteBack incoming={incoming} decide={decide} canSend={me.mailOut} />
      )}
      <Answers incoming={incoming} />
      <Joined incoming={incoming} today={today} />
      {incoming.state === 'decided' && !incoming.joinedTo && <Became incoming={incoming} />}
      <Earlier incoming={incoming} today={today} />
    </>
  );
}

/** Tasks that waited for this message. */
function Answers({ incoming: { answers } }: { incoming: IncomingFull }): ReactNode {
  const open = useOpenTask();
  if (!answers.length) return null;
  return (
    <section className="mx-8 mt-5 border-l-2 border-teal pl-3 @max-[560px]/sheet:mx-4" aria-label="You waited for this">
      <h3 className="text-xs text-soft">You waited for this</h3>
      {answers.map(({ id, title }) => (
        <p key={id}>
          <button type="button" className="text-left underline underline-offset-2" onClick={() => open(id)}>
            {title}
          </button>
        </p>
      ))}
    </section>
  );
}

const KINDS = {
  task: 'Task',
  block: 'Time block',
  event: 'Event',
  person: 'Person',
  note: 'In the note',
  reference: 'Kept for reference',
} as const;

function Became({ incoming }: { incoming: IncomingFull }): ReactNode {
  const paths = {
    task: '/lists',
    block: '/plan',
    event: '/plan',
    person: '/people',
    note: '/notes',
    reference: '/lists/reference',
  } as const;
  return (
    <section className="mx-8 mt-5 border-l-2 border-teal pl-3 @max-[560px]/sheet:mx-4" aria-label="What it became">
      <h3 className="text-xs text-soft">{incoming.outcome === 'drop' ? 'It was dropped.' : 'What it became'}</h3>
      {incoming.made.map((thing) => (
        <p key={thing.kind + thing.id}>
          {KINDS[thing.kind]}:{' '}
          {paths[thing.kind] ? (
            <Link
              className="underline underline-offset-2"
              to={
                thing.kind === 'task' || thing.kind === 'person'
                  ? `?${thing.kind}=${thing.id}`
                  : thing.kind === 'note'
                    ? `/notes/${thing.id}`
                    : paths[thing.kind]
              }
            >
              {thing.title}
            </Link>
          ) : (
            thing.title
          )}
        </p>
      ))}
      <button
        type="button"
        className="mt-2 text-xs text-soft underline underline-offset-2 hover:text-ink"
        title="It waits in the inbox again; what came of it stays"
        onClick={() => void reopen(incoming.id)}
      >
        Decide it anew
      </button>
    </section>
  );
}
