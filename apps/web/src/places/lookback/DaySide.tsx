import type { LedgerInfo, Me } from '@corvun/contract';
import { sayDay, sayMinutes, sayTime } from '@corvun/core';
import type { ReactNode } from 'react';
import { Link } from 'react-router';
import { useCheckIns, useTimeLedger } from '../../data/lookback';
import { beginPass, usePasses } from '../../data/passes';
import { PASS_NAMES, isClosed } from '../../passes/due';
import { button } from '../sources/common';
import { AnswerForm } from './AnswerForm';
import { Weather } from './Weather';

const MOST_LISTS = 6;

/** A day in numbers, what asks to be answered for it, and closing it. */
export function DaySide({ me, today, day }: { me: Me; today: string; day: string }): ReactNode {
  const { data: ledger } = useTimeLedger({ from: day, to: day }, 'list');
  const asks = (useCheckIns().data ?? []).filter(({ open }) => open !== null && (day === today || open === day));
  const passes = usePasses().data;
  return (
    <aside
      aria-label={`About ${sayDay(day, today)}`}
      className="w-[414px] shrink-0 overflow-y-auto border-l border-rule bg-card px-[26px] pt-4 pb-16 max-lg:w-[330px] max-md:w-full max-md:overflow-visible max-md:border-t max-md:border-l-0 max-md:px-3"
    >
      {ledger?.from === day && <Numbers ledger={ledger} day={day} />}
      <Weather day={day} />
      {asks.map(({ open, ...one }) =>
        open === null ? null : (
          <section key={one.id} aria-label={one.name} className="mt-6 border border-rule p-3">
            <h2 className="font-head font-semibold">
              {one.name}
              {open !== today && <span className="font-sans text-xs font-normal text-soft"> for {sayDay(open, today)}</span>}
            </h2>
            <AnswerForm id={one.id} day={open} questions={one.questions} />
          </section>
        ),
      )}
      {day === today && passes && (
        <section aria-label="Closing the day" className="mt-6 text-soft">
          {isClosed(passes.today) ? (
            <p>The day was closed{passes.today.closed && ` at ${sayTime(Date.parse(passes.today.closed), me.zone)}`}.</p>
          ) : (
            <button type="button" className={`${button} text-ink`} onClick={() => void beginPass('close-day')}>
              {PASS_NAMES['close-day']}
            </button>
          )}
        </section>
      )}
    </aside>
  );
}

function Numbers({ ledger, day }: { ledger: LedgerInfo; day: string }): ReactNode {
  const { total, rows } = ledger;
  const spent = rows.filter((row) => row.spent > 0).sort((a, b) => b.spent - a.spent);
  const numbers: [name: string, minutes: number][] = [
    ['promised to others', total.promised],
    ['planned for yourself', total.planned],
    ['spent', total.spent],
    ['of the working time free', total.free],
  ];
  return (
    <section aria-label="The day in numbers">
      <h2 className="font-head font-semibold">In numbers</h2>
      <dl className="mt-1">
        {numbers.map(([name, minutes]) => (
          <div key={name} className="flex justify-between border-t border-rule py-[6px] first:border-t-0">
            <dt className="text-soft">{name}</dt>
            <dd>{minutes ? sayMinutes(minutes) : '–'}</dd>
          </div>
        ))}
      </dl>
      {spent.length > 0 && (
        <>
          <h3 className="mt-4 text-xs text-soft">Spent on</h3>
          <ul>
            {spent.slice(0, MOST_LISTS).map(({ key, name, spent: minutes }) => (
              <li key={key} className="flex justify-between border-t border-rule py-[6px] first:border-t-0">
                {key ? (
                  <Link to={`/lists/${key}`} className="underline-offset-2 hover:underline">
                    {name}
                  </Link>
                ) : (
                  name
                )}
                <span>{sayMinutes(minutes)}</span>
              </li>
            ))}
          </ul>
        </>
      )}
      <p className="mt-3 text-xs">
        <Link to={`/look-back/ledger/${day}`} className="text-soft underline underline-offset-2 hover:text-ink">
          This day in the time ledger
        </Link>
      </p>
    </section>
  );
}
