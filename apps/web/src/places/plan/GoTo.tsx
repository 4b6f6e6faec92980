import type { Me } from '@corvun/contract';
import { addDays, daysFrom, readDay, sayDay, weekBegin, weekOf } from '@corvun/core';
import { CalendarDays } from 'lucide-react';
import { Popover } from 'radix-ui';
import { useState, type KeyboardEvent, type ReactNode } from 'react';
import { useDays } from '../../data/queries';
import { KEYS, keyName } from '../../keys';
import { LoadBar } from '../../parts/LoadBar';
import { useKeys } from '../../parts/useKeys';
import { serverNow } from '../../parts/useNow';

const SHOWN = 42;
const nameOf = new Intl.DateTimeFormat('en', { month: 'long', year: 'numeric', timeZone: 'UTC' });

interface GoToProps {
  me: Me;
  today: string;
  /** The first day that is shown. */
  from: string;
  goTo: (day: string) => void;
}

/** A day in words, or out of a small month in which each day shows its load. */
export function GoTo({ me, today, from, goTo }: GoToProps): ReactNode {
  const [open, setOpen] = useState(false);
  useKeys({ [KEYS.plan.goTo]: () => setOpen(true) });
  const go = (day: string) => {
    setOpen(false);
    goTo(day);
  };
  return (
    <Popover.Root open={open} onOpenChange={setOpen}>
      <Popover.Trigger
        className="grid size-8 place-items-center hover:text-ink"
        aria-label="Go to a day"
        title={`Go to a day (${keyName(KEYS.plan.goTo)})`}
      >
        <CalendarDays size={15} aria-hidden="true" />
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="start"
          sideOffset={4}
          collisionPadding={8}
          aria-label="Go to a day"
          className="z-50 w-[296px] border border-ink bg-card p-3 shadow-lg"
          onKeyDown={(event) => event.key !== 'Escape' && event.stopPropagation()}
        >
          <Month me={me} today={today} from={from} go={go} />
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

function Month({ me, today, from, go }: { me: Me; today: string; from: string; go: (day: string) => void }): ReactNode {
  const [text, setText] = useState('');
  const [month, setMonth] = useState(from.slice(0, 7));
  const [reached, setReached] = useState(from);
  const first = weekBegin(`${month}-01`, me.settings.weekStart);
  const days = useDays(first, SHOWN).data ?? [];
  const read = text.trim() ? readDay(text, { now: serverNow(), zone: me.zone }) : null;
  const turn = (by: number) => {
    const date = new Date(Date.UTC(Number(month.slice(0, 4)), Number(month.slice(5)) - 1 + by, 1));
    setMonth(date.toISOString().slice(0, 7));
  };
  const walk = (event: KeyboardEvent<HTMLElement>) => {
    const by = { ArrowLeft: -1, ArrowRight: 1, ArrowUp: -7, ArrowDown: 7 }[event.key];
    if (!by) return;
    event.preventDefault();
    const day = addDays(reached, by);
    setReached(day);
    setMonth(day.slice(0, 7));
    const grid = event.currentTarget;
    requestAnimationFrame(() => grid.querySelector<HTMLElement>(`[data-month-day="${day}"]`)?.focus());
  };
  return (
    <>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          if (read) go(read);
        }}
      >
        <label htmlFor="go-to-day" className="sr-only">
          A day in words
        </label>
        <input
          id="go-to-day"
          autoFocus
          autoComplete="off"
          className="w-full border-b border-ink bg-transparent py-1"
          placeholder="next Friday, 14 Aug, in 3 weeks"
          value={text}
          aria-describedby="go-to-says"
          onChange={(event) => setText(event.target.value)}
        />
        <p id="go-to-says" aria-live="polite" className="min-h-4 text-xs text-soft">
          {text.trim() ? (read ? `${sayDay(read, today)} · Enter goes there` : 'Not a day. Write “Tue” or “14 Aug”.') : ''}
        </p>
      </form>
      <div className="mt-1 flex items-center justify-between">
        <button type="button" className="min-h-6 px-2 hover:text-teal" aria-label="Earlier month" onClick={() => turn(-1)}>
          ‹
        </button>
        <b className="font-head font-semibold" aria-live="polite">
          {nameOf.format(new Date(`${month}-01T00:00Z`))}
        </b>
        <button type="button" className="min-h-6 px-2 hover:text-teal" aria-label="Later month" onClick={() => turn(1)}>
          ›
        </button>
      </div>
      <div role="grid" aria-label="Days" tabIndex={-1} className="mt-1" onKeyDown={walk}>
        {[0, 1, 2, 3, 4, 5].map((week) => (
          <div key={week} role="row" className="grid grid-cols-[26px_repeat(7,1fr)]">
            <span role="rowheader" className="self-center text-xs text-soft">
              {Number(weekOf(addDays(first, week * 7 + 1)).slice(6))}
            </span>
            {daysFrom(addDays(first, week * 7), 7).map((day) => {
              const load = days.find((one) => one.day === day)?.load;
              return (
                <div key={day} role="gridcell">
                  <button
                    type="button"
                    data-month-day={day}
                    tabIndex={day === reached ? 0 : -1}
                    aria-label={sayDay(day, today)}
                    aria-current={day === today ? 'date' : undefined}
                    className={`flex h-8 w-full flex-col items-center justify-center text-xs hover:bg-teal-wash focus-visible:bg-teal-wash ${day.startsWith(month) ? '' : 'text-soft'} ${day === today ? 'font-bold text-teal' : ''}`}
                    onClick={() => go(day)}
                    onFocus={() => setReached(day)}
                  >
                    {Number(day.slice(8))}
                    {load && load.capacity > 0 ? <LoadBar load={load} wide="tiny" /> : <span className="h-[4px]" />}
                  </button>
                </div>
              );
            })}
          </div>
        ))}
      </div>
    </>
  );
}
