import { count, sayAge, sayDay, sayMinutes, saySize } from './say';

describe('saying things', () => {
  it.each([
    [45, '45 min'],
    [60, '1 h'],
    [90, '1 h 30'],
    [65, '1 h 05'],
    [0, '0 min'],
  ])('%i minutes', (minutes, said) => {
    expect(sayMinutes(minutes)).toBe(said);
  });

  it('names the year only where it differs', () => {
    expect([sayDay('2026-08-04', '2026-08-03'), sayDay('2027-09-01', '2026-08-03')]).toEqual(['Tue 4 Aug', 'Wed 1 Sep 2027']);
  });

  it('gives ages, sizes and counts their unit', () => {
    const hour = 3_600_000;
    expect([sayAge(0, 30_000), sayAge(0, hour), sayAge(0, 50 * hour), sayAge(0, 600 * hour)]).toEqual([
      'just now',
      '1 h',
      '2 d',
      '3 wk',
    ]);
    expect([saySize(640), saySize(84_000), saySize(2_500_000), count(1, 'ask'), count(2, 'ask')]).toEqual([
      '640 B',
      '84 kB',
      '2.5 MB',
      '1 ask',
      '2 asks',
    ]);
  });
});
