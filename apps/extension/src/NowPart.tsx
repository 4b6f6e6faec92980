import { count, runningAt, sayMinutes, sayNext, sayTime, timedOf } from '@corvun/core';
import type { ReactNode } from 'react';
import type { Today } from './link';
import { runsAt, type KnownQuiet } from './quiet';

/** Sites that are held back, and those of them that the browser does not allow to be. */
export interface Held {
  sites: string[];
  missing: string[];
}

interface NowProps {
  today: Today;
  /** By this browser's clock. */
  now: number;
  quiet: KnownQuiet | null;
  held: Held;
}

const PHASES = { work: 'heads-down', short: 'a pause', long: 'a long pause', over: 'the pause is over' } as const;

/** What runs and until when, what comes next, and what is held back. */
export function NowPart({ today, now: here, quiet, held }: NowProps): ReactNode {
  const { zone } = today.me;
  const now = here + (quiet?.ahead ?? 0);
  const running = runningAt(timedOf(today.entries), now);
  // Work lies in quiet time.
  const work = [running.now, ...running.also].find((one) => one?.entry.taskId);
  const runs = running.now?.kind === 'block' && work ? work : running.now;
  const until = (at: number) => `until ${sayTime(at, zone)}, ${sayMinutes(Math.max(1, Math.ceil((at - now) / 60_000)))} left`;
  const { headsDown, timer } = today;
  const ends = headsDown?.until ? Date.parse(headsDown.until) : null;
  const [title, says] = headsDown
    ? [headsDown.title, `${PHASES[headsDown.phase]}${ends && ends > now ? ` ${until(ends)}` : ''}`]
    : runs && (runs.kind === 'event' || !timer)
      ? [runs.entry.title, until(runs.end)]
      : timer
        ? [timer.title, `the timer runs since ${sayTime(Date.parse(timer.since), zone)}`]
        : ['Nothing is planned just now', ''];
  const still = runsAt(quiet, here);
  return (
    <section aria-label="Now" className="mt-4 border-l-2 border-plum pl-2">
      <h2 className="sr-only">Now</h2>
      <p className="truncate font-semibold">{title}</p>
      {says && <p className="text-xs text-soft">{says}</p>}
      <p className="text-xs text-soft">
        {running.next ? `Next: ${sayNext(running.next, now, zone)}` : 'Nothing else is planned today'}
      </p>
      {still && held.sites.length > 0 && (
        <p className="text-xs text-soft">
          <b className="font-semibold text-ink">{count(held.sites.length - held.missing.length, 'site')}</b> held back until{' '}
          {sayTime(still.end + (quiet?.ahead ?? 0), zone)}
        </p>
      )}
      {held.missing.length > 0 && (
        <p className="text-xs text-amber">
          The browser does not allow {held.missing.join(', ')} to be held back.{' '}
          <button type="button" className="min-h-6 underline" onClick={() => void chrome.runtime.openOptionsPage()}>
            Allow it in the options
          </button>
        </p>
      )}
    </section>
  );
}
