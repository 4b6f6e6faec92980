import type { CalendarInfo, MirrorInfo } from '@corvun/contract';
import { count } from '@corvun/core';
import { useQuery } from '@tanstack/react-query';
import { useState, type ReactNode } from 'react';
import { doing } from '../../data/actions';
import { get, post, remove } from '../../data/api';
import { button } from '../sources/common';
import { Setting } from './Setting';

const KEYS = ['mirrors', 'days'];
const select = 'border border-soft bg-card px-1 py-1';

/** Which calendar stands in which other one, too. */
export function Mirrors({ calendars }: { calendars: readonly CalendarInfo[] }): ReactNode {
  const mirrors = useQuery({ queryKey: ['mirrors'], queryFn: () => get('/mirrors') }).data ?? [];
  const nameOf = (id: string) => calendars.find((one) => one.id === id)?.name ?? '';
  return (
    <Setting
      id="mirrors"
      about="What takes time in one calendar stands in another as busy, one copy each, and follows every change, so that whoever sees only that one does not book over it. What is over when it begins is left alone, and copies are never copied on."
    >
      <ul aria-label="Mirrors">
        {mirrors.map((mirror) => (
          <Row key={mirror.id} mirror={mirror} from={nameOf(mirror.from)} to={nameOf(mirror.to)} />
        ))}
      </ul>
      <NewMirror calendars={calendars} />
    </Setting>
  );
}

function Row({ mirror, from, to }: { mirror: MirrorInfo; from: string; to: string }): ReactNode {
  const [ending, setEnding] = useState(false);
  const end = (copies: 'keep' | 'remove') => void doing(() => remove('/mirrors/:id', { id: mirror.id, copies }), KEYS);
  return (
    <li className="flex flex-wrap items-center gap-x-3 gap-y-1 border-t border-rule py-2 first:border-t-0">
      <span className="min-w-0 flex-1">
        <b className="font-semibold">{from}</b> stands in <b className="font-semibold">{to}</b>{' '}
        <span className="text-xs text-soft">
          {mirror.title ? `as “${mirror.title}”` : 'under its own titles'}
          {mirror.private ? ', private' : ''}
          {mirror.category ? `, ${mirror.category}` : ''} · {count(mirror.copies, 'entry', 'entries')}
        </span>
      </span>
      {ending ? (
        <span role="group" aria-label={`End the mirror of ${from} in ${to}`} className="flex flex-wrap gap-2">
          <button type="button" className={button} onClick={() => end('remove')}>
            Take away what is to come
          </button>
          <button type="button" className={button} onClick={() => end('keep')}>
            Keep the copies as events
          </button>
          <button type="button" className={button} onClick={() => setEnding(false)}>
            Leave it
          </button>
        </span>
      ) : (
        <button
          type="button"
          className={button}
          aria-label={`End the mirror of ${from} in ${to} …`}
          onClick={() => setEnding(true)}
        >
          End it …
        </button>
      )}
    </li>
  );
}

function NewMirror({ calendars }: { calendars: readonly CalendarInfo[] }): ReactNode {
  const [from, setFrom] = useState('');
  const [to, setTo] = useState('');
  const [title, setTitle] = useState('Busy');
  const [hidden, setHidden] = useState(true);
  const targets = calendars.filter(({ id, origin }) => origin !== 'feed' && id !== from);
  const target = targets.find(({ id }) => id === to) ?? targets.find(({ main }) => main) ?? targets[0];
  if (calendars.length < 2) return <p className="text-xs text-soft">With a second calendar one can stand in the other.</p>;
  return (
    <form
      className="mt-2 flex flex-wrap items-center gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        if (from && target) void doing(() => post('/mirrors', { from, to: target.id, title, private: hidden }), KEYS);
      }}
    >
      <select aria-label="Calendar to mirror" className={select} value={from} onChange={(event) => setFrom(event.target.value)}>
        <option value="">a calendar …</option>
        {calendars.map(({ id, name }) => (
          <option key={id} value={id}>
            {name}
          </option>
        ))}
      </select>
      into
      <select
        aria-label="Calendar it is mirrored into"
        className={select}
        value={target?.id ?? ''}
        onChange={(event) => setTo(event.target.value)}
      >
        {targets.map(({ id, name }) => (
          <option key={id} value={id}>
            {name}
          </option>
        ))}
      </select>
      as
      <input
        aria-label="Title of the copies"
        className="w-[120px] border-b border-soft bg-transparent py-1"
        placeholder="own titles"
        maxLength={200}
        autoComplete="off"
        value={title}
        onChange={(event) => setTitle(event.target.value)}
      />
      <label className="flex min-h-6 items-center gap-1">
        <input type="checkbox" className="accent-teal" checked={hidden} onChange={(event) => setHidden(event.target.checked)} />
        private
      </label>
      <button type="submit" className={button} disabled={!from || !target}>
        Mirror it
      </button>
    </form>
  );
}
