import type { CalendarInfo, EventChange, EventFull } from '@corvun/contract';
import {
  addDays,
  minutesBetween,
  readAlarms,
  readDay,
  readLength,
  readMoment,
  sayAlarms,
  sayDay,
  sayMinutes,
  sayMoment,
  sayTime,
  wallOf,
} from '@corvun/core';
import { ZONES, cityOf } from '../places/settings/zones';
import { Code } from '../parts/signs';
import { besidePart } from './besidePart';
import { capital, type Part } from './part';
import { repeatPart } from './repeatPart';

/** What the parts of an event are said with. */
export interface EventSaying {
  calendars: readonly CalendarInfo[];
  today: string;
  now: number;
  /** The user's zone, and those shown beside it. */
  zone: string;
  zones: readonly string[];
  /** Minutes before an event that says nothing itself; null: none. */
  before: number | null;
  /** Where one comes from to it; empty where that is not known. */
  comesFrom: string;
}

type Make = (event: EventFull, saying: EventSaying) => Part<EventChange>;

const LENGTHS = [15, 30, 45, 60, 90, 120, 180];
const DAY = 1440;

const startOf = ({ start, allDay }: EventFull, zone: string) => (allDay ? start : wallOf(Date.parse(start), zone));
const laterBy = (wall: string, days: number) => `${addDays(wall.slice(0, 10), days)}${wall.slice(10)}`;

/** A line of text that can be anything. */
const written = (
  label: string,
  placeholder: string,
  text: string,
  change: (text: string) => EventChange,
  none: string,
): Part<EventChange> => ({
  label,
  shown: text || null,
  words: { text, placeholder, read: (words) => ({ change: change(words.trim()), says: words.trim() }) },
  choices: text ? [{ says: none, on: false, change: change('') }] : [],
});

