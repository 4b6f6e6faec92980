import fc from 'fast-check';
import { MINUTE, instantOf, wallOf } from '../time/zones';
import { SeriesProblem, type SeriesCommand, type StoredPart } from './command';
import { changeSeries } from './commands';
import { seriesOccurrences } from './series';

const ZONE = 'Europe/Vienna';
const FROM = instantOf('2026-01-01T00:00', ZONE);
const TO = instantOf('2027-12-31T00:00', ZONE);

interface Part extends StoredPart {
  title: string;
}

const part = (more: Partial<Part> = {}): Part => ({
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
  title: 'Board meeting',
  ...more,
});

/** The parts after a command, as the server would keep them. */
function after(parts: readonly Part[], command: SeriesCommand<Part>): Part[] {
  const edit = changeSeries(parts, command, ZONE, 'new@fen.example');
  const changed = parts
    .filter((one) => !edit.remove.includes(one))
    .map((one) => ({ ...one, ...edit.update.find((each) => each.part === one)?.fields }));
  return [...changed, ...edit.insert.map(({ like, fields }) => ({ ...like, ...fields }))];
}

/** Every date as wall-clock time, with its title and its minutes. */
function dates(parts: readonly Part[]): string[] {
  const uids = [...new Set(parts.map((one) => one.uid))];
  return uids
    .flatMap((uid) =>
      seriesOccurrences(
        parts.filter((one) => one.uid === uid),
        FROM,
        TO,
        ZONE,
      ),
    )
    .map(({ part: { title }, occurrence: { start, end } }) => `${wallOf(start, ZONE)} ${title} ${(end - start) / MINUTE}`)
    .sort();
}

const change = (scope: 'this' | 'following' | 'all', occurrence: string | null, to: string, more: Partial<Part> = {}) =>
  ({ do: 'change', scope, occurrence, to: { start: instantOf(to, ZONE) }, fields: more }) as SeriesCommand<Part>;
const days = (parts: readonly Part[]) => dates(parts).map((one) => one.slice(0, 16));

