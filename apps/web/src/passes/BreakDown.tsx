import type { BreakDownInput, DayInfo, Me, TaskInfo } from '@corvun/contract';
import { bestSlots, readLength, sayDay, sayMinutes, sayTime, dayOf, isoInZone } from '@corvun/core';
import { useEffect, useRef, useState, type KeyboardEvent, type ReactNode } from 'react';
import { flushSync } from 'react-dom';
import { gapsOf } from '../parts/gaps';
import { serverNow } from '../parts/useNow';
import { Key } from '../parts/signs';
import { useDays } from '../data/queries';
import { breakDown } from '../data/thingActions';
import { button, primary } from '../places/sources/common';
import { useDraft, useLongDraft } from '../sheets/drafts';
import { focusItem } from './Items';

interface Row {
  title: string;
  minutes: string;
}

interface BreakDownProps {
  me: Me;
  today: string;
  task: TaskInfo;
  /** What is said of the task besides. */
  change?: NonNullable<BreakDownInput['change']>;
  /** Done, or left. */
  close: () => void;
}

const BLANK: Row = { title: '', minutes: '' };
const AHEAD = 14;
const MOST = 30;

const rowsOf = (text: string | null): Row[] => {
  try {
    const kept = JSON.parse(text ?? '[]') as Row[];
    return kept.length ? kept : [BLANK];
  } catch {
    return [BLANK];
  }
};

/** Turns a task into steps, each with its estimate; the first gets its time. What is written survives a reload. */
export function BreakDown({ me, today, task, change, close }: BreakDownProps): ReactNode {
  const frame = useRef<HTMLFormElement>(null);
  const [text, write] = useLongDraft(`break-${task.id}`);
  const [without, setWithout] = useDraft(`break-time-${task.id}`);
  const days = useDays(today, AHEAD).data;
  const [wrong, setWrong] = useState('');
  const rows = rowsOf(text);
  const written = rows.filter(({ title }) => title.trim());
  const sum = written.reduce((all, { minutes }) => all + (readLength(minutes) ?? 0), 0);
  const [first] = written;
  const slot =
    first && days ? slotFor(days, readLength(first.minutes) ?? me.settings.lengths[task.concentration], task, me) : null;
  const set = (next: Row[]) => write(JSON.stringify(next));
  const fields = () => [...(frame.current?.querySelectorAll<HTMLInputElement>('[data-row]') ?? [])];
  useEffect(() => {
    fields()
      .find(({ value }) => !value)
      ?.focus();
  }, []);
  const put = (at: number, part: Partial<Row>) => {
    setWrong('');
    set(rows.map((row, index) => (index === at ? { ...row, ...part } : row)));
  };
  const leave = () => {
    write(null);
    setWithout(null);
    close();
  };
  const send = async () => {
    const odd = written.find(({ minutes }) => minutes.trim() && readLength(minutes) === null);
    if (!written.length) return setWrong('Write at least one step.');
    if (odd) return setWrong(`“${odd.minutes}” is no length. Write 45 min or 1 h 30.`);
    const done = await breakDown(task.id, {
      steps: written.map(({ title, minutes }) => ({ title: title.trim(), minutes: readLength(minutes) })),
      ...(slot && without === null ? { start: slot } : {}),
      ...(change ? { change } : {}),
    });
    if (done) leave();
    return undefined;
  };
  const onKeyDown = (event: KeyboardEvent, at: number, of: 'title' | 'minutes') => {
    const here = rows[at] ?? BLANK;
    if (event.key === 'Enter' && (event.ctrlKey || event.metaKey)) void send();
    else if (event.key === 'Enter' && !here.title.trim()) void send();
    else if (event.key === 'Enter') next(at);
    else if (event.key === 'Escape') close();
    else if (event.key === 'Backspace' && of === 'title' && here.title === '' && rows.length > 1) {
      set(rows.filter((_, index) => index !== at));
      fields()[(at - 1) * 2]?.focus();
    } else return;
    event.preventDefault();
    event.stopPropagation();
  };
  const next = (at: number) => {
    // At once: what is typed next belongs there.
    if (at === rows.length - 1 && rows.length < MOST) flushSync(() => set([...rows, BLANK]));
    fields()[(at + 1) * 2]?.focus();
  };
  return (
    <form
      ref={frame}
      noValidate
      aria-label={`Break “${task.title}” down`}
      className="mx-2 mb-2 border border-teal bg-card p-2 text-xs"
      onSubmit={(event) => {
        event.preventDefault();
        void send();
      }}
    >
      <ol>
        {rows.map((row, at) => (
          // Rows have no other name than their place.
          <li key={at} className="flex items-baseline gap-2">
            <input
              data-row
              aria-label={`Step ${at + 1}`}
              autoComplete="off"
              maxLength={500}
              placeholder={at ? 'the next' : 'what comes first'}
              className="min-h-6 min-w-0 flex-1 border-b border-rule bg-transparent text-sm focus:border-teal"
              value={row.title}
              onChange={({ target }) => put(at, { title: target.value })}
              onKeyDown={(event) => onKeyDown(event, at, 'title')}
            />
            <input
              data-row
              aria-label={`How long step ${at + 1} takes`}
              autoComplete="off"
              maxLength={20}
              placeholder="min"
              className="min-h-6 w-16 border-b border-rule bg-transparent text-right tabular-nums focus:border-teal"
              value={row.minutes}
              aria-invalid={row.minutes.trim() !== '' && readLength(row.minutes) === null}
              onChange={({ target }) => put(at, { minutes: target.value })}
              onKeyDown={(event) => onKeyDown(event, at, 'minutes')}
            />
          </li>
        ))}
      </ol>
      <p className="mt-1 text-soft">
        {sum > 0 && `${sayMinutes(sum)} in steps`}
        {sum > 0 && task.estimate !== null && `, ${sayMinutes(task.estimate)} were thought of`}
      </p>
      {slot && (
        <label className="mt-1 flex min-h-6 items-center gap-1">
          <input
            type="checkbox"
            className="accent-teal"
            checked={without === null}
            onChange={({ target }) => setWithout(target.checked ? null : 'none')}
          />
          <span>
            the first on {sayDay(dayOf(Date.parse(slot), me.zone), today)} at {sayTime(Date.parse(slot), me.zone)}
          </span>
        </label>
      )}
      <p role="alert" className="text-brick empty:hidden">
        {wrong}
      </p>
      <div className="mt-2 flex items-baseline gap-2">
        <button type="submit" className={primary}>
          Into {written.length > 1 ? `${written.length} steps` : 'steps'} <Key>Ctrl Enter</Key>
        </button>
        <button type="button" className={button} onClick={leave}>
          Leave it
        </button>
      </div>
    </form>
  );
}

/** Breaking an item of a step down, below it. */
export function useBreaking(me: Me, today: string) {
  const [id, begin] = useState<string | null>(null);
  const form = (task: TaskInfo): ReactNode =>
    task.id === id && (
      <BreakDown
        {...{ me, today, task }}
        close={() => {
          begin(null);
          focusItem(task.id);
        }}
      />
    );
  return { begin, form };
}

/** Where the first step would best go, as a time in the zone of the user; null where there is no gap for it. */
function slotFor(days: readonly DayInfo[], minutes: number, task: TaskInfo, me: Me): string | null {
  const wish = { minutes, concentration: task.concentration, now: serverNow(), zone: me.zone, deadline: null };
  const [best] = bestSlots(gapsOf(days), { ...wish, grid: me.settings.snap, deep: me.settings.planning.deep }, 1);
  return best ? isoInZone(best.slot.start, me.zone) : null;
}