/** Every part of the sentence of an event. */
export const EVENT_PARTS = {
  calendar: ({ calendarId }, { calendars }) => {
    const own = calendars.find((one) => one.id === calendarId);
    return {
      label: 'Calendar',
      shown: own ? (
        <>
          <Code code={own.code} hue={own.hue} /> {own.name}
        </>
      ) : (
        'a calendar'
      ),
      choices: calendars
        .filter((one) => one.origin !== 'feed')
        .map((one) => ({
          says: (
            <>
              <Code code={one.code} hue={one.hue} /> {one.name}
            </>
          ),
          ...(one.main ? { more: 'the main one' } : {}),
          on: one.id === calendarId,
          change: { calendarId: one.id },
        })),
    };
  },
  start: (event, saying) => {
    const { today, zone } = saying;
    const start = startOf(event, zone);
    const to = (wall: string): EventChange => ({ start: wall, minutes: event.minutes });
    return {
      label: 'Begins',
      shown: sayMoment(start, today),
      words: {
        text: sayMoment(start, today),
        placeholder: event.allDay ? 'Fri 14 Aug' : 'Fri 14 Aug 9:30',
        read: (text) => {
          const read = event.allDay ? readDay(text, saying) : momentOn(text, start, saying);
          return read ? { change: to(read), says: sayMoment(read, today) } : 'Not a time. Write “Tue 10:00” or “14 Aug 9:30”.';
        },
      },
      choices: [1, 7, -1].map((days) => ({
        says: sayMoment(laterBy(start, days), today),
        more: days === 1 ? 'a day later' : days === 7 ? 'a week later' : 'a day earlier',
        on: false,
        change: to(laterBy(start, days)),
      })),
    };
  },
  end: (event, saying) => {
    const { today, zone } = saying;
    const start = startOf(event, zone);
    if (event.allDay) {
      const last = addDays(event.end, -1);
      return {
        label: 'Last day',
        shown: event.minutes > DAY ? sayDay(last, today) : null,
        words: {
          text: sayDay(last, today),
          placeholder: 'Sun 16 Aug',
          read: (text) => {
            const day = readDay(text, saying);
            if (!day) return 'Not a day. Write “Sun” or “16 Aug”.';
            return day < start
              ? 'It would end before it begins.'
              : { change: { start, end: addDays(day, 1) }, says: sayDay(day, today) };
          },
        },
        choices: [0, 1, 2, 4].map((days) => ({
          says: days ? sayDay(addDays(start, days), today) : 'One day',
          ...(days ? { more: `${days + 1} days` } : {}),
          on: last === addDays(start, days),
          change: { start, end: addDays(start, days + 1) },
        })),
      };
    }
    const there = event.endZone ?? zone;
    const end = wallOf(Date.parse(event.end), there);
    const shown = end.slice(0, 10) === start.slice(0, 10) ? sayTime(Date.parse(event.end), there) : sayMoment(end, today);
    return {
      label: 'Ends',
      shown,
      words: {
        text: shown,
        placeholder: '11:30, or 1 h 30',
        read: (text) => {
          const length = /[a-z]/i.test(text) ? readLength(text) : null;
          const until = length ? null : momentOn(text, end.slice(0, 10) < start.slice(0, 10) ? start : end, saying);
          if (length) return { change: { start, minutes: length }, says: sayMinutes(length) };
          if (!until) return 'Not a time. Write “11:30”, or how long: “1 h 30”.';
          if (there === zone && until <= start) return 'It would end before it begins.';
          return {
            change: { start, end: until, ...(event.endZone ? { endZone: event.endZone } : {}) },
            says: sayMoment(until, today),
          };
        },
      },
      choices: LENGTHS.map((minutes) => ({
        says: sayMinutes(minutes),
        more: `until ${sayTime(Date.parse(event.start) + minutes * 60_000, zone)}`,
        on: minutes === event.minutes,
        change: { start, minutes },
      })),
    };
  },
  allDay: (event, { zone }) => {
    const day = startOf(event, zone).slice(0, 10);
    return {
      label: 'All day',
      shown: event.allDay ? 'all day' : null,
      choices: [
        {
          says: 'All day',
          on: event.allDay,
          change: event.allDay ? {} : { allDay: true, start: day, minutes: Math.max(1, Math.ceil(event.minutes / DAY)) * DAY },
        },
        {
          says: 'At a time, from 9:00',
          on: !event.allDay,
          change: event.allDay ? { allDay: false, start: `${day}T09:00`, minutes: 60, zone } : {},
        },
      ],
    };
  },
  zone: (event, saying) => ({
    label: 'Time zone',
    shown: !event.allDay && event.zone && event.zone !== saying.zone ? `${cityOf(event.zone)}` : null,
    ...zoneChoice(saying, event.zone ?? saying.zone, (zone) => ({
      // It keeps its hour, and that is meant there.
      start: wallOf(Date.parse(event.start), event.zone ?? saying.zone),
      minutes: event.minutes,
      zone,
    })),
  }),
  endZone: (event, saying) => ({
    label: 'Time zone of the end',
    shown: event.endZone ? cityOf(event.endZone) : null,
    ...zoneChoice(saying, event.endZone ?? '', (endZone) => ({ endZone })),
    ...(event.endZone && {
      choices: [
        ...zoneChoice(saying, event.endZone, (endZone) => ({ endZone })).choices,
        { says: 'The same as it begins in', on: false, change: { endZone: null } },
      ],
    }),
  }),
  repeat: ({ repeat }, saying) => repeatPart(repeat, saying),
  place: ({ location }) => written('Place', 'Gate 3', location, (text) => ({ location: text }), 'No place'),
  link: ({ meetingLink }) => ({
    ...written('Meeting link', 'https://…', meetingLink, (text) => ({ meetingLink: text }), 'No link'),
    shown: meetingLink ? 'a link' : null,
  }),
  category: ({ category }) => written('Category', 'field work', category, (text) => ({ category: text }), 'No category'),
  showAs: ({ showAs, guest }) => ({
    label: 'Shown to others as',
    shown: showAs,
    choices: (guest ? (['busy', 'free'] as const) : (['busy', 'free', 'tentative'] as const)).map((one) => ({
      says: capital(one),
      ...(one === 'free' ? { more: 'takes no time' } : {}),
      on: one === showAs,
      change: { showAs: one },
    })),
  }),
  alarms: ({ alarms, allDay }, { before, zone }) => {
    const usual = allDay || before === null ? 'not reminded of' : before ? `${sayMinutes(before)} before` : 'at the start';
    const words = alarms && sayAlarms(alarms, allDay, zone);
    const choices = allDay
      ? ['none', 'on the day at 8:00', 'the day before at 18:00', '2 days before at 18:00']
      : ['none', 'at the start', '5 min before', '15 min before', '1 h before', '1 day before'];
    return {
      label: 'Reminder',
      shown: words && (alarms.length ? words : 'no reminder'),
      words: {
        text: words ?? '',
        placeholder: allDay ? 'the day before at 18:00' : '1 h and 10 min before',
        read: (text) => {
          const read = readAlarms(text);
          return read
            ? { change: { alarms: read }, says: sayAlarms(read, allDay, zone) }
            : 'Not a reminder. Write “15 min before”, “1 day before” or “none”.';
        },
      },
      choices: [
        { says: 'As every event', more: usual, on: alarms === null, change: { alarms: null } },
        ...choices.map((one) => ({
          says: one === 'none' ? 'No reminder' : capital(one),
          on: words === one,
          change: { alarms: readAlarms(one) },
        })),
      ],
    };
  },
  buffers: (event, { comesFrom }) => besidePart(event, comesFrom),
  private: ({ private: hidden }) => ({
    label: 'Private',
    shown: hidden ? 'private' : null,
    choices: [
      { says: 'Private', more: 'others see only that there is something', on: hidden, change: { private: true } },
      { says: 'Not private', on: !hidden, change: { private: false } },
    ],
  }),
} as const satisfies Record<string, Make>;

