import { count, sayClock } from '@corvun/core';
import type { ReactNode } from 'react';
import { Link } from 'react-router';
import { useCheckIns } from '../../data/lookback';
import { useHour } from './grid';

/** Questions of one's own where they ask next, and where they still wait for an answer: at their time of the day. */
export function Asks({ today, day }: { today: string; day: string }): ReactNode {
  const hour = useHour();
  const all = (useCheckIns().data ?? []).filter(({ open, next }) => open === day || next?.slice(0, 10) === day);
  return all.map(({ id, name, time, open, questions }) => (
    <Link
      key={id}
      to={`/look-back/questions/${id}`}
      style={{ top: (Number(time.slice(0, 2)) + Number(time.slice(3)) / 60) * hour }}
      className={`absolute right-1 z-[3] flex min-h-6 max-w-[70%] items-center border-t-2 bg-card px-1 text-xs ${open === day && day < today ? 'border-amber' : 'border-teal'}`}
      aria-label={`${name}, ${count(questions.length, 'question')} ${open === day ? 'to be answered' : `at ${sayClock(time)}`}`}
    >
      <span className="truncate">{name}</span>
    </Link>
  ));
}
