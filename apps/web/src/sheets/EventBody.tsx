import type { EventFull, Me } from '@corvun/contract';
import { readDay, sayDay } from '@corvun/core';
import { useState, type ReactNode } from 'react';
import { Link } from 'react-router';
import { useYesCost } from '../cost/cost';
import { copyEvent, takeEvent } from '../data/calendarActions';
import { useCalendars } from '../data/queries';
import { button } from '../places/sources/common';
import { minutesUntil, sayDates, type EventSaying } from './eventParts';
import { useLongDraft } from './drafts';
import { EventBeside } from './EventBeside';
import { EventCost, costOf } from './EventCost';
import { EventGuests } from './EventGuests';
import { EventFiles } from './Files';
import { EventPage } from './EventPage';
import { EventSentence } from './EventSentence';
import { History } from './History';
import { Notes } from './Notes';
import { useReplaceEvent } from './open';
import { ScopeChoice } from './ScopeChoice';
import { SheetTitle } from './SheetTitle';
import { TellFirst } from './TellFirst';
import { useEventSave } from './useEventSave';
import { useFileDrop } from './useFileDrop';

/** Minutes before its beginning from which a meeting can be joined. */
const JOIN = 10;

interface BodyProps {
  me: Me;
  event: EventFull;
  now: number;
  today: string;
  close: () => void;
}

/** Everything of an event, each thing changed where it stands. */
export function EventBody({ me, event, now, today, close }: BodyProps): ReactNode {
  const calendars = useCalendars().data ?? [];
  const replace = useReplaceEvent();
  const saving = useEventSave(event, replace);
  const foreign = event.fixed !== null && !event.guest;
  const save = foreign || event.guest ? undefined : saving.save;
  const { data: cost } = useYesCost(costOf(event, now));
  const saying: EventSaying = {
    calendars,
    today,
    now,
    zone: me.zone,
    zones: me.settings.zones,
    before: me.settings.remind.before,
    comesFrom: cost?.comesFrom ?? '',
  };
  const { over, ...drop } = useFileDrop('event', event.id);
  return (
    <div className={`px-6 pb-10 max-md:px-4 ${over}`} {...drop}>
      {save ? (
        <SheetTitle
          draft={`title-${event.id}-${event.occurrence ?? ''}`}
          of="event"
          title={event.title}
          save={(title) => saving.save({ title })}
        />
      ) : (
        <h2 className="font-head text-lg leading-[29px] font-semibold tracking-tight break-words">{event.title}</h2>
      )}
      {event.status === 'CANCELLED' && <p className="text-brick">Cancelled.</p>}
      {event.fixed && <p className="mt-1 text-xs text-soft">{event.fixed}</p>}
      {event.occurrence && !foreign && !event.guest && (
        <ScopeChoice reach={event.reach} scope={saving.scope} choose={saving.choose} what="changes" />
      )}
      {saving.waiting && (
        <TellFirst event={event} change={saving.waiting} today={today} answer={saving.answer} forget={saving.forget} />
      )}
      <EventSentence event={event} saying={saying} save={saving.save} readOnly={foreign} guest={event.guest} />
      {event.nextDates.length > 0 && <p className="mt-1 text-xs text-soft">Dates: {sayDates(event.nextDates, today)}</p>}
      {event.meetingLink && <Join event={event} now={now} />}
      <EventBeside event={event} cost={cost} saving={saving} readOnly={foreign} />
      <EventCost me={me} event={event} today={today} now={now} />
      <EventGuests event={event} save={save} />
      <Notes
        draft={`description-${event.id}`}
        name="About it"
        text={event.description}
        most={50_000}
        save={save && ((description) => saving.save({ description }))}
      />
      <EventPage event={event} />
      <EventFiles event={event} />
      {event.origin && (
        <p className="mt-4 border-t border-rule pt-3 text-xs text-soft">
          Came from{' '}
          <Link id="event-origin" to={`/sort/${event.origin.id}`} className="underline underline-offset-2 hover:text-ink">
            “{event.origin.subject}”
          </Link>{' '}
          by {event.origin.sender.name || event.origin.sender.address}
        </p>
      )}
      {event.link && (
        <p className="mt-2 text-xs">
          <a className="underline underline-offset-2" href={event.link} target="_blank" rel="noreferrer">
            Where it comes from
          </a>
        </p>
      )}
      <Copies event={event} now={now} me={me} today={today} />
      {!foreign && <TakeOut event={event} scope={saving.scope} close={close} />}
      <History lines={event.history} today={today} zone={me.zone} />
    </div>
  );
}

