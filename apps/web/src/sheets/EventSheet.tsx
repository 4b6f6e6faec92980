import type { EventFull, Me } from '@corvun/contract';
import { dayOf, sayTime } from '@corvun/core';
import { useEffect, useRef, type ReactNode } from 'react';
import { Link, useSearchParams } from 'react-router';
import { useEvent } from '../data/calendarActions';
import { useCalendars } from '../data/queries';
import { KEYS } from '../keys';
import { Code } from '../parts/signs';
import { useNow } from '../parts/useNow';
import { EventBody } from './EventBody';
import { giveBack, takesFocus, useSheet } from './open';
import { NotThere, SheetFrame } from './SheetFrame';
import { openMenu, useOwnKeys } from './useSheetKeys';

/** The sheet of an event or of one date of it, at the right over the place it was opened from; on a narrow screen the whole page. */
export function EventSheet({ me, beside }: { me: Me; beside: boolean }): ReactNode {
  const { id, close } = useSheet('event');
  const [query] = useSearchParams();
  return id ? <Open me={me} id={id} date={query.get('date')} close={close} beside={beside} /> : null;
}

interface OpenProps {
  me: Me;
  id: string;
  date: string | null;
  close: () => void;
  beside: boolean;
}

function Open({ me, id, date, close, beside }: OpenProps): ReactNode {
  const event = useEvent(id, date);
  const frame = useRef<HTMLElement>(null);
  const last = useRef(id);
  const now = useNow();
  useEffect(() => {
    last.current = id;
    if (takesFocus(id)) frame.current?.focus({ preventScroll: true });
  }, [id]);
  useEffect(() => () => giveBack(last.current), []);
  const press = (button: string) => () => document.getElementById(button)?.click();
  const onKeyDown = useOwnKeys(
    { id, there: event.data !== undefined, failed: event.isError },
    { [KEYS.sheet.close]: close },
    {
      [KEYS.sheet.name]: () => document.getElementById('sheet-title')?.focus(),
      [KEYS.sheet.notes]: press('write-notes'),
      [KEYS.sheet.more]: () => openMenu('sheet-more'),
      [KEYS.sheet.original]: press('event-origin'),
    },
  );
  return (
    <SheetFrame
      ref={frame}
      id={id}
      label={event.data ? `Event: ${event.data.title}` : 'Event'}
      beside={beside}
      head={event.data && <Crumb event={event.data} me={me} />}
      close={close}
      onKeyDown={onKeyDown}
    >
      {event.data ? (
        <EventBody key={`${id} ${date ?? ''}`} me={me} event={event.data} now={now} today={dayOf(now, me.zone)} close={close} />
      ) : (
        <NotThere what="event" problem={event.error} retry={() => void event.refetch()} />
      )}
    </SheetFrame>
  );
}

/** The calendar it stands in, and the way to its day. */
function Crumb({ event, me }: { event: EventFull; me: Me }): ReactNode {
  const calendar = useCalendars().data?.find((one) => one.id === event.calendarId);
  const day = event.allDay ? event.start : dayOf(Date.parse(event.start), me.zone);
  return (
    <Link
      to={`/plan/${day}?event=${event.id}${event.occurrence ? `&date=${event.occurrence}` : ''}`}
      className="hover:text-ink hover:underline"
    >
      {calendar && (
        <>
          <Code code={calendar.code} hue={calendar.hue} /> {calendar.name}
          {', '}
        </>
      )}
      {event.allDay ? 'all day' : `at ${sayTime(Date.parse(event.start), me.zone)}`}
    </Link>
  );
}
