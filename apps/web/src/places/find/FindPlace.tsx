import type { Found, Me } from '@corvun/contract';
import { FIND_KINDS, dayOf, readFind, sayDay } from '@corvun/core';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import {
  CalendarDays,
  History,
  NotebookText,
  Paperclip,
  ListChecks,
  Mail,
  MessageSquareText,
  PenLine,
  SlidersHorizontal,
  SquareKanban,
  UserRound,
} from 'lucide-react';
import { useEffect, useRef, type KeyboardEvent, type ReactNode } from 'react';
import { Link, useSearchParams } from 'react-router';
import { get } from '../../data/api';
import { peopleLike } from '../../data/people';
import { useLists, usePeople } from '../../data/queries';
import { settingsLike } from '../settings/sections';
import { Failed } from '../../parts/states';
import { serverNow, useNow } from '../../parts/useNow';
import { useGiveTime } from '../../sheets/open';

const ICONS: Record<string, typeof Mail> = {
  chat: MessageSquareText,
  card: SquareKanban,
  typed: PenLine,
  task: ListChecks,
  event: CalendarDays,
  note: NotebookText,
  'note-line': NotebookText,
  'feed-entry': CalendarDays,
  file: Paperclip,
  person: UserRound,
  log: History,
  invitation: CalendarDays,
};
/** People that are shown above everything else that was found. */
const MOST_PEOPLE = 5;
const chip = 'border px-2 py-[1px] text-xs';

