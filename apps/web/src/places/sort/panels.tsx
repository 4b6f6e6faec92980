import type { DayInfo, ListInfo, Me } from '@corvun/contract';
import { addDays, dayOf, mondayOf, sayDay, sayMinutes, sayTime, weekOf } from '@corvun/core';
import { Fragment, useState, type FormEvent, type ReactNode } from 'react';
import { useLists } from '../../data/queries';
import { addList } from '../../data/thingActions';
import { stillFree } from '../../parts/gaps';
import { Code } from '../../parts/signs';
import { useReading } from '../../parts/reading';
import { serverNow } from '../../parts/useNow';
import { Field } from '../../parts/Field';
import { LoadBar } from '../../parts/LoadBar';
import { Choices, type Choice } from './Choices';
import type { Decide } from './decide';
import { momentIn } from './timeWords';

export const go = 'mt-2 w-full bg-teal px-3 py-1 font-semibold text-on-teal';

export function ListPanel({ proposed, choose }: { proposed: string | null; choose: (list: string) => void }): ReactNode {
  const lists = useLists();
  const all = lists.data ?? [];
  const preferred = Math.max(
    0,
    all.findIndex((list) => list.name === proposed),
  );
  if (!lists.data) return null;
  return (
    <>
      <Choices
        label="Lists"
        preferred={preferred}
        choices={all.map((list) => ({
          id: list.id,
          choose: () => choose(list.name),
          content: (
            <>
              <Code code={list.code} hue={list.hue} /> <span className="truncate">{list.name}</span>
            </>
          ),
        }))}
      />
      <NewList all={all} choose={choose} />
    </>
  );
}

/** A list that is not there yet: it is made, and the thing is put on it. */
function NewList({ all, choose }: { all: readonly ListInfo[]; choose: (list: string) => void }): ReactNode {
  const [name, setName] = useState('');
  const wanted = name.trim();
  const there = all.find((list) => list.name.toLowerCase() === wanted.toLowerCase());
  const submit = async (event: FormEvent) => {
    event.preventDefault();
    if (!wanted) return;
    if (there || (await addList(wanted))) choose(there?.name ?? wanted);
  };
  return (
    <form onSubmit={(event) => void submit(event)} className="mt-1 px-1">
      <Field
        id="new-list"
        label="Or a new list called"
        value={name}
        change={setName}
        maxLength={80}
        autoFocus={!all.length}
        says={wanted ? (there ? `Enter puts it on ${there.name}` : `Enter makes the list “${wanted}” and puts it there`) : ''}
      />
    </form>
  );
}

const leftOf = (day: DayInfo) =>
  day.load.over ? `${sayMinutes(day.load.over)} over` : day.load.capacity ? sayMinutes(stillFree(day, serverNow())) : 'no hours';

const roomOf = (day: DayInfo) => (
  <Fragment key={day.day}>
    <LoadBar load={day.load} />
    <span className={`ml-auto text-xs whitespace-nowrap ${day.load.over ? 'text-amber' : 'text-soft'}`}>{leftOf(day)}</span>
  </Fragment>
);

export function DayPanel({
  me,
  today,
  days,
  minutes,
  words = '',
  decide,
}: {
  me: Me;
  today: string;
  days: DayInfo[];
  /** How long it takes, where it gets a time. */
  minutes: number;
  /** What the text says of a day. */
  words?: string | undefined;
  decide: Decide;
}): ReactNode {
  const [text, setText] = useState(words);
  const found = useReading().typedDates(text, { now: serverNow(), zone: me.zone })[0];
  const moment = momentIn(found, today, me.zone);
  const nextWeek = weekOf(addDays(today, 7));
  const choices: Choice[] = [
    // By their dates, so that the numbers mean the same before it is known what is free.
    ...Array.from({ length: 7 }, (_, ahead) => {
      const day = addDays(today, ahead);
      return {
        id: day,
        choose: () => void decide({ to: 'day', day }),
        content: (
          <>
            <span className="w-[84px] shrink-0 whitespace-nowrap">{sayDay(day, today)}</span>
            {days.filter((one) => one.day === day).map(roomOf)}
          </>
        ),
      };
    }),
    { id: 'this', choose: () => void decide({ to: 'week', week: weekOf(today) }), content: <span>This week, any day</span> },
    {
      id: 'next',
      choose: () => void decide({ to: 'week', week: nextWeek }),
      content: <span>Next week, from {sayDay(mondayOf(nextWeek), today)}</span>,
    },
  ];
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (moment !== null) void decide({ to: 'time', start: new Date(moment).toISOString(), minutes });
    else if (found?.day) void decide({ to: 'day', day: found.day });
    else if (found?.week) void decide({ to: 'week', week: found.week });
  };
  return (
    <>
      <Choices label="Days" choices={choices} takesFocus={!words} />
      <form onSubmit={submit} className="mt-1 px-1">
        <Field
          id="day-words"
          label="Or in words: 14 Aug, Friday, week 34, Thu 15:00"
          value={text}
          change={setText}
          autoFocus={words !== ''}
          wrong={text !== '' && !found}
          says={
            moment !== null
              ? `Enter gives it ${sayMinutes(minutes)} on ${sayDay(dayOf(moment, me.zone), today)}, ${sayTime(moment, me.zone)}`
              : found?.day
                ? `Enter puts it on ${sayDay(found.day, today)}`
                : found?.week
                  ? `Enter puts it in week ${Number(found.week.slice(6))}`
                  : text
                    ? 'No day or week in these words'
                    : ''
          }
        />
      </form>
    </>
  );
}

export function ShelfPanel({ today, decide }: { today: string; decide: Decide }): ReactNode {
  const monday = mondayOf(weekOf(addDays(today, 7)));
  const days: [string, string | null][] = [
    ['without a day', null],
    ['tomorrow', addDays(today, 1)],
    ['next week', monday],
    ['in two weeks', addDays(today, 14)],
    ['in a month', addDays(today, 30)],
  ];
  return (
    <Choices
      label="When to look again"
      choices={days.map(([name, day]) => ({
        id: name,
        choose: () => void decide({ to: 'shelf', ...(day ? { lookAgain: day } : {}) }),
        content: (
          <>
            <span>{day ? `Look again ${name}` : 'Shelf, without a day'}</span>
            {day && <span className="ml-auto text-xs text-soft">{sayDay(day, today)}</span>}
          </>
        ),
      }))}
    />
  );
}
