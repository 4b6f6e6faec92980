import type { LedgerInfo, Me } from '@corvun/contract';
import { LEDGER_BY, MEASURES, sayDay, sayMinutes, weekOf, type LedgerBy, type Measure } from '@corvun/core';
import { useMemo, useState, type ReactNode } from 'react';
import { useNavigate, useSearchParams } from 'react-router';
import { tableAt, useTimeLedger } from '../../data/lookback';
import { Failed, Waiting } from '../../parts/states';
import { Chart, type Series } from './Chart';
import { LedgerHead } from './LedgerHead';
import { Figures } from './Figures';
import { LedgerMadeOf, type Picked } from './LedgerMadeOf';
import { RowsTable, TimesTable, measuresBy } from './LedgerTables';
import { firstRange, nameOf, readRange, type Range } from './range';

const NAMES: Record<Measure, string> = { promised: 'promised to others', planned: 'planned for yourself', spent: 'spent' };
/** Bars that can still be told apart. */
const MOST_ROWS = 12;
const isBy = (text: string | null): text is LedgerBy => LEDGER_BY.includes(text as LedgerBy);

/** Where time went: by days, and by what it was for. */
export function Ledger({ me, today, at }: { me: Me; today: string; at: string | undefined }): ReactNode {
  const navigate = useNavigate();
  const [query] = useSearchParams();
  const asked = query.get('by');
  const by = isBy(asked) ? asked : 'list';
  const range = (at && readRange(at)) || firstRange(today);
  const go = (to: Range, own = by) =>
    void navigate(`/look-back/ledger/${nameOf(to)}${own === 'list' ? '' : `?by=${own}`}`, { replace: own !== by });
  const ledger = useTimeLedger({ from: range.from, to: range.to }, by);
  return (
    <div className="flex h-full flex-col">
      <LedgerHead me={me} today={today} range={range} by={by} go={go} />
      {ledger.error && !ledger.data ? (
        <Failed problem={ledger.error} retry={() => void ledger.refetch()} />
      ) : !ledger.data ? (
        <Waiting what="Adding up" />
      ) : (
        <Shown key={`${nameOf(range)} ${by}`} me={me} today={today} ledger={ledger.data} />
      )}
    </div>
  );
}

function Shown({ me, today, ledger }: { me: Me; today: string; ledger: LedgerInfo }): ReactNode {
  const [picked, setPicked] = useState<{ where: 'times' | 'rows'; figure: string; what: Picked } | null>(null);
  const { from, to, by, times, rows, total } = ledger;
  const nothing = total.promised + total.planned + total.spent === 0;
  const timeNames = useMemo(() => times.map((one) => shortName(one.key, one.from, today)), [times, today]);
  const timeTicks = useMemo(
    () => (times.length > MOST_NAMED ? times.map(({ key, from: day }, at) => tickOf(key, day, timeNames[at] ?? '')) : timeNames),
    [times, timeNames],
  );
  const timeSeries = useMemo(() => seriesOf(times, timeNames), [times, timeNames]);
  // What only stands for all that is promised says nothing here.
  const told = useMemo(() => rows.filter((row) => measuresBy(by).some((measure) => row[measure])), [rows, by]);
  const bars = useMemo(() => told.slice(0, MOST_ROWS), [told]);
  const rowNames = useMemo(() => bars.map(({ name }) => (name.length > 22 ? `${name.slice(0, 21)}…` : name)), [bars]);
  const rowSeries = useMemo(
    () =>
      seriesOf(
        bars,
        bars.map(({ name }) => name),
        measuresBy(by),
      ),
    [bars, by],
  );
  const pickTime = (measure: Measure, place: number) => {
    const time = times[place];
    if (time?.[measure])
      setPicked({
        where: 'times',
        figure: `times ${measure} ${place}`,
        what: { from: time.from, to: time.to, by, what: measure, title: `${timeNames[place] ?? ''}, ${NAMES[measure]}` },
      });
  };
  const pickRow = (measure: Measure, place: number) => {
    const row = told[place];
    if (row?.[measure])
      setPicked({
        where: 'rows',
        figure: `rows ${measure} ${place}`,
        what: { from, to, by, key: row.key, what: measure, title: `${row.name}, ${NAMES[measure]}` },
      });
  };
  const close = () => {
    const figure = picked?.figure ?? '';
    setPicked(null);
    // The number it was opened from is there again in the next moment.
    requestAnimationFrame(() => document.querySelector<HTMLElement>(`[data-figure="${figure}"]`)?.focus());
  };
  const madeOf = (where: 'times' | 'rows', table: ReactNode) =>
    picked?.where === where ? (
      <LedgerMadeOf key={picked.what.title} me={me} today={today} picked={picked.what} close={close} />
    ) : (
      table
    );
  return (
    <div className="min-h-0 flex-1 overflow-y-auto">
      <div className="flex border-b border-rule max-lg:flex-col">
        <section aria-label="By time" className="min-w-0 flex-1 px-[26px] pt-4 pb-3 max-md:px-3">
          <h2 className="font-head font-semibold">Promised to others, planned for yourself, spent</h2>
          {nothing ? (
            <p className="py-6 text-soft">
              In these days nothing was promised, planned or spent. Time that is spent on a task stands here once its timer has
              stopped, or once you say how long it took.
            </p>
          ) : (
            <div className="mt-3">
              <Chart
                label="Bars of what was promised, planned and spent, by time. The table beside it has the same numbers."
                ticks={timeTicks}
                series={timeSeries}
                height={264}
                pick={pickTime}
              />
            </div>
          )}
          <Legend />
        </section>
        <Side label="Numbers by time" save={tableAt({ from, to }, by, 'times')}>
          {madeOf('times', <TimesTable ledger={ledger} names={timeNames} pick={pickTime} />)}
        </Side>
      </div>
      <Figures ledger={ledger} />
      {told.length > 0 && (
        <div className="flex max-lg:flex-col">
          <section aria-label={`By ${by}`} className="min-w-0 flex-1 px-[26px] pt-4 pb-6 max-md:px-3">
            <h2 className="font-head font-semibold">What it was for, by {by === 'billable' ? 'what is billed' : by}</h2>
            <div className="mt-3">
              <Chart
                label={`Bars of what was promised, planned and spent, by ${by}. The table beside it has the same numbers.`}
                ticks={rowNames}
                series={rowSeries}
                across
                height={44 + bars.length * 46}
                pick={pickRow}
              />
            </div>
            {told.length > MOST_ROWS && (
              <p className="text-xs text-soft">The longest {MOST_ROWS}; all of them stand in the table.</p>
            )}
          </section>
          <Side label={`Numbers by ${by}`} save={tableAt({ from, to }, by, 'rows')}>
            {madeOf('rows', <RowsTable ledger={{ ...ledger, rows: told }} pick={pickRow} />)}
          </Side>
        </div>
      )}
    </div>
  );
}

