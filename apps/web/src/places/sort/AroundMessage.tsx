import type { ConflictInfo, IncomingFull, InvitationInfo, Me } from '@corvun/contract';
import { dayOf, sayDay, sayTime, wallOf } from '@corvun/core';
import { useState, type FormEvent, type ReactNode } from 'react';
import { Link } from 'react-router';
import { askedBy, movesOf, useYesCost } from '../../cost/cost';
import { YesCost } from '../../cost/YesCost';
import { replyTo, settle } from '../../data/sources';
import { Key } from '../../parts/signs';
import { KEYS, keyName } from '../../keys';
import { NameOf } from '../../sheets/NameOf';
import type { Decide } from './decide';

const ANSWERS: Record<string, string> = {
  ACCEPTED: 'yes',
  DECLINED: 'no',
  TENTATIVE: 'maybe',
  'NEEDS-ACTION': 'open',
  DELEGATED: 'passed on',
};
const SAID = { yes: 'You said yes.', maybe: 'You said maybe.', no: 'You said no.' } as const;
const frame = 'mr-5 ml-8 @max-[560px]/sheet:mx-4';

interface InvitationProps {
  me: Me;
  today: string;
  incoming: IncomingFull;
  invitation: InvitationInfo;
  decide: Decide;
}

/** What a scheduling message asks, and what a yes to it would cost. */
export function InvitationCard({ me, today, incoming, invitation, decide }: InvitationProps): ReactNode {
  const { start, end, allDay, overlaps, changes } = invitation;
  const asked = askedBy(incoming);
  const { data: cost } = useYesCost(asked);
  const when = allDay
    ? sayDay(start, today)
    : `${sayDay(dayOf(Date.parse(start), me.zone), today)}, ${sayTime(Date.parse(start), me.zone)} to ${sayTime(Date.parse(end), me.zone)}`;
  return (
    <section aria-label="Invitation" className={`${frame} mb-4 border border-rule bg-paper`}>
      <div
        className={`flex gap-x-4 gap-y-2 border-l-4 px-3 py-2 @max-[560px]/sheet:flex-wrap ${invitation.method === 'CANCEL' ? 'border-brick' : 'border-plum'}`}
      >
        <div className="min-w-0 flex-1 @max-[560px]/sheet:basis-full">
          <p className="font-head text-md font-semibold">{when}</p>
          <p className="text-xs text-soft">
            {[invitation.title, invitation.location, invitation.repeats ? 'repeats' : ''].filter(Boolean).join(' · ')}
          </p>
          {changes.map((change) => (
            <p key={change} className="mt-1 font-semibold text-plum">
              {change.charAt(0).toUpperCase() + change.slice(1)}
            </p>
          ))}
          {invitation.comment && <p className="mt-1">“{invitation.comment}”</p>}
        </div>
        <dl className="shrink-0 text-xs text-soft @max-[560px]/sheet:basis-full">
          <dt className="sr-only">Organizer</dt>
          <dd className="text-ink">
            <NameOf address={invitation.organizer.address}>{invitation.organizer.name || invitation.organizer.address}</NameOf>
          </dd>
          {invitation.guests.slice(0, 4).map((guest) => (
            <dd key={guest.address}>
              {guest.address === me.email ? 'You' : <NameOf address={guest.address}>{guest.name || guest.address}</NameOf>}:{' '}
              {ANSWERS[guest.partstat] ?? 'open'}
            </dd>
          ))}
          {invitation.guests.length > 4 && <dd>and {invitation.guests.length - 4} more</dd>}
        </dl>
      </div>
      {asked && cost ? (
        <div className="border-t border-rule">
          <YesCost
            me={me}
            today={today}
            cost={cost}
            move={() => void decide({ to: 'answer', reply: 'yes', moves: movesOf(cost) })}
            propose={(other) => void decide({ to: 'answer', start: wallOf(Date.parse(other), me.zone) })}
          />
        </div>
      ) : (
        <p className={`border-t border-rule px-3 py-1 text-xs ${overlaps.length ? 'text-amber' : 'text-soft'}`}>
          {invitation.answered
            ? SAID[invitation.answered]
            : overlaps.length
              ? `At that time there is ${overlaps.join(' and ')}.`
              : invitation.answerable
                ? asked
                  ? 'What a yes costs is being counted …'
                  : 'Nothing else is at that time.'
                : invitation.method === 'CANCEL'
                  ? 'Nothing to answer: put it where you like, or drop it.'
                  : 'Nothing to answer.'}
        </p>
      )}
    </section>
  );
}

const FIELDS: Record<string, string> = {
  title: 'Title',
  estimate: 'Estimate in minutes',
  due: 'Deadline',
  day: 'Day',
  done: 'Done',
  priority: 'Priority',
  repeat: 'Repeat',
  fixed: 'Fixed deadline',
};
const show = (value: string | number | boolean | null) =>
  value === null ? 'nothing' : typeof value === 'boolean' ? (value ? 'yes' : 'no') : String(value);

