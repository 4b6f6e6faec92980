import type { CheckInAnswerInfo, CheckInInfo, Me } from '@corvun/contract';
import { dayOf, isDay, sayAnswer, sayClock, sayDay } from '@corvun/core';
import { useState, type ReactNode } from 'react';
import { Link, useNavigate, useSearchParams } from 'react-router';
import { pauseCheckIn, removeCheckIn, useCheckInAnswers, useCheckIns } from '../../data/lookback';
import { KEYS, keyName } from '../../keys';
import { Key } from '../../parts/signs';
import { Failed, Waiting } from '../../parts/states';
import { useKeys } from '../../parts/useKeys';
import { button, quiet } from '../sources/common';
import { AnswerForm } from './AnswerForm';
import { CheckInForm } from './CheckInForm';
import { LookBackHead } from './LookBackHead';
import { Trends } from './Trends';

/** Questions of one's own that come back, what was answered, and how it went. */
export function Questions({ me, today, id }: { me: Me; today: string; id: string | undefined }): ReactNode {
  const navigate = useNavigate();
  const checkIns = useCheckIns();
  const [making, setMaking] = useState(false);
  const all = checkIns.data ?? [];
  const chosen = all.find((one) => one.id === id) ?? all.find(({ open }) => open !== null) ?? all[0];
  useKeys({ [KEYS.lookBack.line]: () => setMaking(true) });
  if (checkIns.error && !checkIns.data) return <Failed problem={checkIns.error} retry={() => void checkIns.refetch()} />;
  if (!checkIns.data) return <Waiting what="Opening the questions" />;
  return (
    <div className="flex h-full flex-col">
      <LookBackHead part="questions" title={chosen && !making ? chosen.name : 'Questions'}>
        {!making && (
          <button type="button" className={button} onClick={() => setMaking(true)}>
            New check-in <Key>{keyName(KEYS.lookBack.line)}</Key>
          </button>
        )}
      </LookBackHead>
      <div className="flex min-h-0 flex-1 max-md:flex-col max-md:overflow-y-auto">
        {all.length > 0 && (
          <nav
            aria-label="Check-ins"
            className="w-[300px] shrink-0 overflow-y-auto border-r border-rule max-md:w-full max-md:border-r-0 max-md:border-b"
          >
            <ul>
              {all.map((one) => (
                <li key={one.id} className="border-b border-rule">
                  <Link
                    to={`/look-back/questions/${one.id}`}
                    aria-current={one === chosen && !making ? 'page' : undefined}
                    className={`block px-[18px] py-2 ${one === chosen && !making ? 'bg-card shadow-[inset_3px_0_0_var(--teal)]' : 'hover:bg-card'}`}
                    onClick={() => setMaking(false)}
                  >
                    <span className="block truncate font-semibold">{one.name}</span>
                    <span className={`block text-xs ${one.open === null ? 'text-soft' : 'text-teal'}`}>
                      {sayAsks(one, me, today)}
                    </span>
                  </Link>
                </li>
              ))}
            </ul>
          </nav>
        )}
        <div className="min-w-0 flex-1 overflow-y-auto px-[26px] py-5 max-md:flex-none max-md:overflow-visible max-md:px-3">
          {making ? (
            <CheckInForm close={() => setMaking(false)} />
          ) : chosen ? (
            <One key={chosen.id} today={today} checkIn={chosen} gone={() => void navigate('/look-back/questions')} />
          ) : (
            <div className="max-w-[560px]">
              <h2 className="font-head font-semibold">A few questions that come back</h2>
              <p className="mt-2 text-soft">
                Write one to eight questions of your own, and on which days they come. You answer them in words, on a scale, by
                yes or no, or by choosing. The answers stand in the log of their day, and after a while you see how they went.
                Nobody else sees them.
              </p>
              <button type="button" className={`${button} mt-3`} onClick={() => setMaking(true)}>
                Write the first one
              </button>
            </div>
          )}
        </div>
      </div>
    </div>
  );
}

