import type { DayInfo, IncomingLine, Me } from '@corvun/contract';
import { addDays, dayOf, findDates, mondayOf, sayDay, sayMinutes, weekOf } from '@corvun/core';
import { useEffect, useRef, useState, type FormEvent, type KeyboardEvent, type ReactNode } from 'react';
import { useLists } from '../../data/queries';
import { Code, Key } from '../../parts/marks';
import { serverNow } from '../../parts/useNow';
import { LoadBar } from '../../parts/LoadBar';
import type { Decide } from './SortPlace';

const input = 'w-full border-b border-soft bg-transparent py-1';
const go = 'mt-2 w-full bg-teal px-3 py-1 font-semibold text-on-teal';

interface Choice {
  id: string;
  content: ReactNode;
  choose: () => void;
}

/** A short list of choices: digits choose at once, arrows and Enter walk. Has the focus while it is open. */
function Choices({ label, choices, preferred = 0 }: { label: string; choices: Choice[]; preferred?: number }): ReactNode {
  const frame = useRef<HTMLDivElement>(null);
  useEffect(() => {
    frame.current?.querySelectorAll('button')[preferred]?.focus();
  }, [preferred]);
  const onKeyDown = (event: KeyboardEvent<HTMLDivElement>) => {
    const buttons = [...(frame.current?.querySelectorAll('button') ?? [])];
    const at = buttons.indexOf(document.activeElement as HTMLButtonElement);
    const step = { ArrowDown: 1, ArrowUp: -1 }[event.key];
    const digit = /^[1-9]$/.test(event.key) ? Number(event.key) - 1 : -1;
    if (step) buttons[(at + step + buttons.length) % buttons.length]?.focus();
    else if (choices[digit]) choices[digit]?.choose();
    else return;
    event.preventDefault();
    event.stopPropagation();
  };
  return (
    <div ref={frame} role="group" aria-label={label} onKeyDown={onKeyDown}>
      {choices.map((choice, at) => (
        <button
          key={choice.id}
          type="button"
          className="flex h-[27px] w-full items-center gap-2 px-1 text-left hover:bg-card focus:bg-card"
          onClick={choice.choose}
        >
          <Key>{at < 9 ? at + 1 : ' '}</Key>
          {choice.content}
        </button>
      ))}
    </div>
  );
}

export function ListPanel({ proposed, choose }: { proposed: string | null; choose: (list: string) => void }): ReactNode {
  const lists = useLists();
  const all = lists.data ?? [];
  const preferred = Math.max(
    0,
    all.findIndex((list) => list.name === proposed),
  );
  if (!lists.data) return null;
  if (!all.length) return <p className="text-xs">There is no list yet. Make one in Lists.</p>;
  return (
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
  );
}

const leftOf = ({ load }: DayInfo) =>
  load.over ? `${sayMinutes(load.over)} over` : load.capacity ? sayMinutes(load.left) : 'no hours';

export function DayPanel({ me, today, days, decide }: { me: Me; today: string; days: DayInfo[]; decide: Decide }): ReactNode {
  const [text, setText] = useState('');
  const found = findDates(text, { now: serverNow(), zone: me.zone, language: 'en' })[0];
  const nextWeek = weekOf(addDays(today, 7));
  const choices: Choice[] = [
    ...days.slice(0, 7).map((day) => ({
      id: day.day,
      choose: () => void decide({ to: 'day', day: day.day }),
      content: (
        <>
          <span className="w-[74px] shrink-0">{sayDay(day.day, today)}</span>
          <LoadBar load={day.load} />
          <span className={`ml-auto text-xs whitespace-nowrap ${day.load.over ? 'text-amber' : 'text-soft'}`}>{leftOf(day)}</span>
        </>
      ),
    })),
    { id: 'this', choose: () => void decide({ to: 'week', week: weekOf(today) }), content: <span>This week, any day</span> },
    {
      id: 'next',
      choose: () => void decide({ to: 'week', week: nextWeek }),
      content: <span>Next week, from {sayDay(mondayOf(nextWeek), today)}</span>,
    },
  ];
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (found?.day) void decide({ to: 'day', day: found.day });
    else if (found?.week) void decide({ to: 'week', week: found.week });
  };
  return (
    <>
      <Choices label="Days" choices={choices} />
      <form onSubmit={submit} className="mt-1 px-1">
        <label htmlFor="day-words" className="text-xs text-soft">
          Or in words: 14 Aug, Friday, week 34
        </label>
        <input
          id="day-words"
          className={input}
          value={text}
          autoComplete="off"
          onChange={(event) => setText(event.target.value)}
          aria-describedby="day-read"
        />
        <p id="day-read" className={`h-4 text-xs ${text && !found ? 'text-brick' : 'text-soft'}`}>
          {found?.day
            ? `Enter puts it on ${sayDay(found.day, today)}`
            : found?.week
              ? `Enter puts it in week ${Number(found.week.slice(6))}`
              : text
                ? 'No day or week in these words'
                : ''}
        </p>
      </form>
    </>
  );
}

