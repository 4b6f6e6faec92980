import fc from 'fast-check';
import { instantOf, wallOf } from '../time/zones';
import { alarmAt, isTrigger, readAlarms, sayAlarms, type Alarm } from './alarm';
import { remindersIn, type Reminding } from './reminders';

const ZONE = 'Europe/Vienna';
const at = (wall: string) => instantOf(wall, ZONE);
const display = (trigger: string, related: Alarm['related'] = 'START'): Alarm => ({ action: 'DISPLAY', trigger, related });

describe('alarms (RFC 5545, 3.8.6.3)', () => {
  const meeting = { start: at('2026-08-04T10:00'), end: at('2026-08-04T11:00') };

  it.each([
    ['-PT15M', 'START', '2026-08-04T09:45'],
    ['-P2D', 'START', '2026-08-02T10:00'],
    ['PT5M', 'END', '2026-08-04T11:05'],
    ['-P1W', 'START', '2026-07-28T10:00'],
    ['20260804T050000Z', 'START', '2026-08-04T07:00'],
  ] as const)('%s from its %s', (trigger, related, expected) => {
    expect(wallOf(alarmAt({ trigger, related }, meeting, ZONE) ?? 0, ZONE)).toBe(expected);
  });

  it('counts days on the calendar and hours on the clock, also where the clocks change', () => {
    const monday = { start: at('2026-10-26T00:30'), end: at('2026-10-26T01:00') };
    expect(alarmAt(display('-P1D'), monday, ZONE)).toBe(at('2026-10-25T00:30'));
    expect(alarmAt(display('-PT24H'), monday, ZONE)).toBe(at('2026-10-25T01:30'));
  });

  it.each(['PT', 'soon', '-P400D', '20261301T000000Z', ''])('%s is no trigger', (text) => expect(isTrigger(text)).toBe(false));

  it.each([
    ['10 min before', ['-PT10M']],
    ['15', ['-PT15M']],
    ['1 h and 10 min', ['-PT1H', '-PT10M']],
    ['90 min', ['-PT1H30M']],
    ['at the start', ['PT0M']],
    ['2 days before', ['-P2D']],
    ['a week before, 1 h before', ['-P7D', '-PT1H']],
    ['the day before at 18:00', ['-PT6H']],
    ['on the day at 9am', ['PT9H']],
    ['5 min after the start', ['PT5M']],
    ['none', []],
  ])('%s', (words, triggers) => expect(readAlarms(words)?.map(({ trigger }) => trigger)).toEqual(triggers));

  it.each(['', 'soon', 'before', '10 min or so', 'the day before at 25:00'])('“%s” is not understood', (words) =>
    expect(readAlarms(words)).toBeNull(),
  );

  it('reads what it says', () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: -4000, max: 40_000 }), { maxLength: 3 }), fc.boolean(), (minutes, allDay) => {
        const alarms = minutes.map((one) => display(`${one > 0 ? '-' : ''}PT${Math.abs(one)}M`));
        const read = readAlarms(sayAlarms(alarms, allDay, ZONE));
        // Far from a change of the clocks a day is 24 hours.
        const times = (all: readonly Alarm[] | null) => all?.map((one) => alarmAt(one, { start: 1e12, end: 1e12 }, 'UTC'));
        expect(times(read)).toEqual(times(alarms));
      }),
    );
  });
});

describe('what has to be thought of', () => {
  const rules = { before: 10, blocks: true };
  const event = (more: Partial<Extract<Reminding, { kind: 'event' }>> = {}): Reminding => ({
    ...{ kind: 'event', id: 'e', occurrence: '', allDay: false, zone: ZONE, alarms: null, changed: 0 },
    ...{ start: at('2026-08-04T10:00'), end: at('2026-08-04T11:00') },
    ...more,
  });
  const found = (things: Reminding[], own = rules, after = at('2026-08-04T00:00'), until = at('2026-08-05T00:00')) =>
    remindersIn(things, own, after, until, ZONE).map(
      (one) => `${one.why} ${wallOf(one.at, ZONE).slice(11)}${one.mail ? ' mail' : ''}`,
    );

  it('comes at once where it was made inside its lead time, by its latest alarm, and not when it has begun', () => {
    const made = (changed: string, alarms: Alarm[] | null = null) => [event({ changed: at(changed), alarms })];
    const since = (wall: string) => [rules, at(wall), at('2026-08-05T00:00')] as const;
    expect(found(made('2026-08-04T09:55'), ...since('2026-08-04T09:54'))).toEqual(['event 09:50']);
    expect(found(made('2026-08-04T09:55'), ...since('2026-08-04T09:55'))).toEqual([]);
    expect(found(made('2026-08-04T09:58', [display('-P1D'), display('-PT5M')]), ...since('2026-08-04T09:57'))).toEqual([
      'event 09:55',
    ]);
    expect(found(made('2026-08-04T10:01'), ...since('2026-08-04T09:00'))).toEqual([]);
  });

  it('is each event before it begins, as it says itself or as all do', () => {
    expect(found([event()])).toEqual(['event 09:50']);
    expect(found([event({ alarms: [] })])).toEqual([]);
    expect(found([event({ alarms: [display('-PT1H'), { ...display('-PT5M'), action: 'EMAIL' }] })])).toEqual([
      'event 09:00',
      'event 09:55 mail',
    ]);
    expect(found([event()], { ...rules, before: null as never })).toEqual([]);
    expect(found([event({ allDay: true })])).toEqual([]);
  });

  it('is the beginning of a block, the moment to leave, and what a task asks for', () => {
    const start = at('2026-08-04T13:00');
    const block = (blockKind: string): Reminding => ({ kind: 'block', id: 'b', blockKind, start, changed: 0 });
    const task: Reminding = { kind: 'task', id: 't', reminder: '2026-08-04T08:00', changed: 0 };
    expect(found([block('work'), task])).toEqual(['task 08:00', 'block 13:00']);
    expect(found([block('work'), block('travel')], { ...rules, blocks: false })).toEqual(['leave 13:00']);
  });

  it('leaves out what lies outside, and what was changed when it had begun', () => {
    expect(found([event()], rules, at('2026-08-04T09:50'))).toEqual([]);
    expect(found([event()], rules, at('2026-08-04T00:00'), at('2026-08-04T09:50'))).toEqual(['event 09:50']);
    const changed = event({ changed: at('2026-08-04T10:05') });
    expect(found([changed])).toEqual([]);
    expect(remindersIn([changed], rules, 0, at('2026-08-05T00:00'), ZONE, true)).toHaveLength(1);
  });

  it('says the same in one stretch as in many', () => {
    const things = [event(), event({ id: 'f', alarms: [display('-P1D'), display('PT0M')] })];
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 0, max: 2880 }), { maxLength: 6 }), (cuts) => {
        const first = at('2026-08-03T00:00');
        const points = [0, ...[...cuts].sort((a, b) => a - b), 2880].map((minute) => first + minute * 60_000);
        const parts = points.slice(1).flatMap((until, i) => remindersIn(things, rules, points[i] ?? 0, until, ZONE));
        expect(parts).toEqual(remindersIn(things, rules, first, points.at(-1) ?? 0, ZONE));
      }),
    );
  });
});
