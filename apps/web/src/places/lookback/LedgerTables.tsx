import type { LedgerInfo } from '@corvun/contract';
import { MEASURES, offBy, sayMinutes, type LedgerBy, type Measure } from '@corvun/core';
import type { ReactNode } from 'react';
import { useAllLists, useCalendars } from '../../data/queries';
import { Code } from '../../parts/signs';

interface TableProps {
  ledger: LedgerInfo;
  pick: (measure: Measure, at: number) => void;
}

const head = 'border-b border-rule pb-1 pl-2 text-right text-xs font-normal text-soft first:pl-0 first:text-left';
const cell = 'border-b border-rule py-[5px] pl-2 text-right whitespace-nowrap';
const name = 'border-b border-rule py-[5px] text-left font-normal';
const sum = 'border-t border-ink py-[6px] pl-2 text-right font-semibold whitespace-nowrap first:pl-0 first:text-left';

/** What is told of each row: nothing that is promised is on a list, has a tag or is billed. */
export const measuresBy = (by: LedgerBy): readonly Measure[] =>
  by === 'kind' || by === 'calendar' || by === 'person' ? MEASURES : ['planned', 'spent'];

/** A figure that says what it is made of. */
const Figure = ({ at, minutes, says, pick }: { at: string; minutes: number; says: string; pick: () => void }): ReactNode =>
  minutes ? (
    <button
      type="button"
      data-figure={at}
      className="min-h-6 underline-offset-2 hover:text-teal hover:underline"
      aria-label={`${sayMinutes(minutes)} ${says}: what it is made of`}
      onClick={pick}
    >
      {sayMinutes(minutes)}
    </button>
  ) : (
    <span className="text-soft">–</span>
  );

/** The first line of a table: what its rows are, and its columns. */
const Heads = ({ rows, columns, off = false }: { rows: string; columns: readonly string[]; off?: boolean }): ReactNode => (
  <thead>
    <tr>
      <th scope="col" className={head}>
        {rows.charAt(0).toUpperCase() + rows.slice(1)}
      </th>
      {columns.map((column) => (
        <th key={column} scope="col" className={head}>
          {column}
        </th>
      ))}
      {off && (
        <th scope="col" className={head} title="How far estimates of what was done were off">
          off by
        </th>
      )}
    </tr>
  </thead>
);

/** The last line of a table. */
const InAll = ({
  total,
  measures,
  last,
}: {
  total: LedgerInfo['total'];
  measures: readonly Measure[];
  last: ReactNode;
}): ReactNode => (
  <tfoot>
    <tr>
      <th scope="row" className={sum}>
        In all
      </th>
      {measures.map((measure) => (
        <td key={measure} className={sum}>
          {sayMinutes(total[measure])}
        </td>
      ))}
      <td className={sum}>{last}</td>
    </tr>
  </tfoot>
);

/** @param names what each bar of time is called */
export function TimesTable({
  ledger: { each, times, total },
  names,
  pick,
}: TableProps & { names: readonly string[] }): ReactNode {
  return (
    <div className="max-h-[300px] overflow-y-auto">
      <table className="w-full border-separate border-spacing-0">
        <caption className="sr-only">Promised, planned and spent by time</caption>
        <Heads rows={each} columns={[...MEASURES, 'free']} />
        <tbody>
          {times.map((time, at) => (
            <tr key={time.key}>
              <th scope="row" className={`${name} whitespace-nowrap`}>
                {names[at]}
              </th>
              {MEASURES.map((measure) => (
                <td key={measure} className={cell}>
                  <Figure
                    at={`times ${measure} ${at}`}
                    minutes={time[measure]}
                    says={`${measure} on ${names[at] ?? ''}`}
                    pick={() => pick(measure, at)}
                  />
                </td>
              ))}
              <td className={cell}>{time.free ? sayMinutes(time.free) : <span className="text-soft">–</span>}</td>
            </tr>
          ))}
        </tbody>
        <InAll total={total} measures={MEASURES} last={sayMinutes(total.free)} />
      </table>
    </div>
  );
}

export function RowsTable({ ledger: { by, rows, total }, pick }: TableProps): ReactNode {
  const lists = useAllLists().data ?? [];
  const calendars = useCalendars().data ?? [];
  const measures = measuresBy(by);
  const overlaps = by === 'tag' || by === 'person';
  return (
    <>
      <table className="w-full border-separate border-spacing-0">
        <caption className="sr-only">Time by {by}</caption>
        <Heads rows={by} columns={measures} off />
        <tbody>
          {rows.map((row, at) => {
            const marked = lists.find(({ id }) => id === row.key) ?? calendars.find(({ id }) => id === row.key);
            return (
              <tr key={row.key}>
                <th scope="row" className={`${name} max-w-[170px] truncate`} title={row.name}>
                  {marked && <Code code={marked.code} hue={marked.hue} />} {row.name}
                </th>
                {measures.map((measure) => (
                  <td key={measure} className={cell}>
                    <Figure
                      at={`rows ${measure} ${at}`}
                      minutes={row[measure]}
                      says={`${measure}, ${row.name}`}
                      pick={() => pick(measure, at)}
                    />
                  </td>
                ))}
                <td className={cell}>{sayOff(row)}</td>
              </tr>
            );
          })}
        </tbody>
        <InAll total={total} measures={measures} last={sayOff(total)} />
      </table>
      {overlaps && (
        <p className="mt-2 text-xs text-soft">
          What has {by === 'tag' ? 'two tags' : 'two people in it'} stands under both, and counts once in all.
        </p>
      )}
    </>
  );
}

/** How far estimates were off: `+ 18 %`, with how many tasks that rests on. */
function sayOff(row: Parameters<typeof offBy>[0] & { longer: number }): ReactNode {
  const share = offBy(row);
  if (share === null) return <span className="text-soft">–</span>;
  const percent = Math.round(share * 100);
  return (
    <span title={`${row.longer} of ${row.done} took longer: ${sayMinutes(row.estimated)} planned, ${sayMinutes(row.took)} taken`}>
      {percent > 0 ? '+ ' : percent < 0 ? '− ' : ''}
      {Math.abs(percent)} %
    </span>
  );
}