export function EventPanel({
  me,
  line,
  minutes,
  decide,
}: {
  me: Me;
  line: IncomingLine;
  minutes: number | null;
  decide: Decide;
}): ReactNode {
  const proposed = line.suggestion?.start ?? '';
  const [when, setWhen] = useState(proposed.replace('T', ' '));
  const [guest, setGuest] = useState(line.sender.address);
  const [place, setPlace] = useState('');
  const [inviting, setInviting] = useState(false);
  const [note, setNote] = useState('');
  const hasAddress = guest.includes('@');
  const found = findDates(when, { now: serverNow(), zone: me.zone, language: 'en' }).find((one) => one.time);
  const day = found?.day ?? (found?.time ? wallToday(me) : null);
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (!found?.time || !day) return;
    const length = found.endTime ? Math.max(5, clock(found.endTime) - clock(found.time)) : (minutes ?? 60);
    void decide({
      to: 'event',
      start: `${day}T${found.time}`,
      minutes: length,
      ...(guest.trim() ? { with: guest.trim() } : {}),
      ...(place.trim() ? { location: place.trim() } : {}),
      ...(inviting && hasAddress ? { invite: note.trim() } : {}),
    });
  };
  return (
    <form onSubmit={submit} className="px-1">
      <label htmlFor="event-when" className="text-xs text-soft">
        When: Thursday 14:00, or 14:00-15:30
      </label>
      <input
        id="event-when"
        className={input}
        value={when}
        autoFocus
        autoComplete="off"
        onChange={(event) => setWhen(event.target.value)}
        aria-describedby="event-read"
      />
      <p id="event-read" className="h-4 text-xs text-soft">
        {found?.time && day
          ? `${sayDay(day, wallToday(me))}, ${found.time}${found.endTime ? ` to ${found.endTime}` : `, ${sayMinutes(minutes ?? 60)}`}`
          : when
            ? 'Add a day and a time'
            : ''}
      </p>
      <label htmlFor="event-guest" className="text-xs text-soft">
        With
      </label>
      <input
        id="event-guest"
        className={input}
        value={guest}
        autoComplete="off"
        onChange={(event) => setGuest(event.target.value)}
      />
      <label htmlFor="event-place" className="text-xs text-soft">
        Place
      </label>
      <input
        id="event-place"
        className={input}
        value={place}
        autoComplete="off"
        onChange={(event) => setPlace(event.target.value)}
      />
      {hasAddress && (
        <label className="mt-2 flex items-center gap-2 text-xs">
          <input
            type="checkbox"
            className="accent-teal"
            checked={inviting}
            onChange={(event) => setInviting(event.target.checked)}
          />
          Send an invitation by mail
        </label>
      )}
      {inviting && hasAddress && (
        <>
          <label htmlFor="event-note" className="mt-1 block text-xs text-soft">
            A line with it
          </label>
          <input
            id="event-note"
            className={input}
            value={note}
            autoComplete="off"
            onChange={(event) => setNote(event.target.value)}
          />
        </>
      )}
      <button type="submit" className={go}>
        Put it in the calendar
      </button>
    </form>
  );
}

const clock = (time: string) => Number(time.slice(0, 2)) * 60 + Number(time.slice(3, 5));
const wallToday = (me: Me) => dayOf(serverNow(), me.zone);

export function HandOverPanel({ decide }: { decide: Decide }): ReactNode {
  const [who, setWho] = useState('');
  return (
    <form
      className="px-1"
      onSubmit={(event) => {
        event.preventDefault();
        if (who.trim()) void decide({ to: 'hand-over', with: who.trim() });
      }}
    >
      <label htmlFor="hand-to" className="text-xs text-soft">
        To whom
      </label>
      <input
        id="hand-to"
        className={input}
        value={who}
        autoFocus
        autoComplete="off"
        onChange={(event) => setWho(event.target.value)}
      />
      <button type="submit" className={go}>
        Hand over and wait for it
      </button>
    </form>
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
