import type { LedgerInfo } from '@corvun/contract';
import { offBy, sayMinutes } from '@corvun/core';
import type { ReactNode } from 'react';
import { Link } from 'react-router';

const share = (part: number, whole: number) => `${Math.round((part / whole) * 100)} %`;
/** From here on, and with so many tasks, one is off enough that it is said. */
const OFF = 0.2;
const LEAST_DONE = 5;

/** What of the working time was others', free and quiet, and where estimates are off. */
export function Figures({ ledger: { by, rows, total } }: { ledger: LedgerInfo }): ReactNode {
  const figures: [figure: string, says: string][] = [
    ...(total.working
      ? [
          [
            share(total.met, total.working),
            `of ${sayMinutes(total.working)} working time with others: ${sayMinutes(total.met)} of meetings in it`,
          ] satisfies [string, string],
          [sayMinutes(total.free), 'of it free'] satisfies [string, string],
        ]
      : []),
    ...(total.unscheduled
      ? [[sayMinutes(total.unscheduled), 'spent where no time was set aside'] satisfies [string, string]]
      : []),
    ...(total.quiet
      ? [[share(total.quietKept, total.quiet), `of ${sayMinutes(total.quiet)} quiet time kept`] satisfies [string, string]]
      : []),
  ];
  const off = by === 'list' ? rows.filter((row) => row.key && row.done >= LEAST_DONE && Math.abs(offBy(row) ?? 0) >= OFF) : [];
  if (!figures.length) return null;
  return (
    <section aria-label="Figures" className="border-b border-rule px-[26px] py-3 max-md:px-3">
      <dl className="flex flex-wrap gap-x-10 gap-y-2">
        {figures.map(([figure, says]) => (
          <div key={says} className="flex flex-row-reverse items-baseline gap-2">
            <dt className="text-soft">{says}</dt>
            <dd className="font-head text-md font-semibold">{figure}</dd>
          </div>
        ))}
      </dl>
      {off.map((row) => {
        const percent = Math.round((offBy(row) ?? 0) * 100);
        return (
          <p key={row.key} className="mt-2">
            <Link to={`/lists/${row.key}`} className="font-semibold underline-offset-2 hover:underline">
              {row.name}
            </Link>{' '}
            takes {Math.abs(percent)} % {percent > 0 ? 'longer' : 'less'} than planned:{' '}
            {percent > 0 ? row.longer : row.done - row.longer} of {row.done} done.{' '}
            <span className="text-soft">A better figure is offered on its tasks.</span>
          </p>
        );
      })}
    </section>
  );
}
