import fc from 'fast-check';
import { IANAZone } from 'luxon';
import { SteadyZone } from './steadyZone';

const ZONES = ['Europe/Vienna', 'America/New_York', 'Africa/Casablanca', 'Asia/Kathmandu', 'Australia/Lord_Howe', 'Pacific/Apia'];
const QUARTER = 900_000;

describe('a zone that remembers its offsets', () => {
  it('has the offsets of the zone database, at any time', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...ZONES),
        fc.integer({ min: Date.UTC(1950, 0), max: Date.UTC(2060, 0) }),
        (name, instant) => SteadyZone.of(name)?.offset(instant) === IANAZone.create(name).offset(instant),
      ),
      { numRuns: 2000 },
    );
  });

  it.each(ZONES)('changes at the very moment: %s', (name) => {
    const [steady, exact] = [SteadyZone.of(name), IANAZone.create(name)];
    // Apia left a whole day out at the end of 2011.
    for (let instant = Date.UTC(2011, 11, 28); instant < Date.UTC(2012, 0, 2); instant += QUARTER)
      expect(steady?.offset(instant)).toBe(exact.offset(instant));
    for (let instant = Date.UTC(2026, 9, 24); instant < Date.UTC(2026, 10, 2); instant += QUARTER)
      expect(steady?.offset(instant)).toBe(exact.offset(instant));
  });

  it('is the same one for the same name, and none for a name nobody knows', () => {
    expect(SteadyZone.of('Europe/Vienna')).toBe(SteadyZone.of('Europe/Vienna'));
    expect(SteadyZone.of('Fen/Nowhere')).toBeNull();
    expect(SteadyZone.of('Europe/Vienna')?.offset(Number.NaN)).toBeNaN();
  });
});
