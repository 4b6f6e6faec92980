import { findDates, findNotDates, type Language } from './dateText';
import { findDurations } from './durationText';
import { instantOf } from './zones';

const ZONE = 'Europe/Vienna';
const NOW = instantOf('2026-08-03T09:00', ZONE);

/** The dates of a text as `day time-endTime week`, without what is missing. */
function read(text: string, language: Language = 'en'): string[] {
  return findDates(text, { now: NOW, zone: ZONE, language }).map(({ day, time, endDay, endTime, week }) =>
    [day ?? '', endDay ? `to ${endDay}` : '', time ?? '', endTime ? `to ${endTime}` : '', week ?? ''].filter(Boolean).join(' '),
  );
}

describe('dates in words', () => {
  it.each<[string, string[]]>([
    ['today', ['2026-08-03']],
    ['tomorrow at 9:30', ['2026-08-04 09:30']],
    ['on Friday', ['2026-08-07']],
    ['Monday', ['2026-08-10']],
    ['next Friday', ['2026-08-14']],
    ['14 August', ['2026-08-14']],
    ['Aug 14th 2027', ['2027-08-14']],
    ['1 August', ['2027-08-01']],
    ['2026-08-14', ['2026-08-14']],
    ['14/8', ['2026-08-14']],
    ['14.8.', ['2026-08-14']],
    ['14.08.2027', ['2027-08-14']],
    ['1.8.', ['2027-08-01']],
    ['the 14th', ['2026-08-14']],
    ['the 2nd', ['2026-09-02']],
    ['in 3 days', ['2026-08-06']],
    ['Thursday in two weeks', ['2026-08-20']],
    ['end of this week', ['2026-08-07']],
    ['end of next week', ['2026-08-14']],
    ['end of the month', ['2026-08-31']],
    ['end of February', ['2027-02-28']],
    ['by close of business', ['2026-08-03']],
    ['end of day tomorrow', ['2026-08-04']],
    ['end of day on Friday', ['2026-08-07']],
    ['10:00-11:30', ['10:00 to 11:30']],
    ['from 10 to 11', ['10:00 to 11:00']],
    ['3 pm tomorrow', ['2026-08-04 15:00']],
    ['at noon', ['12:00']],
    ['Monday to Wednesday', ['2026-08-10 to 2026-08-12']],
    ['this week', ['2026-W32']],
    ['next week', ['2026-W33']],
    ['last week', ['2026-W31']],
    ['week 34', ['2026-W34']],
    ['in week 12', ['2027-W12']],
  ])('%s', (text, expected) => {
    expect(read(text)).toEqual(expected);
  });

  it.each<[string, string[]]>([
    ['morgen 9:30', ['2026-08-04 09:30']],
    ['übermorgen', ['2026-08-05']],
    ['bis Freitag, den 14. August', ['2026-08-14']],
    ['am Dienstag um 10 Uhr', ['2026-08-04 10:00']],
    ['Dienstag in zwei Wochen', ['2026-08-18']],
    ['Ende August', ['2026-08-31']],
    ['Ende der Woche', ['2026-08-07']],
    ['nächste Woche', ['2026-W33']],
    ['KW 34', ['2026-W34']],
    ['in Kalenderwoche 40', ['2026-W40']],
  ])('%s, in German', (text, expected) => {
    expect(read(text, 'de')).toEqual(expected);
  });

  it.each([
    'may I',
    'it will march on',
    'the sun sat there',
    'room 12',
    'gauge 14',
    '5 > 3',
    'version 2026',
    'week 54',
    'in August',
    'the minutes',
    'in the next days',
    '40 mm',
    'the 14th-century hut',
  ])('finds none in “%s”', (text) => {
    expect(read(text)).toEqual([]);
  });

  it('says where each stands', () => {
    const text = 'from Monday 10 August until 14 August';
    for (const found of findDates(text, { now: NOW, zone: ZONE, language: 'en' })) {
      expect(text.slice(found.start, found.end)).toBe(found.text);
    }
  });

  it.each([
    ['31 June', ['31 June']],
    ['Feb 30', ['Feb 30']],
    ['30 February 2028', ['30 February 2028']],
    ['29 February 2027', ['29 February 2027']],
    ['29 February 2028', []],
    ['25:00', ['25:00']],
    ['12:60', ['12:60']],
    ['2026-13-01', ['2026-13-01']],
    ['31 July at 23:59', []],
    ['1:2:3 and 1:1000', []],
  ])('what looks like a date or time in “%s” but is none', (text, expected) => {
    expect(findNotDates(text).map((one) => one.text)).toEqual(expected);
  });
});

describe('durations in words', () => {
  it.each<[string, number[]]>([
    ['45 min', [45]],
    ['for 2 hours', [120]],
    ['1h30', [90]],
    ['1 h 30', [90]],
    ['1.5 h', [90]],
    ['1,5 Stunden', [90]],
    ['90m', [90]],
    ['half an hour', [30]],
    ['an hour', [60]],
    ['an hour and a half', [90]],
    ['three quarters of an hour', [45]],
    ['a quarter of an hour', [15]],
    ['ten minutes', [10]],
    ['a 20-minute walk', [20]],
    ['eine halbe Stunde', [30]],
    ['anderthalb Stunden', [90]],
    ['eine Viertelstunde', [15]],
    ['zwei Stunden', [120]],
    ['20 Minuten', [20]],
    ['10 min, then 1 h', [10, 60]],
  ])('%s', (text, expected) => {
    expect(findDurations(text).map((one) => one.minutes)).toEqual(expected);
  });

  it.each([
    'in 20 minutes',
    '2 hours ago',
    'within 24 hours',
    'every 2 hours',
    'am Haus',
    '5 metres',
    'h',
    '30',
    'vor zwei Stunden',
    '0 min',
    'A4 m',
  ])('finds none in “%s”', (text) => {
    expect(findDurations(text)).toEqual([]);
  });
});
