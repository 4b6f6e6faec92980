import type { Me } from '@corvun/contract';
import { workMinutes, readDay, readStretches, sayDay, sayMinutes, sayStretches, withDaysOff } from '@corvun/core';
import { useRef, useState, type ReactNode } from 'react';
import { post } from '../../data/api';
import { client } from '../../data/queries';
import { serverNow, useNow } from '../../parts/useNow';
import { dayOf } from '@corvun/core';
import { useSaid } from '../../state/said';
import { button } from '../sources/common';
import { KeptField, Setting, choose, chooseFrom } from './Setting';

const WEEKDAYS = ['Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday', 'Sunday'];
const LENGTHS = ['deep', 'medium', 'light'] as const;

function said(text: string): string {
  try {
    const minutes = workMinutes(readStretches(text));
    return minutes ? sayMinutes(minutes) : '';
  } catch {
    return '';
  }
}

/** The hours of one weekday. */
export function HoursOf({ me, day }: { me: Me; day: number }): ReactNode {
  const { hours } = me.settings;
  return (
    <div className="grid grid-cols-[104px_1fr] items-baseline gap-x-3">
      <span aria-hidden="true">{WEEKDAYS[day - 1]}</span>
      <KeptField
        id={`hours-${day}`}
        label={WEEKDAYS[day - 1] ?? ''}
        bare
        value={sayStretches(hours[day] ?? [])}
        placeholder="no work"
        read={(text) => ({ hours: { ...(client.getQueryData<Me>(['me']) ?? me).settings.hours, [day]: readStretches(text) } })}
        says={said}
      />
    </div>
  );
}

/** When one works, when not, and how long work takes. */
export function WorkingTime({ me }: { me: Me }): ReactNode {
  const { hours, lengths, weekStart } = me.settings;
  const week = Array.from({ length: 7 }, (_, at) => ((weekStart - 1 + at) % 7) + 1);
  const total = week.reduce((sum, day) => sum + workMinutes(hours[day] ?? []), 0);
  return (
    <>
      <Setting
        id="hours"
        about="What is free is counted within them: on the strip, on Plan, and wherever a time is offered. Several stretches are parted by commas; what lies between is a pause."
      >
        <div className="max-w-[420px]">
          {week.map((day) => (
            <HoursOf key={day} me={me} day={day} />
          ))}
          <p className="border-t border-rule pt-1 text-xs text-soft">{sayMinutes(total)} a week</p>
        </div>
      </Setting>
      <DaysOff me={me} />
      <Setting
        id="lengths"
        about="Minutes that are set aside for a task that does not say how long it takes, by the kind of work of its list."
      >
        <div className="grid max-w-[420px] grid-cols-3 gap-4">
          {LENGTHS.map((kind) => (
            <KeptField
              key={kind}
              id={`length-${kind}`}
              label={kind.charAt(0).toUpperCase() + kind.slice(1)}
              inputMode="numeric"
              value={String(lengths[kind])}
              read={(text) => ({ lengths: { [kind]: Number(text) } })}
              says={(text) => (Number(text) > 0 ? sayMinutes(Number(text)) : '')}
            />
          ))}
        </div>
      </Setting>
    </>
  );
}

function DaysOff({ me }: { me: Me }): ReactNode {
  const [text, setText] = useState('');
  const [problem, setProblem] = useState('');
  const file = useRef<HTMLInputElement>(null);
  const today = dayOf(useNow(), me.zone);
  const { daysOff } = me.settings;
  const ahead = daysOff.filter(({ day }) => day >= today);
  const past = daysOff.length - ahead.length;
  const add = () => {
    const [, when = '', name = ''] = /^\s*([^:]*?)\s*(?::\s*(.*))?$/.exec(text) ?? [];
    const day = readDay(when, { now: serverNow(), zone: me.zone });
    if (!day) return setProblem('Begin with a day: “24 Dec: Christmas Eve”.');
    choose({ daysOff: withDaysOff(daysOff, [{ day, name }]) }).then(
      () => setText(''),
      (wrong: unknown) => setProblem(wrong instanceof Error ? wrong.message : ''),
    );
  };
  const take = async (chosen: File | undefined) => {
    if (!chosen) return;
    setProblem('');
    try {
      const { sentence } = await post('/settings/days-off', { ics: await chosen.text() });
      useSaid.getState().say(sentence);
    } catch (wrong) {
      setProblem(wrong instanceof Error ? wrong.message : 'The file could not be read.');
    }
  };
  return (
    <Setting
      id="days-off"
      about="Nobody works then: there is no working time to be planned into. Public holidays come as a calendar file."
    >
      {ahead.length > 0 && (
        <ul className="mb-2 max-h-[220px] max-w-[420px] overflow-y-auto" aria-label="Days off to come" tabIndex={0}>
          {ahead.map(({ day, name }) => (
            <li key={day} className="flex items-baseline gap-3 border-t border-rule py-1 first:border-t-0">
              <span className="w-[104px] shrink-0">{sayDay(day, today)}</span>
              <span className="min-w-0 flex-1 truncate">{name}</span>
              <button
                type="button"
                className="shrink-0 px-1 text-xs text-soft underline underline-offset-2 hover:text-ink"
                aria-label={`Take away: ${sayDay(day, today)}`}
                onClick={() => chooseFrom({ daysOff: daysOff.filter((one) => one.day !== day) })}
              >
                take away
              </button>
            </li>
          ))}
        </ul>
      )}
      {past > 0 && <p className="mb-2 text-xs text-soft">{past} that are over are kept.</p>}
      <div className="flex max-w-[420px] flex-wrap items-end gap-3">
        <div className="min-w-[200px] flex-1">
          <label htmlFor="day-off" className="block pb-[3px] text-xs text-soft">
            One more: a day, and after a colon its name
          </label>
          <input
            id="day-off"
            className="w-full border-b border-soft bg-transparent py-1"
            value={text}
            placeholder="24 Dec: Christmas Eve"
            autoComplete="off"
            aria-invalid={problem !== ''}
            aria-describedby="day-off-says"
            onChange={(event) => {
              setText(event.target.value);
              setProblem('');
            }}
            onKeyDown={(event) => event.key === 'Enter' && add()}
          />
        </div>
        <button type="button" className={button} onClick={add}>
          Add
        </button>
        <button type="button" className={button} onClick={() => file.current?.click()}>
          From a calendar file …
        </button>
        <input
          ref={file}
          type="file"
          accept=".ics,text/calendar"
          aria-label="A calendar file with days off"
          className="sr-only"
          tabIndex={-1}
          onChange={(event) => {
            void take(event.target.files?.[0]);
            event.target.value = '';
          }}
        />
      </div>
      <p id="day-off-says" role="alert" className="min-h-4 text-xs text-brick">
        {problem}
      </p>
    </Setting>
  );
}
