import type { LogEntryInfo, Me } from '@corvun/contract';
import { addDays, count, readLogLine, sayDay, wallOf, weekOf } from '@corvun/core';
import { useRef, useState, type FormEvent, type KeyboardEvent, type ReactNode } from 'react';
import { Link, useNavigate, useSearchParams } from 'react-router';
import { addLine, markdownAt, useLog, useLogFound } from '../../data/lookback';
import { useCalendars, useAllLists } from '../../data/queries';
import { KEYS, keyName } from '../../keys';
import { Failed, Waiting } from '../../parts/states';
import { useKeys } from '../../parts/useKeys';
import { serverNow } from '../../parts/useNow';
import { useLongDraft } from '../../sheets/drafts';
import { button } from '../sources/common';
import { DaySide } from './DaySide';
import { LogRow } from './LogRow';
import { LookBackHead } from './LookBackHead';

interface DayLogProps {
  me: Me;
  today: string;
  day: string;
}

/** What was done, attended, decided, written and spent on a day, in order; and days that are looked for. */
export function DayLog({ me, today, day }: DayLogProps): ReactNode {
  const navigate = useNavigate();
  const [query, setQuery] = useSearchParams();
  const words = query.get('q') ?? '';
  const looking = words.trim() !== '';
  const go = (to: string) => void navigate(to === today ? '/look-back/log' : `/look-back/log/${to}`);
  useKeys({
    [KEYS.lookBack.search]: () => document.getElementById('log-find')?.focus(),
    [KEYS.lookBack.line]: () => document.getElementById('log-line')?.focus(),
  });
  return (
    <div className="flex h-full flex-col">
      <LookBackHead
        part="log"
        title={looking ? 'Days found' : sayDay(day, today)}
        about={looking ? '' : `week ${Number(weekOf(day).slice(6))}`}
        {...(looking ? {} : { step: (by) => go(addDays(day, by)), present: ['today', () => go(today)] as const })}
      >
        <input
          id="log-find"
          type="search"
          aria-label="Search your days"
          title={keyName(KEYS.lookBack.search)}
          placeholder="Search your days"
          autoComplete="off"
          className="min-h-7 w-[190px] border-b border-soft bg-transparent max-md:w-[150px]"
          value={words}
          onChange={({ target }) => setQuery(target.value ? { q: target.value } : {}, { replace: true })}
          onKeyDown={(event) => {
            if (event.key !== 'Escape') return;
            setQuery({}, { replace: true });
            event.currentTarget.blur();
          }}
        />
        {!looking && (
          <a
            href={markdownAt({ from: day, to: day })}
            download
            className="text-xs text-soft underline underline-offset-2 hover:text-ink"
          >
            out as Markdown
          </a>
        )}
      </LookBackHead>
      <div className="flex min-h-0 flex-1 max-md:flex-col max-md:overflow-y-auto">
        <div className="min-w-0 flex-1 overflow-y-auto px-[26px] pt-3 pb-16 max-md:flex-none max-md:overflow-visible max-md:px-3 max-md:pb-6">
          {looking ? <Found me={me} today={today} words={words.trim()} /> : <One key={day} me={me} today={today} day={day} />}
        </div>
        {!looking && <DaySide key={day} me={me} today={today} day={day} />}
      </div>
    </div>
  );
}

function One({ me, today, day }: DayLogProps): ReactNode {
  const log = useLog(day);
  if (log.error && !log.data) return <Failed problem={log.error} retry={() => void log.refetch()} />;
  if (!log.data) return <Waiting what="Looking what was" />;
  const { entries } = log.data;
  return (
    <>
      <h2 className="sr-only">What was</h2>
      {entries.length ? (
        <Rows me={me} entries={entries} label={`What was on ${sayDay(day, today)}`} />
      ) : (
        <p className="py-3 text-soft">
          {day > today
            ? 'This day is still to come.'
            : day === today
              ? 'Nothing yet: what you attend, finish, decide and write today is told here by itself.'
              : 'Nothing is known of this day.'}
        </p>
      )}
      <NewLine day={day} today={today} zone={me.zone} />
    </>
  );
}

