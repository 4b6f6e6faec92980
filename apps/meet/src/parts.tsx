import type { TimeStretch } from '@corvun/contract';
import type { ReactNode } from 'react';
import { byDay, cityOf, timeOf, zonesFor } from './times';

/** How many days are shown at once; the others come with a click. */
export const DAYS = 10;

/** The frame of every page: who offers, what it is for, and below what can be done. */
export function Sheet({ host, title, children }: { host: string; title: string; children: ReactNode }): ReactNode {
  return (
    <main className="mx-auto max-w-[680px] px-5 pt-8 pb-16 max-md:px-4 max-md:pt-5">
      <p className="border-b border-ink pb-2 text-soft">{host}</p>
      <h1 className="mt-5 font-head text-lg font-semibold tracking-tight break-words">{title}</h1>
      {children}
    </main>
  );
}

/** In whose clock the times are. */
export function Zone({
  zone,
  theirs,
  host,
  set,
}: {
  zone: string;
  theirs: string;
  host: string;
  set: (zone: string) => void;
}): ReactNode {
  return (
    <p className="mt-4 flex flex-wrap items-baseline gap-x-2 gap-y-1 text-xs text-soft">
      <label htmlFor="zone">Times are those of</label>
      <select
        id="zone"
        className="max-w-[200px] border border-soft bg-card px-1 py-[2px] text-ink"
        value={zone}
        onChange={(event) => set(event.target.value)}
      >
        {zonesFor(theirs).map((one) => (
          <option key={one} value={one}>
            {cityOf(one)} ({one})
          </option>
        ))}
      </select>
      {zone !== theirs && (
        <span>
          {host} is in {cityOf(theirs)}.
        </span>
      )}
    </p>
  );
}

interface TimesProps {
  slots: readonly TimeStretch[];
  zone: string;
  choose: (start: string) => void;
  shown: number;
  more: () => void;
}

/** Free times, a line a day. */
export function Times({ slots, zone, choose, shown, more }: TimesProps): ReactNode {
  const days = byDay(slots, zone);
  return (
    <>
      <ul aria-label="Free times" className="mt-4 border-t border-rule">
        {days.slice(0, shown).map(([day, all]) => (
          <li key={day} className="grid grid-cols-[92px_1fr] border-b border-rule py-2">
            <span className="pt-1 font-head font-semibold">{day}</span>
            <div className="flex flex-wrap gap-2">
              {all.map(({ start }) => (
                <button
                  key={start}
                  type="button"
                  aria-label={`${day}, ${timeOf(start, zone)}`}
                  className="rounded-sm border border-soft bg-card px-2 py-1 tabular-nums hover:border-teal hover:bg-teal-wash"
                  onClick={() => choose(start)}
                >
                  {timeOf(start, zone)}
                </button>
              ))}
            </div>
          </li>
        ))}
      </ul>
      {days.length > shown && (
        <button type="button" className={`mt-3 ${other}`} onClick={more}>
          Later days
        </button>
      )}
    </>
  );
}

/** The time that was chosen, and the way back to the others. */
export function Chosen({ when, back }: { when: string; back: () => void }): ReactNode {
  return (
    <p className="mt-6 flex flex-wrap items-baseline gap-x-4 gap-y-1 border-t border-ink pt-4">
      <b ref={(text) => text?.focus()} tabIndex={-1} className="font-head text-md font-semibold">
        {when}
      </b>
      <button type="button" className="min-h-6 underline underline-offset-2 hover:text-teal" onClick={back}>
        Another time
      </button>
    </p>
  );
}

export const primary = 'rounded-sm bg-teal px-4 py-2 font-semibold text-on-teal disabled:opacity-50';
export const other = 'rounded-sm border border-ink px-3 py-1 hover:bg-card disabled:opacity-50';

/** A sentence on what is not right. */
export const Wrong = ({ children }: { children: ReactNode }): ReactNode => (
  <p role="alert" className="mt-3 border-l-2 border-brick bg-card px-3 py-2 text-brick">
    {children}
  </p>
);
