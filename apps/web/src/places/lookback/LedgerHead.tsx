import type { Me } from '@corvun/contract';
import { LEDGER_BY, readDay, sayDay, weekOf, type LedgerBy } from '@corvun/core';
import { Popover } from 'radix-ui';
import { useState, type FormEvent, type ReactNode } from 'react';
import { tableAt } from '../../data/lookback';
import { Field } from '../../parts/Field';
import { serverNow } from '../../parts/useNow';
import { button, primary } from '../sources/common';
import { LookBackHead } from './LookBackHead';
import { asKind, firstRange, sayRange, stepped, type Range } from './range';

const KINDS = ['day', 'week', 'month', 'year'] as const;
const PRESENT: Record<Range['kind'], string> = {
  ...{ day: 'today', week: 'this week', month: 'this month', year: 'this year', chosen: 'last week' },
};

interface LedgerHeadProps {
  me: Me;
  today: string;
  range: Range;
  by: LedgerBy;
  go: (to: Range, by?: LedgerBy) => void;
}

/** Which days are added up, and by what. */
export function LedgerHead({ me, today, range, by, go }: LedgerHeadProps): ReactNode {
  const now: Range = { kind: 'day', from: today, to: today };
  const { kind, from, to } = range;
  return (
    <LookBackHead
      part="ledger"
      title={sayRange(range, today)}
      about={kind === 'week' ? `week ${Number(weekOf(from).slice(6))}` : ''}
      step={(by) => go(stepped(range, by))}
      present={[PRESENT[kind], () => go(kind === 'chosen' ? firstRange(today) : asKind(now, kind, today))]}
    >
      <div role="radiogroup" aria-label="How many days" className="flex border border-rule">
        {KINDS.map((one) => (
          <button
            key={one}
            type="button"
            role="radio"
            aria-checked={one === kind}
            className={`min-h-6 border-l border-rule px-2 first:border-l-0 ${one === kind ? 'bg-ink text-paper' : 'text-soft hover:text-ink'}`}
            onClick={() => go(asKind(range, one, today))}
          >
            {one}
          </button>
        ))}
        <Chosen me={me} today={today} range={range} go={go} />
      </div>
      <label className="flex items-center gap-1 text-soft">
        by
        <select
          aria-label="Time by"
          className="min-h-6 border-b border-soft bg-transparent text-ink"
          value={by}
          onChange={({ target }) => go(range, target.value as LedgerBy)}
        >
          {LEDGER_BY.map((one) => (
            <option key={one} value={one}>
              {one}
            </option>
          ))}
        </select>
      </label>
      <a
        href={tableAt({ from, to }, by, 'entries')}
        download
        className="text-xs text-soft underline underline-offset-2 hover:text-ink"
        title="Each stretch of time that was spent, with its day, list, tags, person and whether it is billed"
      >
        every entry as CSV
      </a>
    </LookBackHead>
  );
}

/** From one day to another, as one writes them. */
function Chosen({ me, today, range, go }: Omit<LedgerHeadProps, 'by'>): ReactNode {
  const [open, setOpen] = useState(false);
  const [first, setFirst] = useState(() => sayDay(range.from, ''));
  const [last, setLast] = useState(() => sayDay(range.to, ''));
  const [wrong, setWrong] = useState<{ first?: string; last?: string }>({});
  const read = (text: string) => readDay(text, { now: serverNow(), zone: me.zone });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    const [from, to] = [read(first), read(last)];
    const odd = {
      ...(from ? {} : { first: 'Write a day, like 1 July.' }),
      ...(to
        ? from && to < from
          ? { last: 'The last day comes before the first one.' }
          : {}
        : { last: 'Write a day, like 15 August.' }),
    };
    setWrong(odd);
    if (!from || !to || Object.keys(odd).length) return;
    setOpen(false);
    go({ kind: 'chosen', from, to });
  };
  return (
    <Popover.Root
      open={open}
      onOpenChange={(now) => {
        setOpen(now);
        setFirst(sayDay(range.from, ''));
        setLast(sayDay(range.to, ''));
        setWrong({});
      }}
    >
      <Popover.Trigger
        className={`min-h-6 border-l border-rule px-2 ${range.kind === 'chosen' ? 'bg-ink text-paper' : 'text-soft hover:text-ink'}`}
      >
        from … to
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="end"
          sideOffset={4}
          collisionPadding={8}
          aria-label="From one day to another"
          className="z-50 w-[280px] border border-ink bg-card p-4 shadow-lg"
        >
          <form noValidate onSubmit={submit}>
            <Field
              id="ledger-from"
              label="From"
              value={first}
              says={wrong.first ?? ''}
              wrong={wrong.first !== undefined}
              change={setFirst}
              onFocus={({ target }) => target.select()}
            />
            <Field
              id="ledger-to"
              label="To"
              value={last}
              says={wrong.last ?? ''}
              wrong={wrong.last !== undefined}
              change={setLast}
              onFocus={({ target }) => target.select()}
            />
            <p className="mt-3 flex gap-2">
              <button type="submit" className={primary}>
                Add them up
              </button>
              <button type="button" className={button} onClick={() => setOpen(false)}>
                Leave it
              </button>
            </p>
          </form>
          <p className="mt-3 text-xs text-soft">Up to {sayDay(today, '')} or beyond, over ten years at most.</p>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