function One({ today, checkIn, gone }: { today: string; checkIn: CheckInInfo; gone: () => void }): ReactNode {
  const [query, setQuery] = useSearchParams();
  const [changing, setChanging] = useState(false);
  const answers = useCheckInAnswers(checkIn.id);
  const asked = query.get('day');
  const answered = answers.data ?? [];
  // The link of a mail leads to its day; without one it is the day that is asked for.
  const day = asked && isDay(asked) && asked <= today ? asked : checkIn.open;
  const before = answered.find((one) => one.day === day);
  const open = day !== null && (asked !== null || !before);
  const answer = (to: string | null) => setQuery(to ? { day: to } : {}, { replace: true });
  if (answers.error && !answers.data) return <Failed problem={answers.error} retry={() => void answers.refetch()} />;
  if (!answers.data) return <Waiting what="Opening the answers" />;
  if (changing) return <CheckInForm checkIn={checkIn} close={() => setChanging(false)} />;
  return (
    <div className="flex flex-wrap items-start gap-x-10 gap-y-6">
      <div className="min-w-[300px] flex-1 basis-[420px]">
        {open ? (
          <section aria-label={`Answer for ${sayDay(day, today)}`} className="border border-rule bg-card p-4">
            <h2 className="font-head font-semibold">{day === today ? 'Today' : sayDay(day, today)}</h2>
            <AnswerForm
              key={day}
              id={checkIn.id}
              day={day}
              questions={before ? questionsThen(checkIn, before) : checkIn.questions}
              {...(before ? { before: before.answers } : {})}
              {...(asked === null ? {} : { close: () => answer(null) })}
            />
          </section>
        ) : (
          <p>
            <button type="button" className={button} onClick={() => answer(today)}>
              {answered.some((one) => one.day === today) ? 'Answer today anew' : 'Answer for today'}
            </button>
          </p>
        )}
        <Answered today={today} answers={answered} answer={answer} />
        <p className="mt-6 flex flex-wrap gap-x-4 text-xs text-soft">
          <button type="button" className={`${quiet} min-h-6`} onClick={() => setChanging(true)}>
            Change the questions
          </button>
          <button type="button" className={`${quiet} min-h-6`} onClick={() => void pauseCheckIn(checkIn.id, !checkIn.paused)}>
            {checkIn.paused ? 'Let it ask again' : 'Let it rest'}
          </button>
          <button
            type="button"
            className={`${quiet} min-h-6`}
            onClick={() => void removeCheckIn(checkIn.id).then((done) => done && gone())}
          >
            Take it away
          </button>
        </p>
      </div>
      <Trends today={today} checkIn={checkIn} answers={answered} />
    </div>
  );
}

/** The questions of today, and those that were asked then and are not asked any more. */
const questionsThen = ({ questions }: CheckInInfo, { answers }: CheckInAnswerInfo) => [
  ...questions,
  ...answers.map(({ question }) => question).filter(({ id }) => !questions.some((one) => one.id === id)),
];

interface AnsweredProps {
  today: string;
  answers: readonly CheckInAnswerInfo[];
  answer: (day: string) => void;
}

function Answered({ today, answers, answer }: AnsweredProps): ReactNode {
  const given = answers.filter((one) => one.answers.length);
  if (!given.length) return <p className="mt-5 text-soft">Nothing was answered yet.</p>;
  return (
    <ul aria-label="Answers" className="mt-5">
      {given.map((one) => (
        <li key={one.day} className="border-t border-rule py-2">
          <p className="flex items-baseline gap-3">
            <Link to={`/look-back/log/${one.day}`} className="font-semibold underline-offset-2 hover:underline">
              {sayDay(one.day, today)}
            </Link>
            <button
              type="button"
              className="min-h-6 text-xs text-soft underline underline-offset-2 hover:text-ink"
              onClick={() => answer(one.day)}
            >
              change<span className="sr-only"> what was answered for {sayDay(one.day, today)}</span>
            </button>
          </p>
          <dl>
            {one.answers.map((own) => (
              <div key={own.question.id} className="flex flex-wrap gap-x-3">
                <dt className="text-soft">{own.question.text}</dt>
                <dd className="whitespace-pre-wrap">{sayAnswer(own)}</dd>
              </div>
            ))}
          </dl>
        </li>
      ))}
    </ul>
  );
}

function sayAsks({ open, next, paused, time }: CheckInInfo, me: Me, today: string): string {
  if (open !== null) return open === today ? 'to be answered' : `to be answered for ${sayDay(open, today)}`;
  if (paused || next === null) return 'rests';
  const day = dayOf(Date.parse(next), me.zone);
  return `asks ${day === today ? 'today' : sayDay(day, today)} at ${sayClock(time)}`;
}