/** What was changed differently here and there, and which of both to keep. */
export function ConflictCard({
  id,
  sourceName,
  conflict,
}: {
  id: string;
  sourceName: string;
  conflict: ConflictInfo;
}): ReactNode {
  const there = sourceName || 'there';
  const gone = conflict.fields.find((one) => one.field === 'gone');
  if (gone)
    return (
      <section aria-label="Deleted there" className={`${frame} mb-4 border border-amber bg-paper p-3`}>
        <p className="font-semibold">
          {gone.there === 'deleted'
            ? `This was deleted in ${there}. ${conflict.taskId ? 'The task here is still open.' : 'It was changed here.'}`
            : `This was taken away here, and changed in ${there}, so it stands again.`}
        </p>
        <div className="mt-2 flex gap-2">
          <button type="button" className="border border-ink px-3 py-1 hover:bg-card" onClick={() => void settle(id, 'here')}>
            {gone.there === 'deleted' ? (conflict.taskId ? 'Keep the task' : 'Keep it here') : 'Take it away there, too'}
          </button>
          <button type="button" className="border border-ink px-3 py-1 hover:bg-card" onClick={() => void settle(id, 'there')}>
            {gone.there === 'deleted' ? (conflict.taskId ? 'Drop the task, too' : 'Take it away here, too') : 'Keep it'}
          </button>
        </div>
      </section>
    );
  return (
    <section aria-label="Two versions" className={`${frame} mb-4 border border-amber bg-paper p-3`}>
      <p className="font-semibold">This was changed here and in {there}, each to something else.</p>
      <table className="mt-2 w-full text-left">
        <thead className="text-xs text-soft">
          <tr>
            <th className="w-1/4 font-normal">What</th>
            <th className="font-normal">Here</th>
            <th className="font-normal">In {there}</th>
          </tr>
        </thead>
        <tbody>
          {conflict.fields.map((one) => (
            <tr key={one.field} className="border-t border-rule align-top">
              <th scope="row" className="py-1 font-normal text-soft">
                {one.name ?? FIELDS[one.field] ?? one.field}
              </th>
              <td className="py-1 pr-3">{show(one.here)}</td>
              <td className="py-1">{show(one.there)}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <div className="mt-2 flex gap-2">
        <button type="button" className="border border-ink px-3 py-1 hover:bg-card" onClick={() => void settle(id, 'here')}>
          Keep what is here
        </button>
        <button type="button" className="border border-ink px-3 py-1 hover:bg-card" onClick={() => void settle(id, 'there')}>
          Take what is in {there}
        </button>
      </div>
    </section>
  );
}

/** The messages around one from a chat, and a line to reply with. */
export function ChatContext({ me, incoming }: { me: Me; incoming: IncomingFull }): ReactNode {
  const [text, setText] = useState('');
  const submit = async (event: FormEvent) => {
    event.preventDefault();
    if (text.trim() && (await replyTo(incoming.id, text.trim()))) setText('');
  };
  return (
    <section aria-label="Around it" className={`${frame} mt-5`}>
      {incoming.context.length > 1 && <h3 className="text-xs text-soft">Around it</h3>}
      <ol>
        {incoming.context
          .filter(() => incoming.context.length > 1)
          .map((one) => (
            <li
              key={one.at + one.text}
              className={`flex gap-3 border-l-2 py-[2px] pl-3 ${one.itself ? 'border-plum bg-plum-wash' : 'border-rule'}`}
            >
              <span className="w-[88px] shrink-0 truncate text-soft">{one.who}</span>
              <span className="min-w-0 flex-1 select-text">{one.text}</span>
              <span className="shrink-0 text-xs text-soft">{sayTime(Date.parse(one.at), me.zone)}</span>
            </li>
          ))}
      </ol>
      {incoming.canReply && (
        <form onSubmit={(event) => void submit(event)} className="mt-3 flex items-end gap-2">
          <label className="flex-1 text-xs text-soft">
            Reply in the chat <Key>{keyName(KEYS.sort.writeBack)}</Key>
            <input
              id="chat-reply"
              className="block w-full border-b border-soft bg-transparent py-1 text-base text-ink"
              value={text}
              autoComplete="off"
              onChange={(event) => setText(event.target.value)}
            />
          </label>
          <button
            type="submit"
            className="border border-ink px-3 py-1 hover:bg-paper disabled:opacity-50"
            disabled={!text.trim()}
          >
            Send
          </button>
        </form>
      )}
    </section>
  );
}

/** The same matter from other places, each with its original. */
export function Joined({ incoming, today }: { incoming: IncomingFull; today: string }): ReactNode {
  if (!incoming.joined.length) return null;
  return (
    <section aria-label="Also arrived as" className={`${frame} mt-5`}>
      <h3 className="text-xs text-soft">{incoming.joinedTo ? 'The same matter stands here' : 'Also arrived as'}</h3>
      {incoming.joined.map((one) => (
        <div key={one.id} className="mt-1 border-l-2 border-rule pl-3">
          <Link to={`/sort/${one.id}`} className="text-xs underline underline-offset-2">
            {one.kind}, {one.sender.name || one.sender.address}, {sayDay(one.received.slice(0, 10), today)}
          </Link>
          <p className="line-clamp-3 whitespace-pre-line select-text">{one.text}</p>
        </div>
      ))}
    </section>
  );
}
