import type { IncomingFull, IncomingLine, Me } from '@corvun/contract';
import { count, sayDay, dayOf } from '@corvun/core';
import { useState, type ReactNode } from 'react';
import { usePeople } from '../../data/queries';
import { Field } from '../../parts/Field';
import { useOpenPerson } from '../../sheets/open';
import { useReading } from '../../parts/reading';
import { serverNow } from '../../parts/useNow';
import { useDrafts } from './draft';
import { go } from './panels';
import type { Decide } from './decide';

/** To whom something is handed, and until when it is waited for. */
export function HandOverPanel({ me, line, decide }: { me: Me; line: IncomingLine; decide: Decide }): ReactNode {
  const draft = useDrafts((state) => state.drafts[line.id]);
  const people = usePeople();
  const [who, setWho] = useState(draft?.handTo ?? '');
  const [until, setUntil] = useState('');
  const [missing, setMissing] = useState(false);
  const today = dayOf(serverNow(), me.zone);
  const found = useReading()
    .typedDates(until, { now: serverNow(), zone: me.zone })
    .find((one) => one.day);
  const wrong = until.trim() !== '' && !found;
  return (
    <form
      className="px-1"
      noValidate
      onSubmit={(event) => {
        event.preventDefault();
        if (!who.trim()) return setMissing(true);
        if (wrong) return undefined;
        return void decide({ to: 'hand-over', with: who.trim(), ...(found?.day ? { deadline: found.day } : {}) });
      }}
    >
      <Field
        id="hand-to"
        list="known-people"
        label="To whom"
        value={who}
        change={(value) => {
          setWho(value);
          setMissing(false);
        }}
        autoFocus
        wrong={missing}
        says={missing ? 'Say to whom it goes.' : ''}
      />
      <datalist id="known-people">
        {people.data?.map(({ id, name, address }) => (
          <option key={id} value={address && address !== name ? `${name} <${address}>` : name} />
        ))}
      </datalist>
      <Field
        id="hand-until"
        label="By when, if it matters"
        value={until}
        change={setUntil}
        wrong={wrong}
        says={wrong ? 'No day in these words' : found?.day ? sayDay(found.day, today) : ''}
      />
      <button type="submit" className={go}>
        Hand over and wait for it
      </button>
    </form>
  );
}

/** The sender's card; a sender who is not known yet becomes one with the same button. */
export function PersonPanel({ incoming, decide }: { incoming: IncomingFull; decide: Decide }): ReactNode {
  const { person, sender } = incoming;
  const open = useOpenPerson();
  const rows: [string, string][] = person
    ? [
        ['Mail', person.address],
        ['Phone', person.phone],
        ['Works at', person.organisation],
        ['Note', person.note],
      ]
    : [['Mail', sender.address]];
  return (
    <div className="px-1">
      <p className="font-head text-md font-semibold">{person?.name ?? (sender.name || sender.address)}</p>
      <dl className="grid grid-cols-[64px_1fr] gap-x-2 text-xs">
        {rows
          .filter(([, value]) => value)
          .map(([name, value]) => (
            <div key={name} className="contents">
              <dt className="text-soft">{name}</dt>
              <dd className="truncate select-text">{value}</dd>
            </div>
          ))}
        <dt className="text-soft">So far</dt>
        <dd>{person ? `${count(person.messages, 'message')} from there` : 'not known yet'}</dd>
      </dl>
      {person && (
        <button type="button" autoFocus className={go} onClick={() => open(person.id)}>
          Open the card: what is open, and all that was
        </button>
      )}
      {!person && (
        <button type="button" autoFocus className={go} onClick={() => void decide({ to: 'person' })}>
          Keep who wrote; the message waits
        </button>
      )}
    </div>
  );
}