function Rows({ me, entries, label }: { me: Me; entries: readonly LogEntryInfo[]; label: string }): ReactNode {
  const lists = useAllLists().data ?? [];
  const calendars = useCalendars().data ?? [];
  const frame = useRef<HTMLUListElement>(null);
  const walk = (event: KeyboardEvent) => {
    const by = { ArrowDown: 1, ArrowUp: -1 }[event.key];
    if (!by || (event.target as HTMLElement).tagName === 'INPUT') return;
    const links = [...(frame.current?.querySelectorAll<HTMLElement>('[data-row]') ?? [])];
    const next = links[links.indexOf(document.activeElement as HTMLElement) + by];
    if (!next) return;
    event.preventDefault();
    next.focus();
  };
  return (
    <ul ref={frame} aria-label={label} className="border-b border-rule" onKeyDown={walk}>
      {entries.map((entry) => (
        <LogRow key={`${entry.kind} ${entry.id}`} me={me} entry={entry} lists={lists} calendars={calendars} />
      ))}
    </ul>
  );
}

/** A line of one's own. */
function NewLine({ day, today, zone }: { day: string; today: string; zone: string }): ReactNode {
  const [text, write] = useLongDraft(`log-line-${day}`);
  const [missing, setMissing] = useState(false);
  const field = useRef<HTMLTextAreaElement>(null);
  const submit = async (event?: FormEvent) => {
    event?.preventDefault();
    const line = (text ?? '').trim();
    if (!line) {
      setMissing(true);
      return field.current?.focus();
    }
    // “9:30 Fog” says when it was; else it is now, where the day is today.
    const read = readLogLine(line);
    const time = read.time ?? (day === today ? wallOf(serverNow(), zone).slice(11) : undefined);
    if (await addLine({ day, text: read.text, ...(time ? { time } : {}) })) write(null);
    return undefined;
  };
  return (
    <form noValidate className="mt-4 flex items-end gap-3" onSubmit={(event) => void submit(event)}>
      <label htmlFor="log-line" className="min-w-0 flex-1 text-xs text-soft">
        A line of your own
        <textarea
          id="log-line"
          ref={field}
          rows={1}
          maxLength={5000}
          placeholder="9:30 Fog over the reed until ten"
          title={keyName(KEYS.lookBack.line)}
          className="block field-sizing-content max-h-40 min-h-7 w-full resize-none border-b border-soft bg-transparent py-[3px] text-sm text-ink"
          value={text ?? ''}
          aria-invalid={missing}
          aria-describedby="log-line-missing"
          onChange={({ target }) => {
            setMissing(false);
            write(target.value || null);
          }}
          onKeyDown={(event) => {
            if (event.key === 'Escape') event.currentTarget.blur();
            if (event.key !== 'Enter' || event.shiftKey) return;
            event.preventDefault();
            void submit();
          }}
        />
        <span id="log-line-missing" className="text-brick empty:hidden">
          {missing ? 'Write what the line is to say.' : ''}
        </span>
      </label>
      <button type="submit" className={button}>
        Write it down
      </button>
    </form>
  );
}

function Found({ me, today, words }: { me: Me; today: string; words: string }): ReactNode {
  const found = useLogFound(words);
  if (found.error && !found.data) return <Failed problem={found.error} retry={() => void found.refetch()} />;
  if (!found.data) return <Waiting what="Looking through your days" />;
  return (
    <>
      <p role="status" className="text-xs text-soft">
        {found.data.length ? count(found.data.length, 'day') : 'On no day was anything like this. Take a word away.'}
      </p>
      {found.data.map(({ day, entries }) => (
        <section key={day} aria-label={sayDay(day, today)} className="mt-4">
          <h2 className="mb-1 font-head font-semibold">
            <Link to={`/look-back/log/${day}`} className="underline-offset-2 hover:underline">
              {sayDay(day, today)}
            </Link>
          </h2>
          <Rows me={me} entries={entries} label={`Found on ${sayDay(day, today)}`} />
        </section>
      ))}
    </>
  );
}
