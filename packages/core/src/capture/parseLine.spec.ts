import fc from 'fast-check';
import { rrulestr } from 'rrule';
import { instantOf } from '../time/zones';
import type { Draft } from './draft';
import { isRule } from '../calendar/rule';
import { occurrences } from '../calendar/recur';
import { parseLine } from './parseLine';

const ZONE = 'Europe/Vienna';
const LISTS = ['Permits', 'Field season', 'Field', 'Boardwalk repair', 'In town'];
const read = (text: string, lists?: string[]) =>
  parseLine(text, {
    now: instantOf('2026-08-03T09:00', ZONE),
    zone: ZONE,
    ...(lists ? { lists } : {}),
    people: ['Tomas Rieger'],
  });

/** What was said, without what was not. */
function said(text: string, lists?: string[]): Partial<Draft> {
  const { spans: _spans, problems: _problems, ...draft } = read(text, lists);
  return Object.fromEntries(
    Object.entries(draft).filter(
      ([, value]) =>
        value !== null &&
        value !== false &&
        value !== 'normal' &&
        value !== 'schedule' &&
        !(Array.isArray(value) && !value.length),
    ),
  );
}

describe('parseLine', () => {
  it.each<[string, Partial<Draft>]>([
    [
      'Call the contractor tomorrow 10:00 for 45 min #call >Boardwalk repair',
      {
        kind: 'task',
        title: 'Call the contractor',
        date: '2026-08-04',
        time: '10:00',
        minutes: 45,
        tags: ['call'],
        list: 'Boardwalk repair',
      },
    ],
    ['Order seed >"In town" ++', { kind: 'task', title: 'Order seed', list: 'In town', priority: 'high' }],
    ['Sort photos in week 34 1h30 --', { kind: 'task', title: 'Sort photos', week: '2026-W34', minutes: 90, priority: 'low' }],
    ['Send report due Friday 17:00', { kind: 'task', title: 'Send report', deadline: '2026-08-07T17:00', deadlineFixed: true }],
    ['Read draft by 14 Aug', { kind: 'task', title: 'Read draft', deadline: '2026-08-14' }],
    ['Water the plugs every Mon and Thu', { kind: 'task', title: 'Water the plugs', repeat: 'FREQ=WEEKLY;BYDAY=MO,TH' }],
    ['Pay rent every last Friday', { kind: 'task', title: 'Pay rent', repeat: 'FREQ=MONTHLY;BYDAY=-1FR' }],
    [
      'Feed it every 3 days after completion',
      { kind: 'task', title: 'Feed it', repeat: 'FREQ=DAILY;INTERVAL=3', repeatFrom: 'completion' },
    ],
    [
      'Team tea every Wednesday 15:00-15:30',
      { kind: 'event', title: 'Team tea', repeat: 'FREQ=WEEKLY;BYDAY=WE', time: '15:00', endTime: '15:30', minutes: 30 },
    ],
    [
      'Watch Fri 20:00 to Sat 4:00',
      { kind: 'event', title: 'Watch', date: '2026-08-07', time: '20:00', endTime: '04:00', minutes: 480 },
    ],
    ['Back up every 2 weeks', { kind: 'task', title: 'Back up', repeat: 'FREQ=WEEKLY;INTERVAL=2' }],
    ['Plan this week', { kind: 'task', title: 'Plan', week: '2026-W32' }],
    ['Plan next week', { kind: 'task', title: 'Plan', week: '2026-W33' }],
    [
      'Lunch with @Ines Thursday 12:30-13:30',
      {
        kind: 'event',
        title: 'Lunch with Ines',
        date: '2026-08-06',
        time: '12:30',
        endTime: '13:30',
        minutes: 60,
        people: ['Ines'],
      },
    ],
    ['Send keys @Tomas Rieger', { kind: 'task', title: 'Send keys', people: ['Tomas Rieger'] }],
    ['Fence half an hour on 14.8.', { kind: 'task', title: 'Fence', minutes: 30, date: '2026-08-14' }],
    ['Check pump in 2 hours', { kind: 'task', title: 'Check pump', date: '2026-08-03', time: '11:00' }],
    ['Gate 8:00', { kind: 'task', title: 'Gate', date: '2026-08-04', time: '08:00' }],
    ['Gate Monday', { kind: 'task', title: 'Gate', date: '2026-08-10' }],
  ])('%s', (text, expected) => {
    expect(said(text)).toEqual(expected);
  });

  it.each([
    'Learn C#',
    '5 > 3',
    'write e-mail --draft',
    'compare C++ and C',
    'mail a@b.example',
    'gauge #14',
    'stand by the river',
    'every report needs a cover',
    'it may march on',
    'a 2>1 b',
  ])('leaves “%s” whole', (text) => {
    expect(said(text)).toEqual({ kind: 'task', title: text });
    expect(read(text).spans).toEqual([]);
  });

  it.each([
    ['Pay 31 June', '31 June'],
    ['Call 25:00', '25:00'],
    ['Plan Feb 30', 'Feb 30'],
    ['Due 2026-02-30', '2026-02-30'],
    ['29 February 2027 party', '29 February 2027'],
  ])('says of “%s” what is not a date', (text, wrong) => {
    const draft = read(text);
    expect(draft.title).toBe(text);
    expect(draft.problems.map((problem) => problem.text)).toEqual([wrong]);
  });

  it('takes the longest known list name, whatever its case, and says when there is no such list', () => {
    expect(said('Mow >field season tomorrow', LISTS)).toEqual({
      kind: 'task',
      title: 'Mow',
      list: 'Field season',
      date: '2026-08-04',
    });
    const unknown = read('Mow >Meadow', LISTS);
    expect([unknown.list, unknown.title, unknown.problems[0]?.message]).toEqual([
      null,
      'Mow >Meadow',
      'There is no list “Meadow”, so this stays in the title.',
    ]);
  });

  it('marks each field where it stands', () => {
    const text = 'Call tomorrow 10:00 for 45 min #call';
    expect(read(text).spans.map((span) => [span.field, text.slice(span.start, span.end)])).toEqual([
      ['date', 'tomorrow'],
      ['time', '10:00'],
      ['minutes', 'for 45 min'],
      ['tag', '#call'],
    ]);
  });

  it.each<[string, Partial<Draft>]>([
    ['Mow from 4 to 6 May', { kind: 'event', title: 'Mow', date: '2027-05-04', endDate: '2027-05-06' }],
    ['Open day Saturday all day', { kind: 'event', title: 'Open day', date: '2026-08-08' }],
    ['Ring Pia between 2 and 4', { kind: 'task', title: 'Ring Pia', date: '2026-08-03', time: '14:00', endTime: '16:00' }],
    ['Crew 9-12 Thursday', { kind: 'event', title: 'Crew', date: '2026-08-06', time: '09:00', endTime: '12:00', minutes: 180 }],
    ['Count nests every day until 14 August', { kind: 'task', title: 'Count nests', repeat: 'FREQ=DAILY;UNTIL=20260814' }],
    ['Count nests Mondays 3 times', { kind: 'task', title: 'Count nests', repeat: 'FREQ=WEEKLY;BYDAY=MO;COUNT=3' }],
    ['Send it every last Friday of the month', { kind: 'task', title: 'Send it', repeat: 'FREQ=MONTHLY;BYDAY=-1FR' }],
    ['Send it 14 Aug at the latest', { kind: 'task', title: 'Send it', deadline: '2026-08-14', deadlineFixed: true }],
    ['Send it before next week', { kind: 'task', title: 'Send it', deadline: '2026-08-14' }],
    ['Karte bis Freitag', { kind: 'task', title: 'Karte', deadline: '2026-08-07' }],
    ['Pumpe alle zwei Wochen am Montag', { kind: 'task', title: 'Pumpe', repeat: 'FREQ=WEEKLY;INTERVAL=2;BYDAY=MO' }],
    ['Sun cream for the crew', { kind: 'task', title: 'Sun cream for the crew' }],
    ['Print pages 3-5 of the plan', { kind: 'task', title: 'Print pages 3-5 of the plan' }],
    ['Weekly plan for Pia', { kind: 'task', title: 'Weekly plan for Pia' }],
  ])('reads stretches, windows and ends: %s', (text, expected) => {
    expect(said(text)).toEqual(expected);
  });

  it('gives a rule that the recurrence library reads and walks, or none, whatever is typed', () => {
    const word = fc.constantFrom(
      ...'every each on the of month year first last 3rd second other weekly daily annually weekday Monday Mondays Fri and 2 0 31 99 ten'.split(
        ' ',
      ),
      ...'jeden jede alle am im Monat zweiten letzten Dienstag montags 31. 2 Wochen Tage täglich jährlich März until bis times'.split(
        ' ',
      ),
      ...'quarter May 15 January evening morning end from 45'.split(' '),
    );
    fc.assert(
      fc.property(fc.array(word, { minLength: 1, maxLength: 8 }), (words) => {
        const { repeat } = read(words.join(' '));
        if (repeat === null) return;
        expect(isRule(repeat)).toBe(true);
        const from = instantOf('2026-08-03T00:00', ZONE);
        const series = {
          start: '2026-08-03',
          end: '2026-08-04',
          allDay: true,
          zone: null,
          rrule: repeat,
          rdates: [],
          exdates: [],
        };
        expect(occurrences(series, from, from + 40 * 86_400_000, ZONE).length).toBeGreaterThan(0);
        expect(() => rrulestr(`DTSTART:20260803T000000Z\nRRULE:${repeat}`).after(new Date(from))).not.toThrow();
      }),
      { numRuns: 300 },
    );
  });

  it('never throws, never loses a letter that it did not understand, and keeps spans apart', () => {
    const word = fc.oneof(
      fc.string({ maxLength: 12 }),
      fc.constantFrom(
        'tomorrow',
        '10:00',
        '#tag',
        '>Permits',
        '++',
        'by',
        'due',
        'every',
        'Friday',
        '31 June',
        '@Ines',
        'for 45 min',
        'week 34',
        '-',
        '"',
      ),
    );
    fc.assert(
      fc.property(fc.array(word, { maxLength: 9 }), (words) => {
        const text = words.join(' ');
        const draft = read(text, LISTS);
        const kept = draft.title.replace(/\s+/g, '');
        let rest = text;
        for (const span of [...draft.spans].reverse())
          rest = rest.slice(0, span.start) + ' '.repeat(span.end - span.start) + rest.slice(span.end);
        expect(
          draft.spans.every((span, at) => span.end > span.start && (at === 0 || (draft.spans[at - 1]?.end ?? 0) <= span.start)),
        ).toBe(true);
        const letters = (all: string) => all.replace(/[^\p{L}\d]/gu, '');
        const people = draft.people.join('');
        expect(letters(kept).length).toBeGreaterThanOrEqual(letters(rest).length - letters('to until till').length);
        expect(letters(kept).length).toBeLessThanOrEqual(letters(rest).length + letters(people).length);
      }),
      { numRuns: 300 },
    );
  });
});
