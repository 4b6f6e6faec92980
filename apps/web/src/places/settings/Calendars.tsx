import type { CalendarChange, CalendarInfo } from '@corvun/contract';
import { useState, type ReactNode } from 'react';
import { Link } from 'react-router';
import { patch, saysWrong } from '../../data/api';
import { client, useCalendars } from '../../data/queries';
import { useSaid } from '../../state/said';
import { quiet } from '../sources/common';
import { Setting } from './Setting';

const ORIGINS: Record<CalendarInfo['origin'], string> = { own: 'your own', feed: 'from a feed', connected: 'connected' };
const HUES = Array.from({ length: 10 }, (_, hue) => hue);

/** What each calendar is called, and the code and colour it has everywhere. */
export function Calendars(): ReactNode {
  const calendars = useCalendars();
  return (
    <Setting
      id="calendars"
      about={
        <>
          Code and colour stand on every slip; what is hidden still takes time where it counts as busy. Lists are changed on{' '}
          <Link to="/lists" className={quiet}>
            Lists
          </Link>
          .
        </>
      }
    >
      <ul>
        {calendars.data?.map((calendar) => (
          <CalendarRow key={calendar.id} calendar={calendar} others={calendars.data.filter((one) => one.id !== calendar.id)} />
        ))}
      </ul>
    </Setting>
  );
}

function CalendarRow({ calendar, others }: { calendar: CalendarInfo; others: readonly CalendarInfo[] }): ReactNode {
  const [problem, setProblem] = useState('');
  const change = async (said: CalendarChange) => {
    try {
      const { sentence } = await patch('/calendars/:id', { ...said, version: calendar.version }, { id: calendar.id });
      await client.invalidateQueries({ queryKey: ['calendars'] });
      useSaid.getState().say(sentence);
      setProblem('');
    } catch (wrong) {
      setProblem(saysWrong(wrong));
    }
  };
  const text = (name: 'name' | 'code', label: string, wide: string, most: number) => (
    <input
      key={`${name} ${calendar[name]}`}
      aria-label={`${label} of ${calendar.name}`}
      aria-describedby={`${calendar.id}-says`}
      className={`border-b border-soft bg-transparent py-1 ${wide}`}
      defaultValue={calendar[name]}
      maxLength={most}
      autoComplete="off"
      onBlur={(event) => event.target.value !== calendar[name] && void change({ [name]: event.target.value })}
      onKeyDown={(event) => event.key === 'Enter' && event.currentTarget.blur()}
    />
  );
  return (
    <li className="flex flex-wrap items-center gap-x-4 gap-y-1 border-t border-rule py-2 first:border-t-0">
      <span className="code min-w-[26px] text-center" style={{ background: `var(--hue-${calendar.hue})` }} aria-hidden="true">
        {calendar.code}
      </span>
      {text('name', 'Name', 'w-[180px]', 80)}
      {text('code', 'Code', 'w-9', 2)}
      <label className="flex items-center gap-2 text-xs text-soft">
        Colour
        <select
          aria-label={`Colour of ${calendar.name}`}
          className="w-[120px] border border-soft bg-card px-1 text-ink"
          value={calendar.hue}
          onChange={(event) => void change({ hue: Number(event.target.value) })}
        >
          {HUES.map((hue) => {
            const other = others.find((one) => one.hue === hue);
            return (
              <option key={hue} value={hue} disabled={other !== undefined}>
                {hue + 1}
                {other ? `, ${other.name}` : ''}
              </option>
            );
          })}
        </select>
      </label>
      {(['shown', 'busy'] as const).map((name) => (
        <label key={name} className="flex items-center gap-1">
          <input
            type="checkbox"
            className="accent-teal"
            checked={calendar[name]}
            aria-label={`${calendar.name} ${name === 'shown' ? 'is shown' : 'counts as busy'}`}
            onChange={(event) => void change({ [name]: event.target.checked })}
          />
          {name === 'shown' ? 'shown' : 'counts as busy'}
        </label>
      ))}
      <span className="text-xs text-soft">{calendar.main ? 'the main one' : ORIGINS[calendar.origin]}</span>
      <p id={`${calendar.id}-says`} role="alert" className="basis-full text-xs text-brick empty:hidden">
        {problem}
      </p>
    </li>
  );
}
