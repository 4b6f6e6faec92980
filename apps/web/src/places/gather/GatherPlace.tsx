import { count } from '@corvun/core';
import { useEffect, useState, type FormEvent, type ReactNode } from 'react';
import { useNavigate } from 'react-router';
import { gather } from '../../data/actions';
import { useSelection } from '../sort/selection';

const LENGTH = 5 * 60_000;
const KEPT = 'corvun-gather';

interface Gathering {
  since: number;
  thoughts: { key: string; text: string }[];
  text: string;
}

const fresh = (): Gathering => ({ since: Date.now(), thoughts: [], text: '' });

/** What was begun here survives a reload; what ended long ago does not come back. */
function kept(): Gathering {
  try {
    const found = JSON.parse(window.sessionStorage.getItem(KEPT) ?? 'null') as Gathering | null;
    return found && Date.now() - found.since < 3 * LENGTH ? found : fresh();
  } catch {
    return fresh();
  }
}

/** Five minutes of typing thoughts, one line each, into the inbox; deciding comes after. */
export function GatherPlace(): ReactNode {
  const navigate = useNavigate();
  const setOnly = useSelection((state) => state.setOnly);
  const [{ since, thoughts, text }, setGathering] = useState(kept);
  const [now, setNow] = useState(() => Date.now());
  const left = Math.max(0, since + LENGTH - now);
  const over = left === 0;
  useEffect(() => {
    if (over) return undefined;
    const timer = window.setInterval(() => setNow(Date.now()), 1000);
    return () => window.clearInterval(timer);
  }, [over]);
  useEffect(() => window.sessionStorage.setItem(KEPT, JSON.stringify({ since, thoughts, text })), [since, thoughts, text]);
  const sort = () => {
    window.sessionStorage.removeItem(KEPT);
    setOnly('typed');
    void navigate('/sort');
  };
  const submit = async (event: FormEvent) => {
    event.preventDefault();
    const line = text.trim();
    if (!line) return over && thoughts.length ? sort() : undefined;
    setGathering((one) => ({ ...one, text: '' }));
    const made = await gather(line);
    // What was refused comes back into the line, unless something else is being typed there.
    setGathering((one) =>
      made ? { ...one, thoughts: [{ key: made.id, text: line }, ...one.thoughts] } : { ...one, text: one.text || line },
    );
    return undefined;
  };
  const minutes = Math.ceil(left / 60_000);
  return (
    <section aria-label="Gather" className="mx-auto flex h-full max-w-[640px] flex-col px-6 pt-12">
      <h1 className="font-head text-lg font-semibold">What is on your mind?</h1>
      <p className="mt-1 text-soft">One thought a line. Do not sort now: each goes into the inbox, and you decide after.</p>
      <form className="mt-6" onSubmit={(event) => void submit(event)}>
        <label htmlFor="gather-line" className="sr-only">
          A thought
        </label>
        <input
          id="gather-line"
          className="w-full border-b border-ink bg-transparent py-2 font-head text-md"
          value={text}
          autoFocus
          autoComplete="off"
          maxLength={2000}
          onChange={(event) => setGathering((one) => ({ ...one, text: event.target.value }))}
        />
        <div className="h-[3px] bg-rule" aria-hidden="true">
          <div className={`h-full ${over ? 'bg-amber' : 'bg-teal'}`} style={{ width: `${((LENGTH - left) / LENGTH) * 100}%` }} />
        </div>
        <div className="mt-3 flex items-center gap-3">
          <p role="status" className="flex-1 text-xs text-soft">
            {over
              ? 'Five minutes are over. Go on as long as you like.'
              : minutes === 5
                ? 'Five minutes'
                : `${count(minutes, 'minute')} left`}
            {' · '}
            {count(thoughts.length, 'thought')}
          </p>
          <button
            type="button"
            className={thoughts.length ? 'bg-teal px-3 py-1 font-semibold text-on-teal' : 'border border-ink px-3 py-1'}
            onClick={sort}
          >
            {thoughts.length ? 'Sort them now' : 'Back to Sort'}
          </button>
        </div>
      </form>
      <ol aria-label="Gathered" className="mt-4 min-h-0 flex-1 overflow-y-auto pb-6">
        {thoughts.map((thought) => (
          <li key={thought.key} className="border-t border-rule py-1 break-words first:border-t-0">
            {thought.text}
          </li>
        ))}
      </ol>
    </section>
  );
}
