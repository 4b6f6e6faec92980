import type { IncomingLine, Me } from '@corvun/contract';
import { dayOf, sayDay, sayMinutes, type MeetingSaid } from '@corvun/core';
import { useState, type FormEvent, type ReactNode } from 'react';
import { Field } from '../../parts/Field';
import { useReading } from '../../parts/reading';
import { serverNow } from '../../parts/useNow';
import { useDrafts } from './draft';
import { go } from './panels';
import type { Decide } from './decide';

export function EventPanel({
  me,
  line,
  minutes,
  said,
  decide,
}: {
  me: Me;
  line: IncomingLine;
  minutes: number | null;
  /** What the text says of it. */
  said: MeetingSaid;
  decide: Decide;
}): ReactNode {
  const edit = useDrafts((state) => state.edit);
  const draft = useDrafts((state) => state.drafts[line.id]);
  const when = draft?.when ?? line.suggestion?.start?.replace('T', ' ') ?? said.when;
  const setWhen = (value: string) => edit(line.id, { when: value });
  const [guest, setGuest] = useState([...new Set([line.sender.address, ...said.addresses])].filter(Boolean).join(', '));
  const place = draft?.place ?? said.place;
  const setPlace = (value: string) => edit(line.id, { place: value });
  const [inviting, setInviting] = useState(true);
  const [note, setNote] = useState('');
  const length = minutes ?? said.minutes ?? 60;
  const hasAddress = guest.includes('@');
  const found = useReading()
    .typedDates(when, { now: serverNow(), zone: me.zone })
    .find((one) => one.time);
  const day = found?.day ?? (found?.time ? wallToday(me) : null);
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (!found?.time || !day) return;
    const lasts = found.endTime ? Math.max(5, clock(found.endTime) - clock(found.time)) : length;
    void decide({
      to: 'event',
      start: `${day}T${found.time}`,
      minutes: lasts,
      ...(guest.trim() ? { with: guest.trim() } : {}),
      ...(place.trim() ? { location: place.trim() } : {}),
      ...(inviting && hasAddress ? { invite: note.trim() } : {}),
    });
  };
  return (
    <form onSubmit={submit} className="px-1">
      <Field
        id="event-when"
        label="When: Thursday 14:00, or 14:00-15:30"
        value={when}
        change={setWhen}
        autoFocus
        wrong={when !== '' && !found}
        says={
          found?.time && day
            ? `${sayDay(day, wallToday(me))}, ${found.time}${found.endTime ? ` to ${found.endTime}` : `, ${sayMinutes(length)}`}`
            : when
              ? 'Add a day and a time'
              : ''
        }
      />
      <Field id="event-guest" label="With, several parted by commas" value={guest} change={setGuest} />
      <Field id="event-place" label="Place" value={place} change={setPlace} />
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
      {inviting && hasAddress && <Field id="event-note" label="A line with it" value={note} change={setNote} />}
      <button type="submit" className={go}>
        Put it in the calendar
      </button>
    </form>
  );
}

const clock = (time: string) => Number(time.slice(0, 2)) * 60 + Number(time.slice(3, 5));
const wallToday = (me: Me) => dayOf(serverNow(), me.zone);
