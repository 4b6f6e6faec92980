import { wallOf } from '@corvun/core';
import { PEOPLE, ZONE, type Around, type Who } from './world';

/** A scheduling message of the demo world (RFC 5546). Days are working days from today. */
export interface DemoInvitation {
  method: 'REQUEST' | 'CANCEL';
  uid: string;
  sequence: number;
  title: string;
  place: string;
  from: Who;
  day: number;
  start: string;
  end: string;
  rrule?: string;
}

/** Events that invitations of the demo are about. */
export const SECTION_C = 'section-c-on-site@aalto-timber.example';
export const FUND_CALL = 'call-with-the-fund@wet-places-fund.example';

/** The calendar part as it comes by mail; its zone has a private name, as many programs write it. */
export function invitationText(around: Around, one: DemoInvitation): string {
  const wall = (time: string) => wallOf(around.at(around.workday(one.day), time), ZONE).replace(/[-:]/g, '');
  const written = wallOf(around.at(around.workday(-1), '08:00'), 'UTC').replace(/[-:]/g, '');
  const organizer = PEOPLE[one.from];
  return [
    'BEGIN:VCALENDAR',
    'VERSION:2.0',
    'PRODID:-//Alder Fen//Demo//EN',
    `METHOD:${one.method}`,
    'BEGIN:VTIMEZONE',
    'TZID:House time',
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
    `SEQUENCE:${one.sequence}`,
    `DTSTAMP:${written}00Z`,
    `DTSTART;TZID=House time:${wall(one.start)}00`,
    `DTEND;TZID=House time:${wall(one.end)}00`,
    ...(one.rrule ? [`RRULE:${one.rrule}`] : []),
    `SUMMARY:${one.title}`,
    `LOCATION:${one.place}`,
    `STATUS:${one.method === 'CANCEL' ? 'CANCELLED' : 'CONFIRMED'}`,
    `ORGANIZER;CN=${organizer.name}:mailto:${organizer.address}`,
    'ATTENDEE;CN=Maren Holt;PARTSTAT=NEEDS-ACTION;RSVP=TRUE:mailto:maren.holt@alderfen.example',
    'END:VEVENT',
    'END:VCALENDAR',
    '',
  ].join('\r\n');
}
