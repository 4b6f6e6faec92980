import type { AgendaEntry, TaskInfo } from '@corvun/contract';
import { addDays, sayDay, sayMinutes, saySpan, weekOf } from '@corvun/core';
import type { ReactNode } from 'react';
import { changeEvent } from '../data/calendarActions';
import { pick, useOutline, usePasses, useShortlist } from '../data/passes';
import { useDays, useLists } from '../data/queries';
import { changeTask } from '../data/thingActions';
import { KEYS } from '../keys';
import { Deadline } from '../parts/signs';
import { useNow } from '../parts/useNow';
import { begin } from '../places/plan/proposing';
import { button } from '../places/sources/common';
import { useGiveTime, useOpenEvent, useOpenTask } from '../sheets/open';
import { Items, type Deed } from './Items';
import { Picks } from './Picks';
import type { StepProps } from './stepProps';
import { isFor, putOff, useMine, useNextWorkday } from './useOpenWork';

const MINUTES = 15;
/** Days in which a deadline makes something a candidate for today. */
const SOON = 3;
const MOST_SHOWN = 20;

/** Meetings of the day without time before or after them. */
export function Around({ me, today }: StepProps): ReactNode {
  const openEvent = useOpenEvent();
  const now = useNow();
  const entries = useDays(today, 14).data?.[0]?.entries ?? [];
  const meetings = entries.filter(
    ({ kind, allDay, showAs, status, end }) =>
      kind === 'event' && !allDay && showAs !== 'free' && status !== 'CANCELLED' && Date.parse(end ?? '') > now,
  );
  const beside = (before: boolean) => (entry: AgendaEntry) =>
    changeEvent(entry.id, {
      ...(entry.occurrence ? { occurrence: entry.occurrence, scope: 'this' as const } : {}),
      buffers: {
        prep: before ? MINUTES : wanted(entry, 'prep'),
        followUp: before ? wanted(entry, 'follow-up') : MINUTES,
        travel: wanted(entry, 'travel'),
      },
    });
  const deeds: Deed<AgendaEntry>[] = [
    { key: 'b', name: `${MINUTES} min before`, run: beside(true) },
    { key: 'a', name: `${MINUTES} min after`, run: beside(false) },
    { key: KEYS.card.open, name: 'Open', run: (entry) => openEvent(entry.id, entry.occurrence) },
  ];
  return (
    <Items
      label="Meetings of today"
      items={meetings}
      idOf={({ id, occurrence }) => `${id}${occurrence ?? ''}`}
      deeds={deeds}
      empty="No meeting is still to come today."
    >
      {(entry) => (
        <>
          <span className="min-w-0 flex-1">{entry.title}</span>
          <span className="shrink-0 text-right text-xs text-soft">
            {saySpan(Date.parse(entry.start ?? ''), Date.parse(entry.end ?? ''), me.zone)}
            {entry.buffers.map((one) => (
              <span key={`${one.kind} ${one.start}`} className="block">
                {sayMinutes(one.minutes)} {one.kind === 'prep' ? 'before' : one.kind === 'follow-up' ? 'after' : 'on the way'}
              </span>
            ))}
          </span>
        </>
      )}
    </Items>
  );
}

/** What an event keeps beside itself now; null: what is so for its like. */
const wanted = ({ buffers }: AgendaEntry, kind: string): number | null =>
  buffers.find((one) => one.kind === kind)?.wanted ?? null;

