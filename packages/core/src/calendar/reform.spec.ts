import fc from 'fast-check';
import { instantOf, wallOf } from '../time/zones';
import { SeriesProblem, type StoredPart } from './command';
import { changeSeries } from './commands';
import { seriesOccurrences } from './series';
import { reachOf } from './tellSeries';

const ZONE = 'Europe/Vienna';
const FROM = instantOf('2026-01-01T00:00', ZONE);
const TO = instantOf('2027-12-31T00:00', ZONE);

const part = (more: Partial<StoredPart> = {}): StoredPart => ({
  uid: 'weekly@fen.example',
  recurrenceId: '',
  following: false,
  sequence: 0,
  start: '2026-08-03T09:00',
  end: '2026-08-03T10:00',
  allDay: false,
  zone: ZONE,
  rrule: 'FREQ=WEEKLY;COUNT=6',
  exrule: null,
  rdates: [],
  exdates: [],
  duration: null,
  ...more,
});

type Command = Parameters<typeof changeSeries<StoredPart>>[1];

function after(parts: readonly StoredPart[], command: Command): StoredPart[] {
  const edit = changeSeries(parts, command, ZONE, 'new@fen.example');
  const kept = parts
    .filter((one) => !edit.remove.includes(one))
    .map((one) => ({ ...one, ...edit.update.find((each) => each.part === one)?.fields }));
  return [...kept, ...edit.insert.map(({ like, fields }) => ({ ...like, ...fields }))];
}
const starts = (parts: readonly StoredPart[]) =>
  [...new Set(parts.map((one) => one.uid))]
    .flatMap((uid) =>
      seriesOccurrences(
        parts.filter((one) => one.uid === uid),
        FROM,
        TO,
        ZONE,
      ),
    )
    .map(({ occurrence: { start, days } }) => days?.first ?? wallOf(start, ZONE))
    .sort();
const all = (more: Partial<Command & { do: 'change' }>): Command => ({
  do: 'change',
  scope: 'all',
  occurrence: '2026-08-03T09:00',
  fields: {},
  ...more,
});

describe('a series in another form', () => {
  it('becomes one of whole days with its changed and left-out dates, and its last day stays', () => {
    const parts = [
      part({ rrule: 'FREQ=WEEKLY;BYDAY=MO;UNTIL=20260831T070000Z', exdates: ['2026-08-17T09:00'] }),
      part({ rrule: null, recurrenceId: '2026-08-10T09:00', start: '2026-08-11T15:00', end: '2026-08-11T16:00' }),
    ];
    const days = after(parts, all({ to: { start: '2026-08-04', allDay: true, minutes: 1440 } }));
    expect(days[0]).toMatchObject({ rrule: 'FREQ=WEEKLY;BYDAY=TU;UNTIL=20260901', exdates: ['2026-08-18'], zone: null });
    expect(starts(days)).toEqual(['2026-08-04', '2026-08-11T15:00', '2026-08-25', '2026-09-01']);
  });

  it('keeps every date when it goes to whole days and back', () => {
    const days = fc.integer({ min: 1, max: 20 });
    const rule = fc.constantFrom('FREQ=DAILY', 'FREQ=WEEKLY', 'FREQ=WEEKLY;INTERVAL=2;BYDAY=MO,TH', 'FREQ=MONTHLY');
    fc.assert(
      fc.property(rule, days, (freq, count) => {
        const series = part({ rrule: `${freq};COUNT=${count}` });
        const whole = after([series], all({ to: { start: '2026-08-03', allDay: true, minutes: 1440 } }));
        const back = after(
          whole,
          all({
            occurrence: '2026-08-03',
            to: { start: instantOf('2026-08-03T09:00', ZONE), allDay: false, minutes: 60, zone: ZONE },
          }),
        );
        expect(starts(whole)).toEqual(starts([series]).map((one) => one.slice(0, 10)));
        expect(starts(back)).toEqual(starts([series]));
      }),
    );
  });

  it('repeats otherwise from a date on, and one date alone never does', () => {
    const parts = after([part()], all({ scope: 'following', occurrence: '2026-08-17T09:00', rule: 'FREQ=DAILY;COUNT=3' }));
    expect(starts(parts)).toEqual([
      '2026-08-03T09:00',
      '2026-08-10T09:00',
      '2026-08-17T09:00',
      '2026-08-18T09:00',
      '2026-08-19T09:00',
    ]);
    expect(() => after([part()], all({ scope: 'this', rule: 'FREQ=DAILY' }))).toThrow(SeriesProblem);
  });

  it('a single event begins to repeat, and a series ends as the date that is meant', () => {
    expect(starts(after([part({ rrule: null })], all({ rule: 'FREQ=WEEKLY;COUNT=2' })))).toEqual([
      '2026-08-03T09:00',
      '2026-08-10T09:00',
    ]);
    expect(starts(after([part()], all({ occurrence: '2026-08-24T09:00', rule: null })))).toEqual(['2026-08-24T09:00']);
  });
});

describe('how many dates a command reaches', () => {
  const changed = part({ rrule: null, recurrenceId: '2026-08-17T09:00', start: '2026-08-18T09:00', end: '2026-08-18T10:00' });
  const endless = { rrule: 'FREQ=WEEKLY' };
  it.each<[string, StoredPart[], Parameters<typeof reachOf>[1], string, number | null, number]>([
    ['one', [part(), changed], 'this', '2026-08-10T09:00', 1, 0],
    ['one that was changed', [part(), changed], 'this', '2026-08-17T09:00', 1, 1],
    ['all after it', [part(), changed], 'following', '2026-08-10T09:00', 5, 1],
    ['all after the changed one', [part(), changed], 'following', '2026-08-24T09:00', 3, 0],
    ['all', [part(), changed], 'all', '2026-08-10T09:00', 6, 1],
    ['all without end', [part(endless), changed], 'all', '2026-08-10T09:00', null, 1],
    ['an event that does not repeat', [part({ rrule: null })], 'all', '2026-08-03T09:00', 1, 0],
  ])('%s', (_, parts, scope, occurrence, dates, byHand) => {
    expect(reachOf(parts, scope, occurrence, ZONE)).toEqual({ dates, byHand });
  });
});
