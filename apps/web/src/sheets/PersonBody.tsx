import type { PersonChange, PersonFull } from '@corvun/contract';
import { sayDay, sayMoment } from '@corvun/core';
import { useState, type ReactNode } from 'react';
import { Link } from 'react-router';
import { changePerson, mergePeople, removePerson } from '../data/people';
import { usePeople } from '../data/queries';
import { button, quiet } from '../places/sources/common';
import { KEYS, keyName } from '../keys';
import { Key } from '../parts/signs';
import { useLongDraft } from './drafts';
import { useOpenTask } from './open';
import { SaidPart, SaidText } from './SaidPart';
import { WriteTo } from './WriteTo';

const several = (text: string) => text.split(/[,;\s]+/).filter(Boolean);

/** Who it is in a sentence, what is open with them, a note, and everything that was. */
export function PersonBody({ person, today, close }: { person: PersonFull; today: string; close: () => void }): ReactNode {
  const [draft, write] = useLongDraft(`mail to ${person.id}`);
  const [writing, setWriting] = useState(draft !== null);
  const change = (fields: PersonChange) => changePerson(person.id, { ...fields, version: person.version });
  const parts = [
    { label: 'Works at', lead: 'Works at', value: person.organisation, save: (organisation: string) => change({ organisation }) },
    { label: 'Mail address', lead: 'Mail to', value: person.address, save: (address: string) => change({ address }) },
    {
      label: 'Further addresses, parted by commas',
      short: 'further addresses',
      lead: 'Also',
      value: person.addresses.join(', '),
      save: (text: string) => change({ addresses: several(text) }),
    },
    { label: 'Phone', lead: 'Phone', value: person.phone, save: (phone: string) => change({ phone }) },
  ];
  const missing = parts.filter(({ value }) => !value);
  return (
    <div className="px-6 pb-10 max-md:px-4">
      <SaidText
        id="person-name"
        label="Name"
        value={person.name}
        className="font-head text-[20px] leading-[26px] font-semibold"
        save={(name) => change({ name })}
      />
      <p className="mt-2 leading-[26px]">
        {[...parts.filter(({ value }) => value), ...missing].map((part) => (
          <SaidPart key={part.label} {...part} first={part === missing[0]} />
        ))}
      </p>
      <div className="mt-3 flex flex-wrap gap-2 text-xs">
        {(person.address || person.addresses.length > 0) && (
          <button
            type="button"
            id="write-to-person"
            aria-expanded={writing}
            className={button}
            onClick={() => setWriting(!writing)}
          >
            Write <Key>{keyName(KEYS.sheet.reply)}</Key>
          </button>
        )}
        <a className={button} href={`/api/people/${person.id}/card`}>
          Save the card
        </a>
        <Merge person={person} />
        <button type="button" className={button} onClick={() => void removePerson(person.id).then((done) => done && close())}>
          Take away
        </button>
      </div>
      {writing && (
        <WriteTo
          person={person}
          draft={draft}
          write={write}
          close={() => {
            setWriting(false);
            document.getElementById('write-to-person')?.focus();
          }}
          done={() => {
            write(null);
            setWriting(false);
            document.getElementById('write-to-person')?.focus();
          }}
        />
      )}
      <OpenWith person={person} today={today} />
      <h3 className="mt-5 font-head font-semibold">Note</h3>
      <SaidText
        id="person-note"
        label="Note"
        value={person.note}
        placeholder="What is good to know of them"
        className="text-sm"
        draft={`person-note-${person.id}`}
        save={(note) => change({ note })}
      />
      <Past person={person} today={today} />
    </div>
  );
}