export type EventPartName = keyof typeof EVENT_PARTS;

/** A part as it is for an event. */
export const eventPart = (name: EventPartName, event: EventFull, saying: EventSaying): Part<EventChange> =>
  EVENT_PARTS[name](event, saying);

/** A time in words; one without a day is meant on the day it is on now. */
function momentOn(text: string, now: string, saying: EventSaying): string | null {
  const clock = /^\s*(\d{1,2})(?:[:.](\d{2}))?\s*(am|pm)?\s*$/i.exec(text);
  if (!clock) return readMoment(text, saying);
  const [, hour = '', minute = '00', half] = clock;
  const hours = half ? (Number(hour) % 12) + (half.toLowerCase() === 'pm' ? 12 : 0) : Number(hour);
  if (hours > 23 || Number(minute) > 59) return null;
  return `${now.slice(0, 10)}T${String(hours).padStart(2, '0')}:${minute}`;
}

function zoneChoice(
  { zone, zones }: EventSaying,
  own: string,
  change: (zone: string) => EventChange,
): Pick<Part<EventChange>, 'choices'> & Required<Pick<Part<EventChange>, 'words'>> {
  const near = [...new Set([zone, ...zones])];
  return {
    words: {
      text: own ? cityOf(own) : '',
      placeholder: 'Helsinki',
      read: (text) => {
        const like = text.trim().toLowerCase().replaceAll(' ', '_');
        const found =
          ZONES.find((one) => one.toLowerCase() === like) ??
          ZONES.find((one) => one.toLowerCase().split('/').at(-1) === like) ??
          ZONES.find((one) => one.toLowerCase().includes(like));
        return found ? { change: change(found), says: found } : 'No such place. Write a city, for example “Helsinki”.';
      },
    },
    choices: near.map((one) => ({ says: cityOf(one), on: one === own, change: one === own ? {} : change(one) })),
  };
}

/** How far away a moment is, for whoever wants to join. */
export const minutesUntil = (iso: string, now: number): number => minutesBetween(now, Date.parse(iso));

/** The dates of a series that come, in words; their time only where it is another than that of the first. */
export const sayDates = (dates: readonly string[], today: string): string =>
  dates
    .map((date) => (date.slice(10) === dates[0]?.slice(10) ? sayDay(date.slice(0, 10), today) : sayMoment(date, today)))
    .join(' · ');
