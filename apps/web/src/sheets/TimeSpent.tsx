import type { Me, TaskFull, TimeEntryInfo } from '@corvun/contract';
import { dayOf, readLength, sayDay, sayMinutes, saySpan, sayTime } from '@corvun/core';
import { useState, type ReactNode } from 'react';
import { addTime, changeTime, removeTime, startTimer, stopTimer } from '../data/doing';
import { KEYS, keyName } from '../keys';
import { Key } from '../parts/signs';
import { useNow } from '../parts/useNow';

const HOW: Record<TimeEntryInfo['by'], string> = {
  timer: 'timer',
  block: 'as planned',
  'heads-down': 'heads-down',
  hand: 'written',
};
const quiet = 'min-h-6 text-soft underline underline-offset-2 hover:text-ink';

/** The time that was spent on a task: its stretches, each corrected where it stands, and the timer. */
export function TimeSpent({ me, task, today }: { me: Me; task: TaskFull; today: string }): ReactNode {
  const now = useNow();
  const [changing, setChanging] = useState<string | null>(null);
  // What was stopped again at once is nothing to read.
  const shown = task.time.filter(({ end, minutes, note }) => end === null || minutes > 0 || note !== '');
  const runs = task.time.find(({ end }) => end === null);
  const open = task.status !== 'COMPLETED' && task.status !== 'CANCELLED';
  const last = task.allBlocks.filter(({ end }) => Date.parse(end) <= now).at(-1);
  const planned = last ? Math.round((Date.parse(last.end) - Date.parse(last.start)) / 60_000) : 0;
  const unsaid = last && !task.time.some(({ start, end }) => (end ?? start) > last.start && start < last.end);
  return (
    <section aria-label="Time spent" className="mt-4 border-t border-rule pt-3">
      <h3 className="flex flex-wrap items-baseline gap-x-3">
        <b className="font-head font-semibold">Time spent</b>
        {task.spent > 0 && <span className="text-xs text-soft">{sayMinutes(task.spent)}</span>}
        {changing !== 'new' && (
          <button type="button" className={`${quiet} text-xs`} onClick={() => setChanging('new')}>
            {shown.length ? 'write more' : 'write how long it took'}
          </button>
        )}
        {(open || runs) && (
          <button
            type="button"
            id="measure-time"
            className="ml-auto flex min-h-6 items-center gap-1 text-xs hover:text-teal"
            onClick={() => void (runs ? stopTimer() : startTimer(task.id))}
          >
            {runs ? 'Stop the timer' : 'Start the timer'} <Key>{keyName(KEYS.sheet.measure)}</Key>
          </button>
        )}
      </h3>
      <ul className="text-xs">
        {shown.map((one) => (
          <li key={one.id} className="py-[1px]">
            <div className="flex flex-wrap items-baseline gap-x-3">
              <span className={one.end === null ? 'text-teal' : ''}>{whenOf(one, me.zone, today)}</span>
              <b className="font-semibold">{one.end === null ? 'runs' : sayMinutes(one.minutes)}</b>
              <span className="text-soft">{HOW[one.by]}</span>
              {one.end !== null && (
                <span className="ml-auto flex gap-3">
                  <button
                    type="button"
                    className={quiet}
                    aria-label={`correct ${sayMinutes(one.minutes)} of ${whenOf(one, me.zone, today)}`}
                    onClick={() => setChanging(one.id)}
                  >
                    correct
                  </button>
                  <button
                    type="button"
                    className={quiet}
                    aria-label={`take away ${sayMinutes(one.minutes)} of ${whenOf(one, me.zone, today)}`}
                    onClick={() => void removeTime(one.id)}
                  >
                    take away
                  </button>
                </span>
              )}
            </div>
            {one.note && <p className="border-l-2 border-amber pl-2 text-soft">{one.note}</p>}
            {changing === one.id && (
              <Length
                label="How long it took"
                text={sayMinutes(one.minutes)}
                keep={(minutes) => changeTime(one.id, { minutes, version: one.version })}
                close={() => setChanging(null)}
              />
            )}
          </li>
        ))}
      </ul>
      <p className="text-xs empty:hidden">
        {unsaid && (
          <button type="button" className={quiet} onClick={() => void addTime(task.id, { minutes: planned, block: last.id })}>
            {sayDay(dayOf(Date.parse(last.start), me.zone), today)} as planned, {sayMinutes(planned)}
          </button>
        )}
      </p>
      {changing === 'new' && (
        <Length
          label="How long, until now"
          text=""
          keep={(minutes) => addTime(task.id, { minutes })}
          close={() => setChanging(null)}
        />
      )}
    </section>
  );
}

function whenOf({ start, end }: TimeEntryInfo, zone: string, today: string): string {
  const [from, to] = [Date.parse(start), end === null ? null : Date.parse(end)];
  return `${sayDay(dayOf(from, zone), today)}, ${to === null ? `since ${sayTime(from, zone)}` : saySpan(from, to, zone)}`;
}

const MOST = 1440;

/** A length in words: Enter keeps it, Escape leaves it. */
function Length({
  label,
  text: before,
  keep,
  close,
}: {
  label: string;
  text: string;
  keep: (minutes: number) => Promise<unknown>;
  close: () => void;
}): ReactNode {
  const [text, setText] = useState(before);
  const [wrong, setWrong] = useState('');
  const done = async () => {
    const minutes = /^\d+$/.test(text.trim()) ? Number(text) : readLength(text);
    if (!minutes || minutes > MOST) return setWrong('Not a duration up to a day. Write “45 min” or “1 h 30”.');
    if (await keep(minutes)) close();
    return undefined;
  };
  return (
    <label className="mt-1 block text-xs text-soft">
      {label}
      <input
        ref={(field) => {
          if (field && !field.dataset['met']) {
            field.dataset['met'] = 'yes';
            field.focus();
            field.select();
          }
        }}
        autoComplete="off"
        placeholder="45 min"
        className="ml-2 min-h-6 w-24 border-b border-teal bg-transparent text-sm text-ink"
        value={text}
        aria-invalid={wrong !== ''}
        onChange={({ target }) => {
          setWrong('');
          setText(target.value);
        }}
        onKeyDown={(event) => {
          if (event.key === 'Enter') void done();
          else if (event.key === 'Escape') close();
          else return;
          event.preventDefault();
          event.stopPropagation();
        }}
      />
      <span role="alert" className="ml-2 text-brick empty:hidden">
        {wrong}
      </span>
    </label>
  );
}
