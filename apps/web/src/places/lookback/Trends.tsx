import type { CheckInAnswerInfo, CheckInInfo } from '@corvun/contract';
import { SCALE, daysBetween, sayDay, sayTrend, trendOf, type Question, type Trend } from '@corvun/core';
import type { ReactNode } from 'react';

const WIDTH = 260;
const HEIGHT = 56;
const EDGE = 5;

interface TrendsProps {
  today: string;
  checkIn: CheckInInfo;
  answers: readonly CheckInAnswerInfo[];
}

/** How the answers to each question went, as a small chart with its sentence. */
export function Trends({ today, checkIn, answers }: TrendsProps): ReactNode {
  const found = checkIn.questions.flatMap((question): [Question, Trend][] => {
    const own = answers.flatMap(({ day, answers: given }) =>
      given.filter((one) => one.question.id === question.id).map(({ value }) => ({ day, value })),
    );
    const trend = trendOf(question, own, today);
    return trend ? [[question, trend]] : [];
  });
  if (!found.length) return null;
  return (
    <section aria-label="How it went" className="w-[300px] shrink-0">
      <h2 className="font-head font-semibold">How it went</h2>
      {found.map(([question, trend]) => (
        <figure key={question.id} className="mt-3 border-t border-rule pt-2">
          <figcaption>
            {question.text}
            <span className="block text-xs text-soft">{sayTrend(trend)}</span>
          </figcaption>
          {trend.kind === 'choice' ? (
            <Counts counts={trend.counts} />
          ) : (
            <Line question={question} points={trend.points} today={today} />
          )}
        </figure>
      ))}
    </section>
  );
}

/** Points in time, from one end of the scale to the other; the ends are named. */
function Line({
  question,
  points,
  today,
}: {
  question: Question;
  points: { day: string; value: number }[];
  today: string;
}): ReactNode {
  const [first, last] = [points[0], points.at(-1)];
  if (!first || !last) return null;
  const isScale = question.kind === 'scale';
  const [least, most] = isScale ? [SCALE.least, SCALE.most] : [0, 1];
  const days = Math.max(1, daysBetween(first.day, last.day));
  const across = (day: string) =>
    points.length === 1 ? WIDTH / 2 : EDGE + (daysBetween(first.day, day) / days) * (WIDTH - 2 * EDGE);
  const up = (value: number) => HEIGHT - EDGE - ((value - least) / (most - least)) * (HEIGHT - 2 * EDGE);
  return (
    <>
      <svg viewBox={`0 0 ${WIDTH} ${HEIGHT}`} width={WIDTH} height={HEIGHT} className="mt-1 max-w-full" aria-hidden="true">
        {[least, most].map((value) => (
          <line key={value} x1="0" x2={WIDTH} y1={up(value)} y2={up(value)} stroke="var(--rule)" />
        ))}
        {isScale && (
          <polyline
            points={points.map(({ day, value }) => `${across(day)},${up(value)}`).join(' ')}
            fill="none"
            stroke="var(--plum)"
            strokeWidth="1.5"
          />
        )}
        {points.map(({ day, value }) => (
          <circle key={day} cx={across(day)} cy={up(value)} r="2.6" fill="var(--plum)" />
        ))}
      </svg>
      <p className="flex justify-between text-xs text-soft" style={{ maxWidth: WIDTH }}>
        <span>{sayDay(first.day, today)}</span>
        <span>
          up is {isScale ? question.high : 'yes'}, down {isScale ? question.low : 'no'}
        </span>
        {days > 1 && points.length > 1 && <span>{sayDay(last.day, today)}</span>}
      </p>
    </>
  );
}

function Counts({ counts }: { counts: { choice: string; times: number }[] }): ReactNode {
  const most = Math.max(1, ...counts.map(({ times }) => times));
  return (
    <ul className="mt-1">
      {counts.map(({ choice, times }) => (
        <li key={choice} className="flex items-center gap-2 py-[2px] text-xs">
          <span className="w-[110px] shrink-0 truncate" title={choice}>
            {choice}
          </span>
          <span className="h-[9px] bg-plum" style={{ width: (times / most) * 110 }} aria-hidden="true" />
          <span className="text-soft">{times}</span>
        </li>
      ))}
    </ul>
  );
}
