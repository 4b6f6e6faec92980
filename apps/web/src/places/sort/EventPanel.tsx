import type { IncomingLine, Me } from '@corvun/contract';
import { dayOf, findDates, sayDay, sayMinutes } from '@corvun/core';
import { useState, type FormEvent, type ReactNode } from 'react';
import { serverNow } from '../../parts/useNow';
import { useDrafts } from './draft';
import { go, input } from './panels';
import type { Decide } from './SortPlace';

export function EventPanel({
  me,
  line,
  minutes,
  proposedPlace,
  decide,
}: {
  me: Me;
  line: IncomingLine;
  minutes: number | null;
  /** A place that the text names. */
  proposedPlace: string;
  decide: Decide;
}): ReactNode {
  const edit = useDrafts((state) => state.edit);
  const draft = useDrafts((state) => state.drafts[line.id]);
  const when = draft?.when ?? line.suggestion?.start?.replace('T', ' ') ?? '';
  const setWhen = (value: string) => edit(line.id, { when: value });
  const [guest, setGuest] = useState(line.sender.address);
  const place = draft?.place ?? proposedPlace;
  const setPlace = (value: string) => edit(line.id, { place: value });
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
        With, several parted by commas
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
