import fc from 'fast-check';
import { asKind, firstRange, nameOf, readRange, sayRange, stepped } from '../src/places/lookback/range';

const TODAY = '2026-08-03';

describe('days that are looked back on', () => {
  it.each([
    ['2026-07-29', 'day', '2026-07-29', '2026-07-29', 'Wed 29 Jul'],
    ['2026-W31', 'week', '2026-07-27', '2026-08-02', '27 Jul – 2 Aug'],
    ['2026-02', 'month', '2026-02-01', '2026-02-28', 'February 2026'],
    ['2025', 'year', '2025-01-01', '2025-12-31', '2025'],
    ['2025-12-30..2026-01-02', 'chosen', '2025-12-30', '2026-01-02', '30 Dec 2025 – 2 Jan'],
  ])('%s is a %s', (name, kind, from, to, says) => {
    const range = readRange(name);
    expect(range).toEqual({ kind, from, to });
    expect(range && [nameOf(range), sayRange(range, TODAY)]).toEqual([name, says]);
  });

  it.each(['', '2026-13', '2026-W60', '2026-02-30', '2026-08-03..2026-08-01', '2026-08-03..', 'last week'])(
    '“%s” is none',
    (name) => {
      expect(readRange(name)).toBeNull();
    },
  );

  it('begins with the week that is far gone, else the one before', () => {
    expect(nameOf(firstRange('2026-08-03'))).toBe('2026-W31');
    expect(nameOf(firstRange('2026-08-06'))).toBe('2026-W32');
  });

  it.each([
    ['2026-07-31', '2026-08-01'],
    ['2026-W53', '2027-W01'],
    ['2026-12', '2027-01'],
    ['2025', '2026'],
    ['2026-07-01..2026-07-10', '2026-07-11..2026-07-20'],
  ])('%s is followed by %s', (name, next) => {
    const range = readRange(name);
    const after = range && stepped(range, 1);
    expect(after && nameOf(after)).toBe(next);
    expect(after && nameOf(stepped(after, -1))).toBe(name);
  });

  it('goes forward and back to where it was, and to what can be read', () => {
    const day = fc.date({ min: new Date('1990-01-01'), max: new Date('2090-12-31'), noInvalidDate: true });
    fc.assert(
      fc.property(day, fc.constantFrom('day', 'week', 'month', 'year'), (date, kind) => {
        const own = date.toISOString().slice(0, 10);
        const range = asKind({ kind: 'day', from: own, to: own }, kind, own);
        expect(range.from <= own && own <= range.to).toBe(true);
        expect(stepped(stepped(range, 1), -1)).toEqual(range);
        expect(readRange(nameOf(range))).toEqual(range);
      }),
    );
  });

  it('in another measure it holds its last day that is not to come', () => {
    const year = readRange('2026');
    const july = readRange('2026-07');
    expect(year && nameOf(asKind(year, 'month', TODAY))).toBe('2026-08');
    expect(july && nameOf(asKind(july, 'week', TODAY))).toBe('2026-W31');
  });
});
