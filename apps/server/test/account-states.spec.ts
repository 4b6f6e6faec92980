import { readObject, writeCalendar } from '@corvun/formats';
import fc from 'fast-check';
import type { User } from '../src/accounts/user.entity';
import { blankEvent, blankTask } from '../src/decisions/blanks';
import type { Event } from '../src/events/event.entity';
import { written } from '../src/events/written';
import { partsOfObject, stateOfEvent } from '../src/events/event-state';
import { stateOfTask, stateOfTodo, writtenTodo } from '../src/tasks/todo-state';
import type { Task } from '../src/tasks/task.entity';

const user = {
  email: 'maren@alderfen.example',
  captureAddress: 'm@c.example',
  zone: 'Europe/Vienna',
  settings: {},
} as unknown as User;
const row = { ownerId: 'u', version: 1, created: 0, changed: Date.UTC(2026, 7, 1) };
const text = fc.string({ maxLength: 30, unit: fc.constantFrom('a', 'ö', ' ', ',', ';', '\\', '\n', '"', ':', '=', '…', 'z') });
const day = fc.integer({ min: 1, max: 27 }).map((at) => `2026-08-${String(at).padStart(2, '0')}`);
const clock = fc
  .tuple(fc.integer({ min: 0, max: 22 }), fc.constantFrom('00', '15', '45'))
  .map(([hour, minute]) => `${String(hour).padStart(2, '0')}:${minute}`);
const guest = fc.record({
  name: fc.constantFrom('', 'Ines Aalto', 'Rieger, Tomas'),
  address: fc.constantFrom('ines@x.example', 'tomas@x.example', 'bo@x.example'),
  partstat: fc.constantFrom('NEEDS-ACTION', 'ACCEPTED', 'DECLINED', 'TENTATIVE'),
});

const event: fc.Arbitrary<Event> = fc
  .record({
    ...{ day, clock, title: text, description: text, location: text, category: text, hours: fc.integer({ min: 0, max: 1 }) },
    ...{ allDay: fc.boolean(), zone: fc.constantFrom('Europe/Vienna', 'America/Halifax', 'UTC', null) },
    ...{
      status: fc.constantFrom('CONFIRMED', 'TENTATIVE'),
      transparent: fc.boolean(),
      class: fc.constantFrom('PUBLIC', 'PRIVATE'),
    },
    ...{
      rrule: fc.constantFrom(null, 'FREQ=WEEKLY;COUNT=4', 'FREQ=DAILY;UNTIL=20260901'),
      link: fc.constantFrom('', 'https://x.example/a'),
    },
    ...{ attendees: fc.uniqueArray(guest, { selector: ({ address }) => address, maxLength: 3 }) },
    alarms: fc.constantFrom(null, [], [{ action: 'DISPLAY', trigger: '-PT10M', related: 'START' }]),
  })
  .map(({ day: on, clock: at, hours, allDay, zone, ...rest }) => {
    const start = allDay ? on : `${on}T${at}`;
    const end = allDay
      ? `2026-08-${String(Number(on.slice(8)) + 1 + hours).padStart(2, '0')}`
      : `${on}T${String(Number(at.slice(0, 2)) + hours).padStart(2, '0')}${at.slice(2)}`;
    const times = { allDay, zone: allDay ? null : zone, start, end };
    const about = { id: 'e', uid: 'u1', calendarId: 'c' };
    const organizer = rest.attendees.length ? 'maren@alderfen.example' : '';
    return {
      ...row,
      ...blankEvent(times, user.zone),
      ...about,
      ...rest,
      title: rest.title.trim() || 'x',
      organizer,
    } as unknown as Event;
  });

const stateThere = (rows: readonly Event[]) =>
  stateOfEvent(partsOfObject(readObject(writeCalendar('', written(rows), [], user.email), user.zone).events, user).parts, user);
const said = (state: object) => Object.fromEntries(Object.entries(state).filter(([, value]) => value !== null));

it('an event that was written there and is read from there is the same: nothing goes back and forth by itself', () => {
  fc.assert(
    fc.property(event, (one) => {
      expect(said(stateThere([one]))).toEqual(said(stateOfEvent([one], user)));
    }),
    { numRuns: 400 },
  );
});

it('so are its changed dates', () => {
  fc.assert(
    fc.property(event, event, (series, other) => {
      const repeating = {
        ...series,
        rrule: 'FREQ=WEEKLY;COUNT=4',
        allDay: false,
        zone: 'Europe/Vienna',
        start: `${series.start.slice(0, 10)}T09:00`,
        end: `${series.start.slice(0, 10)}T10:00`,
      };
      const changed = { ...other, id: 'd', rrule: null, recurrenceId: repeating.start };
      expect(said(stateThere([repeating, changed]))).toEqual(said(stateOfEvent([repeating, changed], user)));
    }),
    { numRuns: 200 },
  );
});

it('and so are tasks', () => {
  const task = fc.record({
    ...{
      title: text,
      notes: text,
      deadline: fc.option(
        fc.oneof(
          day,
          fc.tuple(day, clock).map((at) => at.join('T')),
        ),
      ),
      plannedDay: fc.option(day),
    },
    ...{ priority: fc.constantFrom('high', 'normal', 'low'), estimate: fc.option(fc.integer({ min: 5, max: 600 })) },
    ...{
      status: fc.constantFrom('NEEDS-ACTION', 'IN-PROCESS', 'COMPLETED', 'CANCELLED'),
      repeat: fc.constantFrom(null, 'FREQ=WEEKLY'),
    },
  });
  fc.assert(
    fc.property(task, fc.option(fc.constant('above')), (one, parent) => {
      const whole = { ...row, ...blankTask(), ...one, id: 't', title: one.title.trim() || 'x' } as unknown as Task;
      const [todo] = readObject(
        writeCalendar('', [], [writtenTodo(whole, user, 't@corvun', parent)], user.email),
        user.zone,
      ).todos;
      expect(todo && said(stateOfTodo(todo))).toEqual(said(stateOfTask(whole, parent)));
    }),
    { numRuns: 300 },
  );
});
