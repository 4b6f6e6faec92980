import { MINUTE, addDays, daysBetween, timesBetween, type EventTimes } from '@corvun/core';
import type { Row } from '../base/row';
import { blankEvent } from '../decisions/blanks';
import type { Event } from '../events/event.entity';
import type { Random } from './random';
import { FUND_CALL, SECTION_C } from './invitations';
import { MAREN } from './letter';
import { PEOPLE, ZONE, type Around, type Who } from './world';

type EventDraft = Omit<Event, keyof Row | 'calendarId'> & { calendar: 'Fen' | 'Home' | 'Choir board' };

/** Eight more come of decisions on mail, and one of an invitation. */
const EVENTS = 81;
const WORK: [string, number, string][] = [
  ['Site walk, north bank', 120, 'Gate 3'],
  ['Call with the fund', 30, ''],
  ['Budget with Emil', 45, 'Office'],
  ['County: gauge readings', 60, 'County hall, room 4'],
  ['Volunteer briefing', 60, 'Hut'],
  ['Reed zone survey', 150, 'Reed zone'],
  ['Lea: plots in Halifax', 45, ''],
  ['Boardwalk: contractor on site', 90, 'Section C'],
  ['Talk with Oda', 30, 'Office'],
  ['School visit plan', 30, ''],
  ['Permit office', 60, 'County hall'],
  ['Seed order with Jonas', 30, 'Shed'],
];
const PRIVATE: [string, number, string][] = [
  ['Dentist', 60, 'Market street'],
  ['Bike to the workshop', 30, ''],
  ['Dinner with Klara', 120, ''],
  ['Parents’ evening', 90, 'School'],
  ['Swim', 60, 'Pool'],
  ['Plumber', 60, 'Home'],
];
const CHOIR: [string, number, string][] = [
  ['Choir board', 60, 'Old school'],
  ['Rehearsal', 120, 'Church'],
  ['Concert sheet swap', 45, 'Old school'],
];
const WORK_STARTS = ['09:00', '09:30', '10:00', '11:00', '13:00', '14:00', '14:30', '15:30'];
const EVENING_STARTS = ['17:45', '18:30', '19:00', '19:30'];

/** The demo's 90 events: six weeks back, two ahead, four of them repeating. */
export function demoEvents(around: Around, random: Random): EventDraft[] {
  const events: EventDraft[] = [
    series(around, 'Fen', 'Stand-up at the hut', around.workday(-30), '09:00', 30, 'FREQ=WEEKLY;BYDAY=MO', 'Hut'),
    series(around, 'Fen', 'Crew meeting', around.workday(-28), '08:30', 45, 'FREQ=WEEKLY;BYDAY=WE', 'Hut'),
    series(around, 'Fen', 'Accounts with Emil', around.workday(-25), '16:00', 30, 'FREQ=WEEKLY;INTERVAL=2;BYDAY=TH', 'Office'),
    series(around, 'Home', 'Laundry van', around.workday(-20), '07:30', 15, 'FREQ=WEEKLY;BYDAY=FR', ''),
    allDay(around, 'Fen', 'Volunteer weekend', 9, 2),
    allDay(around, 'Home', 'Klara away', 3, 3),
    allDay(around, 'Home', 'Holiday, coast', -18, 3),
    ...coming(around),
  ];
  const taken = new Map<string, [number, number][]>();
  for (const event of events) note(taken, event.start, minutesOf(event));
  while (events.length < EVENTS) {
    const turn = events.length % 6;
    const [calendar, pool, starts] =
      turn === 5
        ? (['Choir board', CHOIR, EVENING_STARTS] as const)
        : turn === 4
          ? (['Home', PRIVATE, EVENING_STARTS] as const)
          : (['Fen', WORK, WORK_STARTS] as const);
    // Most of it lies behind: the coming days keep room to plan in.
    const day = around.workday(random.between(0, 9) < 8 ? random.between(-30, -1) : random.between(5, 10));
    const [title, minutes, place] = random.pick(pool);
    const start = `${day}T${random.pick(starts)}`;
    if (!free(taken, start, minutes)) continue;
    note(taken, start, minutes);
    events.push(single(around, calendar, title, start, minutes, place));
  }
  return events.map((event, at) => ({ ...event, uid: event.uid || `demo-event-${at}@alderfen.example` }));
}

