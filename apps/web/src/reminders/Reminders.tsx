import type { Me, ReminderInfo } from '@corvun/contract';
import { addDays, dayOf, instantOf, minutesBetween, sayMinutes, sayTime, wasMissed } from '@corvun/core';
import { useCallback, useRef, useState, type ReactNode } from 'react';
import { DeedsMenu, type Deed } from '../parts/DeedsMenu';
import { useNow } from '../parts/useNow';
import { useOpenEvent, useOpenTask } from '../sheets/open';
import { opens, startOf, untilOf, whenOf } from './words';
import { putOff, thoughtOf, useReminders } from './useReminders';

const LATER = [5, 10, 30, 60];

/** What is to be thought of now, over the place: one in full, the others as lines; what was missed stands together. */
export function Reminders({ me, aside }: { me: Me; aside: boolean }): ReactNode {
  const now = useNow();
  const region = useRef<HTMLElement>(null);
  const [front, setFront] = useState('');
  const [openTask, openEvent] = [useOpenTask(), useOpenEvent()];
  const open = useCallback(
    ({ kind, thing, taskId, occurrence }: ReminderInfo) => {
      if (kind === 'event') openEvent(thing, occurrence);
      else if (taskId) openTask(taskId);
    },
    [openEvent, openTask],
  );
  const say = useCallback((one: ReminderInfo) => whenOf(one, Date.parse(one.at), me.zone), [me.zone]);
  const all = useReminders(me, open, say);
  const missed = all.filter((one) => wasMissed(one, now, me.zone));
  const present = all.filter((one) => !missed.includes(one)).sort((a, b) => startOf(a, me.zone) - startOf(b, me.zone));
  const first = present.find(({ id }) => id === front) ?? present[0];
  const rest = present.filter((one) => one !== first);
  const done = (ids: string[]) => {
    // The next one takes the focus where it stood, else what was worked on before.
    const within = region.current?.contains(document.activeElement);
    void thoughtOf(ids).then(() => {
      if (within) (region.current?.querySelector('button') ?? document.getElementById('place'))?.focus();
    });
  };
  return (
    <section
      ref={region}
      id="reminders"
      aria-label="Reminders"
      className={`fixed top-[108px] z-40 flex w-[320px] flex-col gap-2 max-md:inset-x-3 max-md:w-auto ${aside ? 'right-[468px] max-lg:right-3' : 'right-3'}`}
      onKeyDown={(event) => event.key === 'Escape' && document.getElementById('place')?.focus()}
    >
      {/* Only what is new is said, not how the minutes go by. */}
      <p role="status" className="sr-only">
        {present.length > 0 && `To think of: ${present.map(({ title }) => title).join(', ')}`}
      </p>
      {first && (
        <div className="border border-ink border-l-4 border-l-teal bg-card shadow-lg">
          <Slip one={first} now={now} zone={me.zone} open={() => open(first)} done={() => done([first.id])} />
          {rest.length > 0 && (
            <ul className="max-h-[116px] overflow-y-auto border-t border-rule px-3 py-1" aria-label="Others">
              {rest.map((one) => (
                <li key={one.id} className="flex items-baseline gap-2 text-xs">
                  <span className="shrink-0 text-soft">{untilOf(one, minutesBetween(now, startOf(one, me.zone)))}</span>
                  <button
                    type="button"
                    className="min-h-6 min-w-0 flex-1 truncate text-left font-semibold hover:underline"
                    title="Show it in full"
                    onClick={() => setFront(one.id)}
                  >
                    {one.title}
                  </button>
                  <button type="button" className={deed} aria-label={`Seen: ${one.title}`} onClick={() => done([one.id])}>
                    Seen
                  </button>
                </li>
              ))}
            </ul>
          )}
        </div>
      )}
      {missed.length > 0 && (
        <div className="border border-ink border-l-4 border-l-amber bg-card px-3 py-2 shadow-lg">
          <p className="flex items-baseline justify-between gap-3">
            <b className="font-head font-semibold">Missed while you were away</b>
            <button type="button" className={deed} onClick={() => done(missed.map(({ id }) => id))}>
              {missed.length === 1 ? 'Seen' : 'All seen'}
            </button>
          </p>
          <ul className="mt-1 max-h-[160px] overflow-y-auto">
            {missed.map((one) => (
              <li key={one.id} className="flex items-baseline gap-2 text-xs">
                <span className="shrink-0 text-soft">{whenOf(one, now, me.zone)}</span>
                {opens(one) ? (
                  <button type="button" className="min-h-6 min-w-0 truncate text-left hover:underline" onClick={() => open(one)}>
                    {one.title}
                  </button>
                ) : (
                  <span className="min-w-0 truncate leading-6">{one.title}</span>
                )}
              </li>
            ))}
          </ul>
        </div>
      )}
    </section>
  );
}

const deed = 'min-h-6 text-xs underline underline-offset-2 hover:text-teal';

interface SlipProps {
  one: ReminderInfo;
  now: number;
  zone: string;
  open: () => void;
  done: () => void;
}

function Slip({ one, now, zone, open, done }: SlipProps): ReactNode {
  const ahead = minutesBetween(now, startOf(one, zone));
  const tomorrow = instantOf(`${addDays(dayOf(now, zone), 1)}T09:00`, zone);
  const off = (name: string, minutes: number): Deed => ({ name, run: () => void putOff(one.id, minutes) });
  const later = [
    ...LATER.map((minutes) => off(`In ${sayMinutes(minutes)}`, minutes)),
    ...(ahead > 1 && !LATER.includes(ahead) ? [off('When it begins', ahead)] : []),
    off(`Tomorrow at ${sayTime(tomorrow, zone)}`, minutesBetween(now, tomorrow)),
  ];
  return (
    <article aria-label={one.title} className="px-3 py-2">
      <p className="flex items-baseline justify-between gap-3 text-xs">
        <b className="font-semibold text-teal">{untilOf(one, ahead)}</b>
        <span className="text-soft">{whenOf(one, now, zone)}</span>
      </p>
      <p className="mt-[2px] font-head leading-5 font-semibold break-words">{one.title}</p>
      {one.location && <p className="truncate text-xs text-soft">{one.location}</p>}
      <p className="mt-1 flex gap-4">
        {one.meetingLink && (
          <a
            href={one.meetingLink}
            target="_blank"
            rel="noreferrer noopener"
            className={`${deed} leading-6 font-semibold text-teal`}
          >
            Join
          </a>
        )}
        {opens(one) && (
          <button type="button" className={deed} onClick={open}>
            Open
          </button>
        )}
        <DeedsMenu label="Later" called={`Later: ${one.title}`} className="hover:text-teal" deeds={later} />
        <button type="button" className={`${deed} ml-auto`} onClick={done}>
          Seen
        </button>
      </p>
    </article>
  );
}
