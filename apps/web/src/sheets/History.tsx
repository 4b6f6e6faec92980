import type { HistoryLine } from '@corvun/contract';
import { dayOf, sayDay, sayTime } from '@corvun/core';
import { useState, type ReactNode } from 'react';

/** Lines that are shown until the rest is asked for. */
const SHOWN = 6;

/** What happened to a thing, in order, in small type. */
export function History({ lines, today, zone }: { lines: readonly HistoryLine[]; today: string; zone: string }): ReactNode {
  const [whole, setWhole] = useState(false);
  if (!lines.length) return null;
  const shown = whole ? lines : lines.slice(-SHOWN);
  return (
    <section aria-labelledby="history-head" className="mt-4 border-t border-rule pt-3 text-xs text-soft">
      <h3 id="history-head" className="font-semibold">
        What happened
      </h3>
      {shown.length < lines.length && (
        <button type="button" className="underline underline-offset-2 hover:text-ink" onClick={() => setWhole(true)}>
          {lines.length - shown.length} earlier
        </button>
      )}
      <ol>
        {shown.map(({ at, by, what }, index) => (
          <li key={`${at}-${index}`} className="flex gap-2 py-[1px]">
            <time dateTime={at} className="w-[116px] shrink-0 whitespace-nowrap">
              {sayDay(dayOf(Date.parse(at), zone), today)}, {sayTime(Date.parse(at), zone)}
            </time>
            <span className="min-w-0 break-words">
              {what}
              {by !== 'you' && ` (${by})`}
            </span>
          </li>
        ))}
      </ol>
    </section>
  );
}