/** What stands in the coming days is chosen by hand, so that Plan shows a believable week. */
function coming(around: Around): EventDraft[] {
  const on = (count: number, time: string) => `${around.workday(count)}T${time}`;
  return [
    { ...single(around, 'Fen', 'County, gauge 14?', on(0, '14:00'), 60, 'County hall'), status: 'TENTATIVE' },
    single(around, 'Fen', 'Site walk, north bank', on(1, '10:00'), 120, 'Gate 3'),
    single(around, 'Home', 'Dentist', on(1, '16:30'), 60, 'Market street'),
    single(around, 'Fen', 'Boardwalk: contractor on site', on(2, '09:00'), 150, 'Section C'),
    {
      ...single(around, 'Fen', 'Boardwalk section C on site', on(2, '13:00'), 60, 'Section C'),
      ...invited('contractor', SECTION_C),
    },
    single(around, 'Fen', 'Reed zone survey', on(3, '09:30'), 150, 'Reed zone'),
    single(around, 'Choir board', 'Choir board', on(4, '15:00'), 60, 'Old school'),
    single(around, 'Choir board', 'Rehearsal', on(4, '19:30'), 120, 'Old school'),
    { ...single(around, 'Fen', 'Call with the fund', on(4, '10:30'), 30, ''), ...invited('funder', FUND_CALL) },
    { ...single(around, 'Fen', 'Office closed for cleaning', on(3, '16:00'), 60, 'Office'), transparent: true },
  ];
}

/** What an event has that came of an invitation and was accepted. */
const invited = (from: Who, uid: string): Pick<EventDraft, 'uid' | 'organizer' | 'attendees' | 'partstat'> => ({
  uid,
  organizer: PEOPLE[from].address,
  attendees: [{ ...MAREN, partstat: 'ACCEPTED' }],
  partstat: 'ACCEPTED',
});

const draft = (calendar: EventDraft['calendar'], title: string, location: string, times: EventTimes): EventDraft => ({
  ...blankEvent(times, ZONE),
  calendar,
  uid: '',
  title,
  location,
});

function single(
  around: Around,
  calendar: EventDraft['calendar'],
  title: string,
  start: string,
  minutes: number,
  place: string,
): EventDraft {
  const at = around.at(start.slice(0, 10), start.slice(11));
  return draft(calendar, title, place, timesBetween({ start: at, end: at + minutes * MINUTE }, ZONE));
}

function series(
  around: Around,
  calendar: EventDraft['calendar'],
  title: string,
  from: string,
  time: string,
  minutes: number,
  rrule: string,
  place: string,
): EventDraft {
  // DTSTART is always an instance, so it is moved to the first day that the rule names.
  const wanted = ['MO', 'TU', 'WE', 'TH', 'FR'].indexOf(rrule.slice(-2)) + 1;
  let day = from;
  while (((daysBetween('2024-01-01', day) % 7) + 7) % 7 !== wanted - 1) day = addDays(day, 1);
  return { ...single(around, calendar, title, `${day}T${time}`, minutes, place), endAt: null, rrule };
}

function allDay(around: Around, calendar: EventDraft['calendar'], title: string, offset: number, days: number): EventDraft {
  const start = around.workday(offset);
  return { ...draft(calendar, title, '', { start, end: addDays(start, days), allDay: true, zone: null }), transparent: true };
}

const minutesOf = (event: EventDraft) => (event.endAt === null ? 30 : (event.endAt - event.startAt) / MINUTE);
const clock = (start: string) => Number(start.slice(11, 13)) * 60 + Number(start.slice(14, 16));

function note(taken: Map<string, [number, number][]>, start: string, minutes: number): void {
  if (start.length < 16) return;
  taken.set(start.slice(0, 10), [...(taken.get(start.slice(0, 10)) ?? []), [clock(start), clock(start) + minutes]]);
}

function free(taken: Map<string, [number, number][]>, start: string, minutes: number): boolean {
  return !(taken.get(start.slice(0, 10)) ?? []).some(([from, to]) => clock(start) < to && from < clock(start) + minutes);
}