/** A few things that matter most today, each with its time. */
export function Matters({ me, today }: StepProps): ReactNode {
  const openTask = useOpenTask();
  const giveTime = useGiveTime();
  const lists = useLists().data ?? [];
  const picks = usePasses().data?.today.picks ?? [];
  const { most } = me.settings.day;
  const mine = useMine();
  const soon = addDays(today, SOON);
  const { picks: shortlist } = useShortlist();
  const weight = (task: TaskInfo) =>
    (shortlist.includes(task.id) ? -4 : 0) +
    (isFor(task, today, me.zone) ? 0 : 2) +
    (task.deadline !== null && task.deadline.slice(0, 10) <= soon ? 0 : 1);
  const candidates = mine
    .filter(
      (task) =>
        picks.includes(task.id) ||
        shortlist.includes(task.id) ||
        isFor(task, today, me.zone) ||
        task.plannedWeek === weekOf(today) ||
        (task.deadline !== null && task.deadline.slice(0, 10) <= soon),
    )
    .sort((a, b) => weight(a) - weight(b) || (a.deadline ?? '9').localeCompare(b.deadline ?? '9'))
    .slice(0, MOST_SHOWN);
  const picked = candidates.filter(({ id }) => picks.includes(id));
  const placed = picked.filter((task) => task.blocks.length > 0).length;
  return (
    <>
      <Picks
        label="For today"
        items={candidates}
        idOf={({ id }) => id}
        picked={picks.filter((id) => candidates.some((task) => task.id === id))}
        most={most}
        unit="thing"
        called="Matters"
        said="matters"
        more={picked.length > 0 ? `, ${placed} with time` : ''}
        pick={(ids) => pick({ day: today, picks: ids })}
        deeds={[
          { key: 't', name: 'Give it time', run: (task) => giveTime(task.id) },
          { key: KEYS.card.open, name: 'Open', run: (task) => openTask(task.id) },
        ]}
        listOf={({ listId }) => lists.find(({ id }) => id === listId)}
        titleOf={({ title }) => title}
        aside={(task) => (
          <>
            {task.deadline && <Deadline deadline={task.deadline} fixed={task.deadlineFixed} today={today} />}{' '}
            {task.blocks[0]
              ? saySpan(Date.parse(task.blocks[0].start), Date.parse(task.blocks[0].end), me.zone)
              : sayMinutes(task.estimate ?? me.settings.lengths[task.concentration])}
          </>
        )}
        empty="Nothing is planned or due for these days."
      />
      <p className="mt-3 text-xs">
        <button type="button" className={button} onClick={() => void begin({ from: today, days: '1', what: 'these' })}>
          Fill the gaps of today …
        </button>
      </p>
    </>
  );
}

/** Whether the day holds what is promised, and what could give. */
export function Gives({ today }: StepProps): ReactNode {
  const mine = useMine();
  const outline = useOutline(today).data;
  const openTask = useOpenTask();
  const next = useNextWorkday(today);
  if (!outline) return null;
  const load = outline.lines.find(({ part }) => part === 'load')?.text;
  const gives = outline.lines.filter(({ part }) => part === 'gives');
  const away = (id: string) => {
    const task = mine.find((one) => one.id === id);
    return next && task ? putOff([task], today, next) : Promise.resolve(null);
  };
  return (
    <>
      <p className="mb-2">{load}.</p>
      {outline.over === 0 ? (
        <p className="text-soft">It fits.</p>
      ) : (
        <>
          <p className="mb-2 font-semibold text-amber">
            {sayMinutes(outline.over)} more than there is time for. This could give:
          </p>
          <Items
            label="What could give"
            items={gives.flatMap((line) => (line.thing ? [{ ...line, id: line.thing.id }] : []))}
            idOf={({ id }) => id}
            deeds={[
              ...(next ? [{ key: 'd', name: sayDay(next, today), run: ({ id }: { id: string }) => away(id) }] : []),
              { key: 's', name: 'Shelf', run: ({ id }) => changeTask(id, { shelved: true, plannedDay: null }) },
              { key: KEYS.card.open, name: 'Open', run: ({ id }) => openTask(id) },
            ]}
            empty="Everything of today is due, in danger or picked. Meetings could be moved, or a deadline."
          >
            {({ text, reason }) => (
              <>
                <span className="min-w-0 flex-1">{text}</span>
                <span className="shrink-0 text-xs text-soft">{reason}</span>
              </>
            )}
          </Items>
        </>
      )}
    </>
  );
}
