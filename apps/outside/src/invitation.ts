import { iso } from './clock';

export interface Invited {
  method: 'REQUEST' | 'CANCEL' | 'REPLY' | 'COUNTER';
  from: string;
  to: string;
  uid: string;
  title: string;
  day: string;
  start: string;
  end: string;
  rrule: string;
  sequence: string;
  partstat?: string;
  /** Address of the organizer, when it is not the sender. */
  organizer?: string;
  recurrenceId?: string;
}

const address = (text: string) => /<([^>]+)>/.exec(text)?.[1] ?? text;
const name = (text: string) => text.replace(/\s*<.*/, '');

/** The calendar part of a scheduling mail (RFC 5546). */
export function invitationText(one: Invited): string {
  const stamp = (time: string) => `${one.day.replaceAll('-', '')}T${time.replace(':', '')}00`;
  const answers = one.method === 'REPLY' || one.method === 'COUNTER';
  const guest = answers ? one.from : one.to;
  const organizer = one.organizer || (answers ? one.to : one.from);
  const partstat = answers ? (one.partstat ?? 'TENTATIVE') : 'NEEDS-ACTION';
  return [
    'BEGIN:VCALENDAR',
    'VERSION:2.0',
    'PRODID:-//Outside//Mail//EN',
    `METHOD:${one.method}`,
    'BEGIN:VTIMEZONE',
    'TZID:Yard time',
    'BEGIN:STANDARD',
    'DTSTART:19701025T030000',
    'RRULE:FREQ=YEARLY;BYMONTH=10;BYDAY=-1SU',
    'TZOFFSETFROM:+0200',
    'TZOFFSETTO:+0100',
    'END:STANDARD',
    'BEGIN:DAYLIGHT',
    'DTSTART:19700329T020000',
    'RRULE:FREQ=YEARLY;BYMONTH=3;BYDAY=-1SU',
    'TZOFFSETFROM:+0100',
    'TZOFFSETTO:+0200',
    'END:DAYLIGHT',
    'END:VTIMEZONE',
    'BEGIN:VEVENT',
    `UID:${one.uid}`,
    `SEQUENCE:${one.sequence || 0}`,
    `DTSTAMP:${iso().replace(/[-:]|\.\d+/g, '')}`,
    ...(one.recurrenceId ? [`RECURRENCE-ID;TZID=Yard time:${one.recurrenceId.replace(/[-:]/g, '').slice(0, 13)}00`] : []),
    `DTSTART;TZID=Yard time:${stamp(one.start)}`,
    `DTEND;TZID=Yard time:${stamp(one.end)}`,
    ...(one.rrule ? [`RRULE:${one.rrule}`] : []),
    `SUMMARY:${one.title}`,
    `ORGANIZER;CN=${name(organizer)}:mailto:${address(organizer)}`,
    `ATTENDEE;CN=${name(guest)};PARTSTAT=${partstat}:mailto:${address(guest)}`,
    'END:VEVENT',
    'END:VCALENDAR',
    '',
  ].join('\r\n');
}