/** Beside a chart: its numbers, or what one of them is made of. */
const Side = ({ label, save, children }: { label: string; save: string; children: ReactNode }): ReactNode => (
  <section
    aria-label={label}
    className="relative w-[440px] shrink-0 border-l border-rule bg-card px-[26px] pt-4 pb-4 max-lg:w-full max-lg:border-t max-lg:border-l-0 max-md:px-3"
  >
    {children}
    <p className="mt-3 text-right text-xs">
      <a
        href={save}
        download
        aria-label={`out as CSV, ${label.toLowerCase()}`}
        className="text-soft underline underline-offset-2 hover:text-ink"
      >
        out as CSV
      </a>
    </p>
  </section>
);

const swatch = 'mr-[5px] inline-block size-[10px] align-baseline';

const Legend = (): ReactNode => (
  <p aria-hidden="true" className="mt-2 flex flex-wrap gap-x-4 text-xs text-soft">
    <span>
      <span className={`${swatch} bg-soft`} />
      promised
    </span>
    <span>
      <span className={`${swatch} border border-plum bg-plum-wash`} />
      planned
    </span>
    <span>
      <span className={`${swatch} bg-plum`} />
      spent
    </span>
  </p>
);

const seriesOf = (
  all: readonly Record<Measure, number>[],
  names: readonly string[],
  measures: readonly Measure[] = MEASURES,
): Series[] =>
  measures.map((measure) => ({
    ...{ measure, name: NAMES[measure], minutes: all.map((one) => one[measure]) },
    says: all.map((one, place) => `${names[place] ?? ''}: ${sayMinutes(one[measure])} ${NAMES[measure]}`),
  }));

/** So many days have room for their names. */
const MOST_NAMED = 12;

const tickOf = (key: string, from: string, name: string) =>
  key.length === 10 ? String(Number(from.slice(8))) : name.replace('wk ', '');

const monthName = new Intl.DateTimeFormat('en', { month: 'short', timeZone: 'UTC' });

/** A bar's name below it. */
function shortName(key: string, from: string, today: string): string {
  if (key.includes('W')) return `wk ${Number(weekOf(from).slice(6))}`;
  if (key.length === 7) return monthName.format(Date.parse(`${key}-01T00:00Z`));
  return sayDay(key, today).replace(/ \w{3}$/, '');
}
