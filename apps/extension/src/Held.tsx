import { sayMinutes, sayTime } from '@corvun/core';
import { useEffect, useState, type ReactNode } from 'react';
import { read } from './desk';
import { hear, hold, letThrough } from './hold';
import { asciiOf, heldAt, hostOf, looksOf, runsAt, siteOf, type KnownQuiet, type Let } from './quiet';

/** What was heard so long ago may have changed. */
const OLD = 90_000;

/** Where one wanted to go; empty where the page was opened by itself. */
const wanted = () => {
  const address = location.hash.slice(1);
  return hostOf(address) ? address : '';
};

/** What is shown instead of a site that is held back: until when, what one wanted to do, and five minutes all the same. */
export function Held(): ReactNode {
  const [address] = useState(wanted);
  const [known, setKnown] = useState<{ quiet: KnownQuiet | null; lets: Let[]; server: string } | null>(null);
  const [now, setNow] = useState(() => Date.now());
  useEffect(() => {
    const look = () => {
      setNow(Date.now());
      void read().then(({ quiet, lets, link }) => setKnown({ quiet, lets, server: link.server }));
    };
    look();
    // What was given up meanwhile holds nothing back any more.
    void hear().then(hold);
    const every = setInterval(look, 1000);
    chrome.storage.onChanged.addListener(look);
    return () => {
      clearInterval(every);
      chrome.storage.onChanged.removeListener(look);
    };
  }, []);
  if (!known) return null;
  const { quiet, lets } = known;
  const held = heldAt(quiet, lets, now);
  const site = siteOf(address, held);
  const host = hostOf(address);
  const on = () => {
    // What is gone back to is as it was left.
    if (location.search === '?back' && history.length > 1) history.back();
    else location.replace(address);
  };
  const clock = (at: number) => sayTime(at + (quiet?.ahead ?? 0), quiet?.zone ?? 'UTC');
  const runs = runsAt(quiet, now);
  const looks = looksOf(quiet, lets);
  return (
    <main className="mx-auto flex min-h-screen max-w-[560px] flex-col justify-center px-6 py-16">
      {site && runs ? (
        <>
          <title>{`Quiet until ${clock(runs.end)}`}</title>
          <p className="text-soft">{asciiOf(site)} is held back</p>
          <h1 className="mt-1 font-head text-lg font-bold tracking-tight">Quiet until {clock(runs.end)}</h1>
          <p className="mt-6 border-l-2 border-plum pl-3">
            {runs.title ? (
              <>
                <span className="block text-soft">What you wanted to do</span>
                <b className="font-head text-md font-semibold break-words">{runs.title}</b>
              </>
            ) : (
              'You kept this time free.'
            )}
            <span className="block text-soft">{sayMinutes(Math.max(1, Math.ceil((runs.end - now) / 60_000)))} left</span>
          </p>
          <p className="mt-8 flex flex-wrap gap-3">
            {history.length > 1 && (
              <button
                type="button"
                autoFocus
                className="bg-teal px-4 py-1 font-semibold text-on-teal"
                onClick={() => (location.search === '?back' ? history.go(-2) : history.back())}
              >
                Back
              </button>
            )}
            <button
              type="button"
              className="border border-soft px-4 py-1 hover:border-ink"
              onClick={() => void letThrough(site).then(on)}
            >
              5 minutes of {host}
            </button>
          </p>
          <p className="mt-3 text-xs text-soft">
            <a
              className="mb-2 inline-flex min-h-6 items-center underline underline-offset-2 hover:text-teal"
              href={`${known.server}/now`}
            >
              What runs now, in Corvun
            </a>
            <br />
            {looks.times
              ? `Today you looked ${looks.times === 1 ? 'once' : `${looks.times} times`} at what is held back, ${sayMinutes(Math.round(looks.long / 60_000))} in all.`
              : 'The five minutes are counted; you have taken none today.'}
            {quiet && now - quiet.heard > OLD && ` Corvun does not answer: this is what it said at ${clock(quiet.heard)}.`}
          </p>
        </>
      ) : (
        <>
          <h1 className="font-head text-lg font-bold tracking-tight">{host ? 'Nothing holds it back' : 'Nothing to see here'}</h1>
          {host && (
            <>
              <p role="status" className="mt-2 text-soft">
                {host} can be looked at{quiet && runs ? ' for a few minutes' : ' again'}.
              </p>
              <p className="mt-6">
                <button type="button" className="bg-teal px-4 py-1 font-semibold text-on-teal" onClick={on}>
                  Go on to {host}
                </button>
              </p>
            </>
          )}
        </>
      )}
    </main>
  );
}
