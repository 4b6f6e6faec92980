import { instantOf } from './zones';
import { writersZone, zoneAfter } from './zoneText';

const VIENNA = 'Europe/Vienna';
const HALIFAX = 'UTC-3';

describe('the zone that words name', () => {
  it.each([
    [' UTC, if you can', 'UTC'],
    [' CEST', 'Europe/Berlin'],
    [' Uhr MESZ', 'Europe/Berlin'],
    [' Halifax time?', 'America/Halifax'],
    [' (Halifax time)', 'America/Halifax'],
    [' your time', VIENNA],
    [' my time', HALIFAX],
    [' unserer Zeit', HALIFAX],
    [' Wiener Zeit', null],
    [' Nowhere time', null],
    [' in the hut', null],
    ['', null],
  ])('“10:00%s” is in %s', (after, zone) => {
    expect(zoneAfter(after, HALIFAX, VIENNA)).toBe(zone);
  });
});

describe('the zone a mail was written in', () => {
  const written = instantOf('2026-08-03T09:00', VIENNA);
  it.each<[number | null, string]>([
    [-180, 'UTC-3'],
    [-210, 'UTC-3:30'],
    [330, 'UTC+5:30'],
    [120, VIENNA],
    [0, VIENNA],
    [null, VIENNA],
    [5000, VIENNA],
  ])('an offset of %s minutes means %s', (offset, zone) => {
    expect(writersZone(offset, written, VIENNA)).toBe(zone);
  });
});
