import fc from 'fast-check';
import { minutesIn, union } from '../time/intervals';
import { MINUTE, instantOf, wallOf } from '../time/zones';
import { agendaOf, busyOf, takenBy, type AgendaEvent } from './agenda';

const ZONE = 'Europe/Vienna';
const at = (wall: string) => instantOf(wall, ZONE);
const WINDOW = { start: at('2026-08-03T00:00'), end: at('2026-08-04T00:00') };

const event = (id: string, from: string, to: string, more: Partial<AgendaEvent> = {}): AgendaEvent => ({
  id,
  calendarId: 'fen',
  recurrenceId: '',
  following: false,
  start: `2026-08-03T${from}`,
  end: `2026-08-03T${to}`,
  allDay: false,
  zone: ZONE,
  rrule: null,
  rdates: [],
  exdates: [],
  status: 'CONFIRMED',
  transparent: false,
  ...more,
});

const CALENDARS = [
  { id: 'fen', shown: true, busy: true },
  { id: 'hidden', shown: false, busy: true },
  { id: 'seen', shown: true, busy: false },
  { id: 'off', shown: false, busy: false },
];

const agenda = (events: AgendaEvent[], blocks = [{ id: 'b', startAt: 0, endAt: 0, busy: true }]) =>
  agendaOf(
    events.map((one) => [one]),
    blocks,
    CALENDARS,
    WINDOW,
    ZONE,
  );

describe('an agenda', () => {
  it('counts what is hidden, and not what is only looked at; what is neither is there all the same', () => {
    const { events } = agenda([
      event('a', '09:00', '10:00'),
      event('b', '10:00', '11:00', { calendarId: 'hidden' }),
      event('c', '11:00', '12:00', { calendarId: 'seen' }),
      event('d', '12:00', '13:00', { calendarId: 'off' }),
      event('e', '13:00', '14:00', { transparent: true }),
      event('f', '14:00', '15:00', { status: 'CANCELLED' }),
    ]);
    expect(events.map((one) => [one.part.id, one.shown, one.cause !== null])).toEqual([
      ['a', true, true],
      ['b', false, true],
      ['c', true, false],
      ['d', false, false],
      ['e', true, false],
      ['f', true, false],
    ]);
  });

  it('says what takes each stretch', () => {
    const { events, blocks } = agenda(
      [event('a', '09:00', '11:00', { rrule: 'FREQ=DAILY' }), event('b', '10:00', '12:00', { status: 'TENTATIVE' })],
      [{ id: 'w', startAt: at('2026-08-03T10:30'), endAt: at('2026-08-03T10:45'), busy: true }],
    );
    const busy = busyOf([...events, ...blocks]);
    expect(
      busy.map((one) => [
        wallOf(one.start, ZONE).slice(11),
        wallOf(one.end, ZONE).slice(11),
        one.causes.map((cause) => cause.id).join(),
      ]),
    ).toEqual([
      ['09:00', '10:00', 'a'],
      ['10:00', '10:30', 'a,b'],
      ['10:30', '10:45', 'a,b,w'],
      ['10:45', '11:00', 'a,b'],
      ['11:00', '12:00', 'b'],
    ]);
    expect(busy[0]?.causes[0]).toMatchObject({ kind: 'event', occurrence: '2026-08-03T09:00', tentative: false, shown: true });
    expect(takenBy(busy, (cause) => !cause.tentative)).toEqual([{ start: at('2026-08-03T09:00'), end: at('2026-08-03T11:00') }]);
  });

  it('takes exactly the minutes of which some cause says so', () => {
    const stretch = fc.tuple(fc.integer({ min: 0, max: 300 }), fc.integer({ min: 0, max: 90 }), fc.boolean());
    fc.assert(
      fc.property(fc.array(stretch, { maxLength: 15 }), (list) => {
        const entries = list.map(([from, length, counts], id) => ({
          start: from * MINUTE,
          end: (from + length) * MINUTE,
          cause: counts
            ? { kind: 'block' as const, id: String(id), occurrence: null, calendarId: null, tentative: false, shown: true }
            : null,
        }));
        const busy = busyOf(entries);
        const within = <T extends { start: number; end: number }>(all: readonly T[], minute: number) =>
          all.filter((one) => one.start <= minute * MINUTE && one.end > minute * MINUTE);
        const wrong = Array.from({ length: 400 }, (_, minute) => minute).filter((minute) => {
          const causes = within(entries, minute).flatMap((one) => one.cause?.id ?? []);
          const found = within(busy, minute).map((one) =>
            one.causes
              .map((cause) => cause.id)
              .sort()
              .join(),
          );
          return found.join('|') !== causes.sort().join();
        });
        expect(wrong).toEqual([]);
        expect(minutesIn(takenBy(busy))).toBe(minutesIn(union(entries.filter((one) => one.cause))));
      }),
      { numRuns: 60 },
    );
  });
});