describe('changing a series', () => {
  it('one date is put elsewhere and the others stay', () => {
    const parts = after([part()], change('this', '2026-08-10T09:00', '2026-08-11T15:30'));
    expect(days(parts)).toEqual([
      '2026-08-03T09:00',
      '2026-08-11T15:30',
      '2026-08-17T09:00',
      '2026-08-24T09:00',
      '2026-08-31T09:00',
      '2026-09-07T09:00',
    ]);
    expect(parts[1]).toMatchObject({ recurrenceId: '2026-08-10T09:00', sequence: 1, rrule: null });
  });

  it('from one date on: what is counted is shared between both, and the names of changed dates go along', () => {
    const first = after([part()], change('this', '2026-08-31T09:00', '2026-09-01T12:00'));
    const parts = after(first, change('following', '2026-08-17T09:00', '2026-08-18T10:00'));
    expect(days(parts)).toEqual([
      '2026-08-03T09:00',
      '2026-08-10T09:00',
      '2026-08-18T10:00',
      '2026-08-25T10:00',
      '2026-09-01T12:00',
      '2026-09-08T10:00',
    ]);
    expect(parts.map((one) => [one.uid, one.rrule, one.recurrenceId])).toEqual([
      ['weekly@fen.example', 'FREQ=WEEKLY;COUNT=2', ''],
      ['new@fen.example', null, '2026-09-01T10:00'],
      ['new@fen.example', 'FREQ=WEEKLY;COUNT=4', ''],
    ]);
  });

  it('all: the rule names other days, and every second week stays the same one', () => {
    const rule = part({ rrule: 'FREQ=WEEKLY;INTERVAL=2;BYDAY=MO,SU;UNTIL=20260913T070000Z' });
    const parts = after([rule], change('all', '2026-08-17T09:00', '2026-08-18T11:00'));
    expect(parts[0]?.rrule).toBe('FREQ=WEEKLY;INTERVAL=2;BYDAY=TU,MO;WKST=TU;UNTIL=20260914T090000Z');
    expect(days([rule])).toEqual([
      '2026-08-03T09:00',
      '2026-08-09T09:00',
      '2026-08-17T09:00',
      '2026-08-23T09:00',
      '2026-08-31T09:00',
      '2026-09-06T09:00',
    ]);
    expect(days(parts)).toEqual([
      '2026-08-04T11:00',
      '2026-08-10T11:00',
      '2026-08-18T11:00',
      '2026-08-24T11:00',
      '2026-09-01T11:00',
      '2026-09-07T11:00',
    ]);
  });

  it.each([
    ['FREQ=MONTHLY;BYDAY=1MO;COUNT=3', '2026-08-12T09:00', 'FREQ=MONTHLY;COUNT=3;BYDAY=2WE'],
    ['FREQ=MONTHLY;BYMONTHDAY=3;COUNT=3', '2026-08-12T09:00', 'FREQ=MONTHLY;COUNT=3;BYMONTHDAY=12'],
    ['FREQ=YEARLY;BYMONTH=8;BYMONTHDAY=3', '2026-09-12T09:00', 'FREQ=YEARLY;BYMONTHDAY=12;BYMONTH=9'],
    ['FREQ=DAILY;BYHOUR=9;COUNT=3', '2026-08-03T11:00', 'FREQ=DAILY;COUNT=3;BYHOUR=11'],
  ])('all: %s put on %s', (rrule, to, wanted) => {
    expect(after([part({ rrule })], change('all', null, to))[0]?.rrule).toBe(wanted);
  });

  it.each([
    ['FREQ=MONTHLY;BYDAY=MO,TU;BYSETPOS=1', '2026-08-04T09:00', 'names its days'],
    ['FREQ=DAILY;BYHOUR=9,15', '2026-08-03T10:00', 'several times of the day'],
  ])('says why it cannot move all of %s', (rrule, to, sentence) => {
    expect(() => after([part({ rrule })], change('all', null, to))).toThrow(sentence);
  });

  it('a title changed for all leaves one alone that was changed by hand', () => {
    const named = after([part()], { do: 'change', scope: 'this', occurrence: '2026-08-10T09:00', fields: { title: 'Budget' } });
    const parts = after(named, { do: 'change', scope: 'all', occurrence: null, fields: { title: 'Fund board' } });
    expect(dates(parts).map((one) => one.slice(17))).toEqual([
      'Fund board 60',
      'Budget 60',
      'Fund board 60',
      'Fund board 60',
      'Fund board 60',
      'Fund board 60',
    ]);
  });

  it('keeps the zone an event has, whoever moves it', () => {
    const far = part({ zone: 'America/Halifax', rrule: null, start: '2026-08-03T09:00', end: '2026-08-03T10:00' });
    const [moved] = after([far], change('all', null, '2026-08-04T15:00'));
    expect(moved).toMatchObject({ zone: 'America/Halifax', start: '2026-08-04T10:00', end: '2026-08-04T11:00' });
    const [floating] = after([part({ zone: null, rrule: null })], change('this', null, '2026-08-04T15:00'));
    expect(floating).toMatchObject({ zone: null, start: '2026-08-04T15:00', end: '2026-08-04T16:00' });
  });

  it('taken away: one date, from one on, the last one left, all', () => {
    const remove = (scope: 'this' | 'following' | 'all', occurrence: string | null): SeriesCommand<Part> => ({
      do: 'remove',
      scope,
      occurrence,
    });
    const two = part({ rrule: 'FREQ=WEEKLY;COUNT=2' });
    const one = after([two], remove('this', '2026-08-03T09:00'));
    expect(days(one)).toEqual(['2026-08-10T09:00']);
    expect(after(one, remove('this', '2026-08-10T09:00'))).toEqual([]);
    expect(days(after([part()], remove('following', '2026-08-17T09:00')))).toEqual(['2026-08-03T09:00', '2026-08-10T09:00']);
    expect(after([part()], remove('following', '2026-08-03T09:00'))).toEqual([]);
    const changed = after([part()], change('this', '2026-08-10T09:00', '2026-08-11T15:30'));
    expect(after(changed, remove('all', null))).toEqual([]);
  });

  it('asks which date is meant, and knows when there is none', () => {
    const code = (occurrence: string | null) => {
      try {
        after([part()], change('this', occurrence, '2026-08-11T09:00'));
        return '';
      } catch (problem) {
        return problem instanceof SeriesProblem ? problem.code : String(problem);
      }
    };
    expect([code(null), code('2026-08-11T09:00'), code('2026-08-10'), code('2026-08-10T09:00')]).toEqual([
      'which',
      'no-such-date',
      'no-such-date',
      '',
    ]);
  });

  it('any change moves exactly the dates that are meant, in wall-clock time', () => {
    const rule = fc.constantFrom(
      'FREQ=DAILY;COUNT=9',
      'FREQ=WEEKLY;BYDAY=MO,WE,SU;COUNT=11',
      'FREQ=WEEKLY;INTERVAL=3;BYDAY=MO,SA;UNTIL=20261220T120000Z',
      'FREQ=DAILY;INTERVAL=4;UNTIL=20261101T080000Z',
      'FREQ=MONTHLY;COUNT=7',
    );
    const hours = fc.integer({ min: -9 * 4, max: 14 * 4 }).map((quarters) => quarters * 15);
    fc.assert(
      fc.property(
        rule,
        fc.nat(),
        hours,
        fc.constantFrom('this', 'following', 'all'),
        fc.boolean(),
        (rrule, pick, shift, scope, removed) => {
          const series = part({ rrule, exdates: ['2026-08-05T09:00'] });
          const before = days([series]);
          const at = pick % before.length;
          const key = before[at] ?? '';
          const wall = (text: string) => new Date(Date.parse(`${text}Z`) + shift * MINUTE).toISOString().slice(0, 16);
          const meant = before.filter((_, index) => (scope === 'this' ? index === at : scope === 'all' || index >= at));
          const stay = before.filter((one) => !meant.includes(one));
          const command: SeriesCommand<Part> = removed ? { do: 'remove', scope, occurrence: key } : change(scope, key, wall(key));
          const now = days(after([series], command));
          expect(now).toEqual([...stay, ...(removed ? [] : meant.map(wall))].sort());
        },
      ),
      { numRuns: 200 },
    );
  });
});
