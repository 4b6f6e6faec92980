import { instantOf, isoInZone } from '@corvun/core';
import { expandEvents } from './expandCalendar';
import { readCalendar } from './readCalendar';
import type { WrittenEvent } from './writeCalendar';

export const ZONE = 'Europe/Vienna';
export const file = (...lines: string[]) => ['BEGIN:VCALENDAR', 'VERSION:2.0', ...lines, 'END:VCALENDAR'].join('\r\n');
export const event = (...lines: string[]) => [
  'BEGIN:VEVENT',
  'UID:w@x.example',
  'DTSTAMP:20260801T000000Z',
  'SUMMARY:Walk',
  ...lines,
  'END:VEVENT',
];
export const part = (kind: string, from: string, to: string, ...more: string[]) => [
  `BEGIN:${kind}`,
  `TZOFFSETFROM:${from}`,
  `TZOFFSETTO:${to}`,
  ...(more.length ? more : ['DTSTART:19700101T000000']),
  `END:${kind}`,
];
export const starts = (text: string | Buffer, from = '2026-01-01', to = '2027-01-01', zone = ZONE) =>
  expandEvents(readCalendar(text, zone), instantOf(`${from}T00:00`, zone), instantOf(`${to}T00:00`, zone), zone).map((one) =>
    one.allDay ? one.startDay : isoInZone(one.start, zone).slice(0, 16),
  );

export const WRITTEN: WrittenEvent = {
  uid: 'u@x.example',
  sequence: 2,
  recurrenceId: '',
  following: false,
  seriesZone: null,
  endZone: null,
  start: '2026-08-03T09:00',
  end: '2026-08-03T10:30',
  duration: null,
  allDay: false,
  zone: ZONE,
  title: 'Walk; along, the \\ fen\nwith Ünal',
  description: 'x'.repeat(200),
  location: 'Hut',
  status: 'CONFIRMED',
  transparent: false,
  class: 'PUBLIC',
  category: 'site',
  rrule: 'FREQ=WEEKLY;COUNT=3',
  exrule: null,
  rdates: ['2026-08-07T09:00/2026-08-07T12:00'],
  exdates: ['2026-08-10T09:00'],
  organizer: 'maren@alderfen.example',
  attendees: [{ name: 'Ines "I" Aalto', address: 'ines@aalto-timber.example', partstat: 'ACCEPTED' }],
  meetingLink: '',
  link: '',
  alarms: [
    { action: 'DISPLAY', trigger: '-PT15M', related: 'START' },
    { action: 'EMAIL', trigger: 'PT5M', related: 'END' },
    { action: 'AUDIO', trigger: '20260803T050000Z', related: 'START' },
  ],
  changed: Date.UTC(2026, 7, 1),
  created: Date.UTC(2026, 7, 1),
};
