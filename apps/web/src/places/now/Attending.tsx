import type { Me, NowState } from '@corvun/contract';
import { sayMinutes, sayTime } from '@corvun/core';
import { useState, type ReactNode } from 'react';
import { useEvent, writePage } from '../../data/calendarActions';
import { stopTimer } from '../../data/doing';
import { KEYS, keyName } from '../../keys';
import { Key } from '../../parts/signs';
import { useKeys } from '../../parts/useKeys';
import { ANSWERS } from '../../sheets/EventGuests';
import { Notes } from '../../sheets/Notes';
import { NameOf } from '../../sheets/NameOf';
import { useOpenEvent } from '../../sheets/open';
import { CameUp } from './CameUp';
import { Deeds, type NowDeed } from './Deeds';
import { Written } from './Needs';
import { sayAfter, type At, type Standing } from './standing';
import { TickList } from './TickList';
import { TimeBar } from './TimeBar';

interface AttendingProps {
  me: Me;
  now: number;
  state: NowState;
  at: At;
  event: Standing;
}

/** The meeting one is in: how long still, its link, who is there, what it is about, and what was to be prepared. */
export function Attending({ me, now, state, at: { running }, event: { entry, start, end } }: AttendingProps): ReactNode {
  const openEvent = useOpenEvent();
  const [came, setCame] = useState(false);
  const full = useEvent(entry.id, entry.occurrence).data;
  const link = full?.meetingLink ?? '';
  const open = () => openEvent(entry.id, entry.occurrence);
  useKeys({
    [KEYS.now.open]: open,
    [KEYS.sheet.notes]: () => document.getElementById('write-notes')?.click(),
    ...(link && { [KEYS.now.join]: () => window.open(link, '_blank', 'noopener,noreferrer') }),
  });
  const deeds: NowDeed[] = [
    {
      ...{ key: KEYS.now.cameUp, name: 'Something came up', expanded: came },
      run: async () => {
        setCame(true);
        if (state.timer) await stopTimer(true);
      },
    },
    ...(state.timer ? [{ key: KEYS.now.measure, name: `Stop the timer on “${state.timer.title}”`, run: () => stopTimer() }] : []),
  ];
  return (
    <section aria-label="What runs">
      <p className="flex items-baseline justify-between gap-4 text-xs text-soft">
        <span>
          Now, since {sayTime(start, me.zone)}
          {entry.showAs === 'tentative' && ', not answered yet'}
        </span>
        <button type="button" className="flex min-h-6 items-center gap-[6px] hover:text-teal" onClick={open}>
          Open <Key>{keyName(KEYS.now.open)}</Key>
        </button>
      </p>
      <h1 className="mt-1 font-head text-lg font-bold tracking-tight break-words">{entry.title}</h1>
      <p className="mt-2 text-soft">{[entry.calendar, entry.location].filter(Boolean).join(' · ')}</p>
      <TimeBar start={start} end={end} now={now} zone={me.zone} />
      <p className="mt-3 text-md">
        <b className="font-head text-lg">{sayMinutes(running.left)}</b> left, {sayAfter(running, me.zone)}
      </p>
      {link && (
        <a
          href={link}
          target="_blank"
          rel="noreferrer noopener"
          className="mt-5 inline-flex min-h-9 items-center gap-3 bg-teal px-3 font-semibold text-on-teal"
        >
          <Key>{keyName(KEYS.now.join)}</Key> Join
        </a>
      )}
      <Deeds label="What can be done" deeds={deeds} />
      {came && <CameUp close={() => setCame(false)} />}
      {full && (
        <div className="relative mt-6 grid items-start gap-x-8 gap-y-4 lg:grid-cols-2">
          <h2 className="sr-only">What it needs</h2>
          <div>
            <TickList
              label="Before and after it"
              items={full.carried.map((task) => ({ ...task, more: task.at === 'prep' ? 'before' : 'after' }))}
            />
            <Written label="What it is about" text={full.description} />
            <Notes
              draft={`page-${full.id}-${full.occurrence ?? ''}`}
              name="Its page"
              text={full.page?.text ?? ''}
              most={500_000}
              save={async (text) => (await writePage(full, text)) !== null}
            />
          </div>
          {full.guests.length > 0 && (
            <section aria-label="Guests">
              <h3 className="font-head font-semibold">Guests</h3>
              <ul className="mt-1">
                {full.guests.map((guest) => (
                  <li key={guest.address} className="flex min-h-6 items-baseline gap-3">
                    {guest.you ? 'You' : <NameOf address={guest.address}>{guest.name || guest.address}</NameOf>}
                    <span className="ml-auto text-xs text-soft">{ANSWERS[guest.partstat]}</span>
                  </li>
                ))}
              </ul>
            </section>
          )}
        </div>
      )}
    </section>
  );
}
