import { dayOf, parseLine, sayDay, sayOutcome, sayParts, sayTime } from '@corvun/core';
import { Settings } from 'lucide-react';
import { useEffect, useState, type FormEvent, type ReactNode } from 'react';
import { forget, keep, read, refresh, sendKept, type Kept } from './desk';
import { hear, hold, notAllowed, tellLets } from './hold';
import type { Today } from './link';
import { NowPart, type Held } from './NowPart';
import { pageInFront } from './page';
import { heldAt, type KnownQuiet } from './quiet';
import { TodayPart } from './TodayPart';

const LOCAL_ZONE = Intl.DateTimeFormat().resolvedOptions().timeZone;

/** The small window: the capture line with the page filled in, today, and what is open. */
export function Popup(): ReactNode {
  const [text, setText] = useState('');
  const [note, setNote] = useState('');
  const [url, setUrl] = useState('');
  const [withUrl, setWithUrl] = useState(true);
  const [today, setToday] = useState<Today | null>(null);
  const [away, setAway] = useState(false);
  const [linked, setLinked] = useState<boolean | null>(null);
  const [kept, setKept] = useState<Kept[]>([]);
  const [problem, setProblem] = useState('');
  const [said, setSaid] = useState('');
  const [now] = useState(() => Date.now());
  const [quiet, setQuiet] = useState<KnownQuiet | null>(null);
  const [held, setHeld] = useState<Held>({ sites: [], missing: [] });
  const [finished, setFinished] = useState<ReadonlySet<string>>(new Set());

  const look = async () => {
    const fresh = await refresh();
    setToday(fresh.today);
    setAway(fresh.away);
    const store = await read();
    setProblem(fresh.problem || store.problem);
    setKept(store.kept);
    setQuiet(store.quiet);
    const sites = heldAt(store.quiet, store.lets, Date.now());
    setHeld({ sites, missing: await notAllowed(sites) });
  };
  useEffect(() => {
    void (async () => {
      const store = await read();
      setLinked(store.link.token !== '');
      setToday(store.today);
      setKept(store.kept);
      const page = await pageInFront();
      setText((typed) => typed || page.title);
      setNote((typed) => typed || page.selection);
      setUrl(page.url);
      await sendKept();
      await tellLets();
      await hear();
      await hold();
      await look();
    })();
  }, []);

  const zone = today?.me.zone ?? LOCAL_ZONE;
  const draft = text.trim() ? parseLine(text, { now, zone, lists: today?.lists ?? [] }) : null;
  const outcome = draft && sayOutcome(draft);
  const submit = async (event: FormEvent) => {
    event.preventDefault();
    if (!draft?.title) return;
    const input = {
      text,
      at: new Date().toISOString(),
      ...(note.trim() ? { note: note.trim() } : {}),
      ...(withUrl && url ? { url } : {}),
    };
    const { sentence } = await keep({ id: crypto.randomUUID(), what: 'capture', input });
    setSaid(sentence);
    setText('');
    setNote('');
    await look();
  };
  const finish = async (taskId: string, title: string) => {
    setFinished((before) => new Set(before).add(taskId));
    setSaid((await keep({ id: crypto.randomUUID(), what: 'finish', taskId, title })).sentence);
    await look();
  };

  if (linked === false) return <NotLinked />;
  return (
    <main className="w-[400px] p-4">
      <div className="flex items-baseline justify-between">
        <h1 className="font-head text-md font-semibold">Keep this page</h1>
        <button
          type="button"
          className="text-soft hover:text-ink"
          aria-label="Options"
          title="Options"
          onClick={() => void chrome.runtime.openOptionsPage()}
        >
          <Settings size={15} aria-hidden="true" />
        </button>
      </div>
      <form onSubmit={(event) => void submit(event)} className="mt-2">
        <label htmlFor="line" className="text-xs text-soft">
          Capture line
        </label>
        <input
          id="line"
          value={text}
          maxLength={2000}
          autoFocus
          autoComplete="off"
          aria-describedby="line-read"
          className="w-full border-b border-soft bg-transparent py-1"
          onChange={(event) => setText(event.target.value)}
          onFocus={(event) => event.target.select()}
        />
        <p id="line-read" className="mt-1 min-h-[16px] text-xs text-soft">
          {draft &&
            sayParts(text, draft, dayOf(now, zone)).map(([name, value], at) => (
              <span key={at} className="mr-3">
                {name} <b className="font-semibold text-ink">{value}</b>
              </span>
            ))}
          {outcome &&
            (outcome.title
              ? `${outcome.before} it ${outcome.after}`.replace('makes the task it', 'makes a task')
              : outcome.before)}
        </p>
        <label htmlFor="note" className="mt-2 block text-xs text-soft">
          Note
        </label>
        <textarea
          id="note"
          value={note}
          rows={note ? 3 : 1}
          className="w-full resize-none border border-rule bg-card px-2 py-1"
          onChange={(event) => setNote(event.target.value)}
        />
        <div className="mt-2 flex items-center gap-3">
          {url && (
            <label className="flex min-w-0 flex-1 items-center gap-2 text-xs text-soft">
              <input
                type="checkbox"
                className="accent-teal"
                checked={withUrl}
                onChange={(event) => setWithUrl(event.target.checked)}
              />
              <span className="truncate">with its address, {new URL(url).host}</span>
            </label>
          )}
          <button
            type="submit"
            disabled={!draft?.title}
            className="ml-auto bg-teal px-4 py-1 font-semibold text-on-teal disabled:opacity-50"
          >
            Keep
          </button>
        </div>
      </form>
      <p role="status" className="mt-2 text-teal empty:hidden">
        {said}
      </p>
      {(away || kept.length > 0 || problem) && (
        <section aria-label="Kept here" className="mt-2 border border-amber bg-amber-wash p-2 text-xs">
          <p>
            {problem || (away ? 'The server does not answer.' : '')}
            {kept.length > 0 && ` ${kept.length} kept here${away ? ', sent when it is back' : ''}.`}
            {away &&
              today &&
              ` What you see is from ${sayDay(dayOf(today.at, zone), dayOf(now, zone))}, ${sayTime(today.at, zone)}.`}
          </p>
          <ul>
            {kept.map((one) => (
              <li key={one.id} className="mt-1 flex justify-between gap-2">
                <span className="truncate">{one.what === 'capture' ? one.input.text : `Tick off: ${one.title}`}</span>
                <button type="button" className="underline" onClick={() => void forget(one.id).then(look)}>
                  Take away
                </button>
              </li>
            ))}
          </ul>
        </section>
      )}
      {today && <NowPart today={today} now={now} quiet={quiet} held={held} />}
      {today && (
        <TodayPart today={today} ahead={quiet?.ahead ?? 0} finished={finished} finish={(id, title) => void finish(id, title)} />
      )}
    </main>
  );
}

function NotLinked(): ReactNode {
  return (
    <main className="w-[400px] p-4">
      <h1 className="font-head text-md font-semibold">Say where Corvun is</h1>
      <p className="mt-1 text-soft">The extension needs the address of your Corvun and a token from it, once.</p>
      <button
        type="button"
        autoFocus
        className="mt-3 bg-teal px-4 py-1 font-semibold text-on-teal"
        onClick={() => void chrome.runtime.openOptionsPage()}
      >
        Open the options
      </button>
    </main>
  );
}