/** Finds everything that ever came in or was made of it, as one types. What is looked for stands in the address. */
export function FindPlace({ me }: { me: Me }): ReactNode {
  const [query, setQuery] = useSearchParams();
  const text = query.get('q') ?? '';
  const field = useRef<HTMLInputElement>(null);
  const frame = useRef<HTMLUListElement>(null);
  const today = dayOf(useNow(), me.zone);
  const lists = useLists();
  const people = usePeople();
  useEffect(() => field.current?.focus(), []);
  const answer = useQuery({
    queryKey: ['find', text],
    queryFn: () => get('/find', { q: text }),
    placeholderData: keepPreviousData,
    enabled: text.trim() !== '',
    staleTime: 0,
  });
  const write = (value: string) => setQuery(value ? { q: value } : {}, { replace: true });
  const read = readFind(text, { now: serverNow(), zone: me.zone });
  const turn = (mark: string, on: boolean) => {
    const words = text.split(/\s+/).filter((word) => word !== mark);
    write((on ? words : [...words, mark]).filter(Boolean).join(' '));
    field.current?.focus();
  };
  const onKeyDown = (event: KeyboardEvent) => {
    const by = { ArrowDown: 1, ArrowUp: -1 }[event.key];
    if (!by) return;
    event.preventDefault();
    const links = [...(frame.current?.querySelectorAll('a') ?? [])];
    const at = links.indexOf(document.activeElement as HTMLAnchorElement);
    if (at + by < 0) field.current?.focus();
    else links[Math.min(links.length - 1, at + by)]?.focus();
  };
  const named = peopleLike(people.data ?? [], text).slice(0, MOST_PEOPLE);
  // People stand above: what is found waits for them, so that nothing moves under the pointer.
  const found = (text.trim() && !people.isPending ? (answer.data?.found ?? []) : []).filter(({ id }) =>
    named.every((person) => person.id !== id),
  );
  const others = settingsLike(text).length + named.length;
  return (
    <div role="search" className="flex h-full flex-col overflow-y-auto" onKeyDown={onKeyDown}>
      <div className="mx-auto w-full max-w-[860px] px-6 pt-6 pb-16 max-md:px-4">
        <h1 className="sr-only">Find</h1>
        <label htmlFor="find" className="font-head text-lg font-semibold tracking-tight">
          Find
        </label>
        <input
          id="find"
          ref={field}
          type="search"
          value={text}
          autoComplete="off"
          spellCheck={false}
          aria-describedby="find-marks"
          placeholder={'gauge "section C" @Ines >Permits #call +file since 1 July'}
          className="mt-2 w-full border-b border-ink bg-transparent py-1 text-md"
          onChange={(event) => write(event.target.value)}
        />
        <div role="group" aria-label="Only these kinds" className="mt-3 flex flex-wrap gap-1">
          {[...FIND_KINDS, 'file' as const].map((kind) => {
            const on = kind === 'file' ? read.file : read.kinds.includes(kind);
            return (
              <button
                key={kind}
                type="button"
                aria-pressed={on}
                className={`${chip} ${on ? 'border-teal bg-teal text-on-teal' : 'border-soft hover:border-ink'}`}
                onClick={() => turn(`+${kind}`, on)}
              >
                {kind === 'file' ? 'has a file' : kind}
              </button>
            );
          })}
          <select
            aria-label="Only of this list"
            className="border border-soft bg-card px-1 text-xs"
            value={
              lists.data?.find((one) => read.lists.some((name) => one.name.toLowerCase().startsWith(name.toLowerCase())))?.name ??
              ''
            }
            onChange={(event) => {
              const rest = text.replace(/(?<![^\s])>(?:"[^"]*"|\S+)/g, '').trim();
              const name = event.target.value;
              write(name ? `${rest} >${name.includes(' ') ? `"${name}"` : name}`.trim() : rest);
            }}
          >
            <option value="">any list</option>
            {lists.data?.map((one) => (
              <option key={one.id}>{one.name}</option>
            ))}
          </select>
        </div>
        <p id="find-marks" className="mt-2 text-xs text-soft">
          {read.since || read.until
            ? `${read.since ? `from ${sayDay(read.since, today)}` : ''} ${read.until ? `until ${sayDay(read.until, today)}` : ''}`
            : '@ a sender, > a list, # a tag, + a kind, “quotes” for a phrase, since and until with a date'}
        </p>
        <p role="status" className="mt-4 text-xs text-soft">
          {text.trim() && answer.data && !people.isPending
            ? found.length + others
              ? `${found.length + others}${answer.data.more ? ' shown, there are more: add a word' : ' found'}`
              : 'Nothing is like this. Take a word or a mark away.'
            : ''}
        </p>
        {answer.error && <Failed problem={answer.error} retry={() => void answer.refetch()} />}
        <ul ref={frame} aria-label="Found" className="mt-1">
          {named.map(({ id, name, address, organisation }) => (
            <li key={id} className="border-t border-rule">
              <Link
                to={`/find?q=${encodeURIComponent(text)}&person=${id}`}
                className="flex gap-3 py-2 hover:bg-card focus-visible:bg-card"
              >
                <UserRound size={15} className="mt-[3px] shrink-0 text-soft" aria-hidden="true" />
                <b className="font-semibold">{name}</b>
                <span className="min-w-0 truncate text-soft">{address}</span>
                <span className="ml-auto shrink-0 text-xs text-soft">{organisation || 'person'}</span>
              </Link>
            </li>
          ))}
          {settingsLike(text).map(({ id, name, part }) => (
            <li key={id} className="border-t border-rule">
              <Link to={`/settings#${id}`} className="flex gap-3 py-2 hover:bg-card focus-visible:bg-card">
                <SlidersHorizontal size={15} className="mt-[3px] shrink-0 text-soft" aria-hidden="true" />
                <b className="font-semibold">{name}</b>
                <span className="ml-auto text-xs text-soft">Settings, {part.toLowerCase()}</span>
              </Link>
            </li>
          ))}
          {found.map((one) => (
            <Hit key={one.id} found={one} today={today} query={text} />
          ))}
        </ul>
      </div>
    </div>
  );
}

function Hit({ found, today, query }: { found: Found; today: string; query: string }): ReactNode {
  const giveTime = useGiveTime();
  const Icon = ICONS[found.kind] ?? Mail;
  const day = found.day ?? found.at.slice(0, 10);
  const { thing, id } = found.of ?? found;
  const to = {
    incoming: `/sort/${id}`,
    task: `/lists?task=${id}`,
    event: `/plan/${day}?event=${id}`,
    note: `/notes/${id}`,
    file: '/find',
    person: `/find?q=${encodeURIComponent(query)}&person=${id}`,
    log: `/look-back/log/${day}`,
  }[thing];
  const who = found.of ? `with “${found.of.title}”` : found.who;
  return (
    <li className="flex items-start border-t border-rule">
      <Link to={to} className="flex min-w-0 flex-1 gap-3 py-2 hover:bg-card focus-visible:bg-card">
        <Icon size={15} className="mt-[3px] shrink-0 text-soft" aria-hidden="true" />
        <span className="min-w-0 flex-1">
          <span className="flex items-baseline gap-3">
            <b className="truncate font-semibold">
              <Marked pieces={found.title} />
            </b>
            <span className="ml-auto shrink-0 text-xs text-soft">
              {found.list ? `${found.list} · ` : ''}
              {found.waiting ? 'to decide · ' : ''}
              {sayDay(day, today)}
            </span>
          </span>
          <span className="block truncate text-xs text-soft">
            {who ? `${who}${found.snippet.join('').trim() ? ': ' : ''}` : ''}
            <Marked pieces={found.snippet} />
          </span>
        </span>
      </Link>
      {thing === 'task' && !found.of && (
        <button
          type="button"
          className="mt-2 ml-3 shrink-0 text-xs text-teal underline underline-offset-2"
          aria-label={`Give it time: “${found.title.join('')}”`}
          onClick={() => giveTime(id)}
        >
          give it time
        </button>
      )}
    </li>
  );
}

const Marked = ({ pieces }: { pieces: string[] }): ReactNode =>
  pieces.map((piece, at) =>
    at % 2 ? (
      <mark key={at} className="border-b-2 border-plum bg-plum-wash text-ink">
        {piece}
      </mark>
    ) : (
      piece
    ),
  );