function OpenWith({ person, today }: { person: PersonFull; today: string }): ReactNode {
  const openTask = useOpenTask();
  const { asking, waiting, tasks, events } = person;
  if (!asking.length && !waiting.length && !tasks.length && !events.length) return null;
  const row = 'flex items-baseline gap-3 border-t border-rule py-1 first:border-t-0';
  const side = 'ml-auto shrink-0 text-xs text-soft';
  return (
    <div className="mt-4 border border-rule bg-card p-3">
      {asking.length > 0 && (
        <Group title="Asks you, not decided yet">
          {asking.map(({ id, subject, received, asks }) => (
            <li key={id} className={row}>
              <Link to={`/sort/${id}`} className="min-w-0 hover:text-teal">
                <span className="block truncate font-semibold">{subject}</span>
                {asks[0] && <span className="block text-xs text-soft">{asks[0]}</span>}
              </Link>
              <span className={side}>{sayDay(received.slice(0, 10), today)}</span>
            </li>
          ))}
        </Group>
      )}
      {tasks.length > 0 && (
        <Group title="To do, from them">
          {tasks.map(({ id, title, deadline }) => (
            <li key={id} className={row}>
              <button type="button" className="min-w-0 truncate text-left hover:text-teal" onClick={() => openTask(id)}>
                {title}
              </button>
              <span className={side}>{deadline ? `due ${sayDay(deadline.slice(0, 10), today)}` : ''}</span>
            </li>
          ))}
        </Group>
      )}
      {waiting.length > 0 && (
        <Group title="You wait for">
          {waiting.map(({ id, title, since, until }) => (
            <li key={id} className={row}>
              <button type="button" className="min-w-0 truncate text-left hover:text-teal" onClick={() => openTask(id)}>
                {title}
              </button>
              <span className={side}>
                {until ? `by ${sayDay(until, today)}` : since ? `since ${sayDay(since.slice(0, 10), today)}` : ''}
              </span>
            </li>
          ))}
        </Group>
      )}
      {events.length > 0 && (
        <Group title="To come">
          {events.map(({ id, title, day, start }) => (
            <li key={`${id} ${day}`} className={row}>
              <Link to={`/plan/${day}`} className="min-w-0 truncate hover:text-teal">
                {title}
              </Link>
              <span className={side}>{sayMoment(start ?? day, today)}</span>
            </li>
          ))}
        </Group>
      )}
    </div>
  );
}

function Group({ title, children }: { title: string; children: ReactNode }): ReactNode {
  return (
    <section aria-label={title} className="mb-3 last:mb-0">
      <h3 className="text-xs text-soft">{title}</h3>
      <ul>{children}</ul>
    </section>
  );
}

/** The other card of the same person: both become this one. */
function Merge({ person }: { person: PersonFull }): ReactNode {
  const people = usePeople();
  const [asking, setAsking] = useState(false);
  const others = (people.data ?? []).filter(({ id }) => id !== person.id);
  if (!others.length) return null;
  if (!asking)
    return (
      <button type="button" className={button} onClick={() => setAsking(true)}>
        Make one with …
      </button>
    );
  return (
    <label className="flex items-center gap-2">
      The same as
      <select
        autoFocus
        className="border border-soft bg-card px-1 py-1 text-ink"
        defaultValue=""
        onKeyDown={(event) => {
          if (event.key !== 'Escape') return;
          event.stopPropagation();
          setAsking(false);
        }}
        onChange={(event) => {
          setAsking(false);
          void mergePeople(person.id, event.target.value);
        }}
      >
        <option value="" disabled>
          who?
        </option>
        {others.map(({ id, name, address }) => (
          <option key={id} value={id}>
            {name}
            {address ? `, ${address}` : ''}
          </option>
        ))}
      </select>
    </label>
  );
}

const SHOWN = 12;

function Past({ person, today }: { person: PersonFull; today: string }): ReactNode {
  const [all, setAll] = useState(false);
  const shown = all ? person.past : person.past.slice(0, SHOWN);
  return (
    <section aria-labelledby="person-past" className="mt-5">
      <h3 id="person-past" className="font-head font-semibold">
        Until now
      </h3>
      {person.past.length === 0 && <p className="mt-1 text-xs text-soft">Nothing came from them or went to them yet.</p>}
      <ul className="mt-1 text-xs">
        {shown.map(({ way, id, title, at }) => (
          <li key={`${way} ${id} ${at}`} className="flex items-baseline gap-2 border-t border-rule py-1 first:border-t-0">
            <span className="w-8 shrink-0 text-soft">{way}</span>
            <span className="min-w-0 flex-1 truncate">
              {way === 'from' ? (
                <Link to={`/sort/${id}`} className="hover:text-teal">
                  {title || 'without a subject'}
                </Link>
              ) : way === 'with' ? (
                <Link to={`/plan/${at.slice(0, 10)}`} className="hover:text-teal">
                  {title}
                </Link>
              ) : (
                title
              )}
            </span>
            <span className="shrink-0 text-soft">{sayDay(at.slice(0, 10), today)}</span>
          </li>
        ))}
      </ul>
      {person.past.length > SHOWN && (
        <button type="button" className={`${quiet} mt-1 text-xs`} aria-expanded={all} onClick={() => setAll(!all)}>
          {all ? 'Less of it' : `All ${person.past.length}${person.more ? ', the latest' : ''}`}
        </button>
      )}
    </section>
  );
}