/** The room of a meeting: offered from ten minutes before it begins until it is over. */
function Join({ event, now }: { event: EventFull; now: number }): ReactNode {
  const until = minutesUntil(event.start, now);
  const ready = !event.allDay && until <= JOIN && minutesUntil(event.end, now) > 0;
  return (
    <p className="mt-3 flex items-baseline gap-3">
      <a
        className={
          ready ? 'bg-teal px-3 py-1 font-semibold text-on-teal' : 'min-w-0 truncate text-xs underline underline-offset-2'
        }
        href={event.meetingLink}
        target="_blank"
        rel="noreferrer"
      >
        {ready ? 'Join' : event.meetingLink}
      </a>
      {ready && <span className="text-xs text-soft">{until > 0 ? `begins in ${until} min` : 'it has begun'}</span>}
    </p>
  );
}

/** The same on other days. */
function Copies({ event, now, me, today }: { event: EventFull; now: number; me: Me; today: string }): ReactNode {
  const [text, setText] = useState<string | null>(null);
  const days = (text ?? '')
    .split(/,|;|\band\b/)
    .map((part) => part.trim())
    .filter(Boolean)
    .map((part) => readDay(part, { now, zone: me.zone }));
  const ready = days.length > 0 && days.every((day) => day !== null);
  if (text === null)
    return (
      <p className="mt-4 border-t border-rule pt-3 text-xs">
        <button type="button" className={button} onClick={() => setText('')}>
          Copy to other days …
        </button>
      </p>
    );
  const copy = () => {
    if (ready)
      void copyEvent(
        event.id,
        days.filter((day) => day !== null),
        event.occurrence,
      ).then((done) => done && setText(null));
  };
  return (
    <div className="mt-4 border-t border-rule pt-3">
      <label htmlFor="copy-days" className="block text-xs text-soft">
        Copy to these days
      </label>
      <input
        id="copy-days"
        ref={(field) => field?.focus()}
        className="w-full border-b border-ink bg-transparent py-1"
        placeholder="Thu, Fri and 17 Aug"
        autoComplete="off"
        value={text}
        aria-describedby="copy-days-say"
        onChange={(change) => setText(change.target.value)}
        onKeyDown={(key) => {
          if (key.key === 'Enter') copy();
          if (key.key !== 'Escape') return;
          key.stopPropagation();
          setText(null);
        }}
      />
      <p id="copy-days-say" className="min-h-4 text-xs text-soft" aria-live="polite">
        {ready
          ? `${days.map((day) => sayDay(day ?? '', today)).join(' · ')} · Enter copies it there`
          : text.trim()
            ? 'Write days, parted by commas.'
            : ''}
      </p>
    </div>
  );
}

/** Takes it out of the calendar: as much of it as is chosen above; its guests are told where that is wanted. */
function TakeOut({
  event,
  scope,
  close,
}: {
  event: EventFull;
  scope: 'this' | 'following' | 'all';
  close: () => void;
}): ReactNode {
  const [asking, setAsking] = useState(false);
  const [written, setNote] = useLongDraft(`off-note-${event.id}`);
  const note = written ?? '';
  const take = (tell?: string) => {
    const which = event.occurrence ? { occurrence: event.occurrence, scope } : {};
    void takeEvent(event.id, { ...which, ...(tell === undefined ? {} : { tell }) }).then((done) => {
      if (!done) return;
      setNote(null);
      close();
    });
  };
  return (
    <div className="mt-2 text-xs">
      {asking ? (
        <div role="group" aria-label="Tell the guests that it is off?" className="border-l-2 border-brick bg-card px-3 py-2">
          <label htmlFor="off-note" className="block text-soft">
            A note to the guests, if you like
          </label>
          <textarea
            id="off-note"
            ref={(field) => field?.focus()}
            className="field-sizing-content min-h-10 w-full border border-soft bg-paper p-1"
            maxLength={5000}
            value={note}
            onChange={(change) => setNote(change.target.value)}
          />
          <p className="mt-1 flex flex-wrap gap-2">
            <button type="button" className="bg-brick px-3 py-1 font-semibold text-paper" onClick={() => take(note)}>
              Tell them it is off
            </button>
            <button type="button" className={button} onClick={() => take()}>
              Tell nobody
            </button>
            <button type="button" className={button} onClick={() => setAsking(false)}>
              Leave it
            </button>
          </p>
        </div>
      ) : (
        <button type="button" className={button} onClick={() => (event.others ? setAsking(true) : take())}>
          Take out of the calendar
        </button>
      )}
    </div>
  );
}
