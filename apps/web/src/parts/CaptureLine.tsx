import type { Me } from '@corvun/contract';
import { dayOf, sayDay, sayOutcome, sayParts, type Draft } from '@corvun/core';
import { useState, type KeyboardEvent, type ReactNode } from 'react';
import { capture } from '../data/actions';
import { useShortlist } from '../data/passes';
import { useLists } from '../data/queries';
import { addList } from '../data/thingActions';
import { Key } from './signs';
import { useReading } from './reading';
import { serverNow } from './useNow';

const KEPT = 'corvun-capture-line';
/** The line that is always there. What is being typed is kept, should the page go away. */
export function CaptureLine({ me }: { me: Me }): ReactNode {
  const [text, setText] = useState(() => window.sessionStorage.getItem(KEPT) ?? '');
  const [focused, setFocused] = useState(false);
  const [busy, setBusy] = useState(false);
  const lists = useLists();
  const { parseLine } = useReading();
  const draft = text.trim()
    ? parseLine(text, { now: serverNow(), zone: me.zone, lists: (lists.data ?? []).map((list) => list.name) })
    : null;
  const write = (value: string) => {
    setText(value);
    window.sessionStorage.setItem(KEPT, value);
  };
  const { quietUntil } = useShortlist();
  const send = async (asSaid: boolean) => {
    if (!text.trim() || busy) return;
    setBusy(true);
    // In a quiet time it only goes to the inbox, unless it is wanted otherwise.
    const done = await capture(text, quietUntil !== null && asSaid);
    setBusy(false);
    if (done) write('');
  };
  const missing = draft ? missingList(draft) : '';
  const make = () => void addList(missing);
  const onKeyDown = (event: KeyboardEvent<HTMLInputElement>) => {
    if (event.key === 'Enter' && event.shiftKey && missing) make();
    else if (event.key === 'Enter') void send(event.ctrlKey || event.metaKey);
    if (event.key === 'Escape') event.currentTarget.blur();
  };
  return (
    <div className="relative mx-4 flex min-w-0 flex-1 items-center border-b border-soft max-md:mx-2" style={{ marginBlock: 9 }}>
      <label htmlFor="capture-line" className="sr-only">
        Capture line
      </label>
      <input
        id="capture-line"
        value={text}
        maxLength={2000}
        autoComplete="off"
        spellCheck={false}
        aria-describedby="capture-read"
        placeholder="Note down anything: Gauge keys to county tomorrow 9:30 for 20 min"
        className="min-w-0 flex-1 bg-transparent px-1 py-1 text-ellipsis outline-none focus-visible:outline-none"
        onChange={(event) => write(event.target.value)}
        onKeyDown={onKeyDown}
        onFocus={() => setFocused(true)}
        onBlur={() => setFocused(false)}
      />
      {focused ? <span className="absolute inset-x-0 -bottom-px h-[2px] bg-teal" /> : <Key>C</Key>}
      <div
        id="capture-read"
        className={
          focused && draft
            ? 'absolute inset-x-0 top-full z-40 mt-1 border border-ink bg-card p-3 shadow-lg max-md:fixed max-md:inset-x-2 max-md:top-[52px]'
            : 'sr-only'
        }
      >
        {draft && (
          <Preview
            text={text}
            draft={draft}
            today={dayOf(serverNow(), me.zone)}
            missing={missing}
            make={make}
            quietUntil={quietUntil}
          />
        )}
      </div>
    </div>
  );
}

interface PreviewProps {
  text: string;
  draft: Draft;
  today: string;
  /** The list that is named and not there; empty where there is none. */
  missing: string;
  make: () => void;
  quietUntil: string | null;
}

/** The list a line names that is not there. */
const missingList = ({ list, problems }: Draft): string =>
  list === null
    ? (problems
        .find((one) => one.text.startsWith('>'))
        ?.text.slice(1)
        .replaceAll('"', '')
        .trim() ?? '')
    : '';

function Preview({ text, draft, today, missing, make, quietUntil }: PreviewProps): ReactNode {
  const pieces: ReactNode[] = [];
  let at = 0;
  for (const span of draft.spans) {
    pieces.push(text.slice(at, span.start));
    pieces.push(
      <span key={span.start} className="mx-[1px] border-b-2 border-plum bg-plum-wash px-[2px]" data-field={span.field}>
        {text.slice(span.start, span.end)}
      </span>,
    );
    at = Math.max(at, span.end);
  }
  pieces.push(text.slice(at));
  const understood = sayParts(text, draft, today);
  const outcome = sayOutcome(draft);
  return (
    <>
      <p className="break-words">{pieces}</p>
      <div className="mt-2 flex flex-wrap items-center gap-x-4 gap-y-1 text-xs text-soft">
        {understood.map(([name, value], index) => (
          <span key={index}>
            {name} <b className="font-semibold text-ink">{value}</b>
          </span>
        ))}
      </div>
      {draft.problems.map((problem) => (
        <p key={problem.start} className="mt-1 text-xs text-amber">
          {problem.message}
        </p>
      ))}
      {missing && (
        <button
          type="button"
          tabIndex={-1}
          className="mt-1 min-h-6 text-xs underline underline-offset-2"
          // The line keeps the focus, and with it what is read of it.
          onMouseDown={(event) => event.preventDefault()}
          onClick={make}
        >
          Make the list “{missing}” <Key>Shift Enter</Key>
        </button>
      )}
      <p className="mt-2 border-t border-rule pt-2">
        {quietUntil === null ? (
          <Key always>Enter</Key>
        ) : (
          <>
            <Key always>Enter</Key> keeps it in the inbox: it is quiet until {sayDay(quietUntil, today)}.{' '}
            <Key always>Ctrl Enter</Key>
          </>
        )}{' '}
        {outcome.before} {outcome.title && <b className="font-semibold">“{outcome.title}”</b>} {outcome.after}
      </p>
    </>
  );
}
