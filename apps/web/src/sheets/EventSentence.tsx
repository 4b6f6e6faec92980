import type { EventChange, EventFull } from '@corvun/contract';
import { useState, type ReactNode } from 'react';
import { EVENT_PARTS, eventPart, type EventPartName, type EventSaying } from './eventParts';
import { MoreMenu } from './MoreMenu';
import { PartControl } from './PartControl';

/** What can be added where it says nothing, in this order. */
const OFFERED: EventPartName[] = [
  'repeat',
  'place',
  'link',
  'alarms',
  'buffers',
  'category',
  'private',
  'allDay',
  'end',
  'zone',
  'endZone',
];
/** What only the user sees of a meeting of somebody else. */
const OWN: EventPartName[] = ['category', 'alarms', 'buffers', 'private', 'showAs', 'calendar'];

interface SentenceProps {
  event: EventFull;
  saying: EventSaying;
  save: (change: EventChange) => Promise<boolean>;
  /** Nothing of it can be changed here. */
  readOnly: boolean;
  /** Only what the user sees of it can be. */
  guest: boolean;
}

/** The fields of an event as one sentence, each part changeable where it stands; at its end what else can be said. */
export function EventSentence({ event, saying, save, readOnly, guest }: SentenceProps): ReactNode {
  const [asked, setAsked] = useState<EventPartName | null>(null);
  const has = (name: EventPartName) => eventPart(name, event, saying).shown !== null || asked === name;
  const can = (name: EventPartName) => !readOnly && (!guest || OWN.includes(name));
  const part = (name: EventPartName) =>
    can(name) ? (
      <PartControl
        key={`${name}${asked === name ? '-asked' : ''}`}
        part={eventPart(name, event, saying)}
        save={(change) => void save(change)}
        {...(asked === name && { open: true, closed: () => setAsked(null) })}
      />
    ) : (
      <b className="font-semibold">{eventPart(name, event, saying).shown}</b>
    );
  const missing = OFFERED.filter(
    (name) => name in EVENT_PARTS && !has(name) && can(name) && (!event.allDay || !['zone', 'endZone', 'buffers'].includes(name)),
  );
  return (
    <div role="group" aria-label="What it is" className="mt-3 text-[15px] leading-[27px]">
      In {part('calendar')}, {event.allDay ? '' : 'from '}
      {part('start')}
      {has('end') && (
        <>
          {event.allDay ? ' to ' : ' until '}
          {part('end')}
          {has('endZone') && <> in {part('endZone')}</>}
        </>
      )}
      {has('allDay') && <>, {part('allDay')}</>}
      {has('zone') && <>, kept in the time of {part('zone')}</>}
      {'. '}
      {has('repeat') && <>Repeats {part('repeat')}. </>}
      {has('place') && <>At {part('place')}. </>}
      {has('link') && asked === 'link' && <>With {part('link')}. </>}
      Shown to others as {part('showAs')}
      {has('private') && <>, {part('private')}</>}. {has('alarms') && <>Reminder {part('alarms')}. </>}
      {has('buffers') && <>Beside it {part('buffers')}. </>}
      {has('category') && <>Category {part('category')}. </>}
      {missing.length > 0 && (
        <MoreMenu missing={missing.map((name) => ({ name, label: eventPart(name, event, saying).label }))} ask={setAsked} />
      )}
    </div>
  );
}
