import type { EventChange, EventFull } from '@corvun/contract';
import { useState, type ReactNode } from 'react';
import { usePeople } from '../data/queries';

export const ANSWERS = {
  'NEEDS-ACTION': 'not answered',
  ACCEPTED: 'yes',
  DECLINED: 'no',
  TENTATIVE: 'maybe',
  DELEGATED: 'passed it on',
} as const;

const written = ({ name, address }: { name: string; address: string }) =>
  name && address ? `${name} <${address}>` : address || name;

/** Who is invited and what they said; more can be invited, and somebody left out. */
export function EventGuests({
  event,
  save,
}: {
  event: EventFull;
  save: ((change: EventChange) => Promise<boolean>) | undefined;
}): ReactNode {
  const people = usePeople().data ?? [];
  const [text, setText] = useState('');
  const [problem, setProblem] = useState('');
  const all = event.guests.map(written);
  const add = () => {
    const said = text.trim();
    const known = people.find((one) => one.name.toLowerCase() === said.toLowerCase());
    const guest = known ? written(known) : said;
    if (!said || !save) return;
    if (!guest.includes('@')) setProblem('Write a mail address, or the name of somebody you have to do with.');
    else if (all.includes(guest)) setProblem('They are invited already.');
    else {
      setProblem('');
      void save({ guests: [...all, guest] }).then((kept) => kept && setText(''));
    }
  };
  if (!save && !all.length) return null;
  return (
    <section aria-labelledby="guests-head" className="mt-4 border-t border-rule pt-3">
      <h3 id="guests-head" className="font-head font-semibold">
        Guests
      </h3>
      {event.guest && <p className="text-xs text-soft">Invited by {event.organizer}</p>}
      <ul>
        {event.guests.map((guest, at) => (
          <li key={guest.address || guest.name} className="flex items-baseline gap-2 py-[1px]">
            <span className="min-w-0 truncate">{guest.name || guest.address}</span>
            {guest.you && <span className="text-xs text-soft">you</span>}
            <span
              className={`ml-auto shrink-0 text-xs ${guest.partstat === 'ACCEPTED' ? 'text-teal' : guest.partstat === 'DECLINED' ? 'text-brick' : 'text-soft'}`}
            >
              {guest.address ? ANSWERS[guest.partstat] : 'no address'}
            </span>
            {save && (
              <button
                type="button"
                className="text-xs text-soft underline underline-offset-2 hover:text-ink"
                aria-label={`Leave ${guest.name || guest.address} out`}
                onClick={() => void save({ guests: all.filter((_, index) => index !== at) })}
              >
                leave out
              </button>
            )}
          </li>
        ))}
      </ul>
      {save && (
        <>
          <label htmlFor="new-guest" className="sr-only">
            Invite somebody
          </label>
          <input
            id="new-guest"
            list="people-known"
            autoComplete="off"
            maxLength={400}
            placeholder="Invite: a name, or an address"
            className="mt-1 w-full border-b border-rule bg-transparent py-1 placeholder:text-soft focus:border-teal"
            value={text}
            aria-invalid={problem !== ''}
            aria-describedby="new-guest-says"
            onChange={(change) => {
              setText(change.target.value);
              setProblem('');
            }}
            onKeyDown={(key) => {
              if (key.key === 'Enter') add();
              if (key.key !== 'Escape' || !text) return;
              key.stopPropagation();
              setText('');
            }}
          />
          <datalist id="people-known">
            {people.map((one) => (
              <option key={one.id} value={written(one)} />
            ))}
          </datalist>
          <p id="new-guest-says" role="alert" className="text-xs text-brick empty:hidden">
            {problem}
          </p>
        </>
      )}
    </section>
  );
}
