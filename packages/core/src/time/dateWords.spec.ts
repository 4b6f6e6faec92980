import { findDates } from './dateText';
import { instantOf } from './zones';

const ZONE = 'Europe/Vienna';
const at =
  (now: string) =>
  (text: string, language: 'en' | 'de' = 'en') =>
    findDates(text, { now: instantOf(now, ZONE), zone: ZONE, language }).map(
      (one) => `${one.day ?? one.week ?? ''}${one.time ? ` ${one.time}` : ''}${one.endDay ? ` to ${one.endDay}` : ''}`,
    );
const monday = at('2026-08-03T09:00');
const sunday = at('2026-08-02T18:20');

describe('dates in other words', () => {
  it.each<[string, string[]]>([
    ['last Tuesday', ['2026-07-28']],
    ['on last Monday', ['2026-07-27']],
    ['Monday week', ['2026-08-17']],
    ['on Friday week', ['2026-08-14']],
    ['Friday next week', ['2026-08-14']],
    ['next week on Wednesday', ['2026-08-12']],
    ['Thursday of this week', ['2026-08-06']],
    ['Thursday in two weeks', ['2026-08-20']],
    ['Friday the 14th', ['2026-08-14']],
    ['Monday, 10th', ['2026-08-10']],
    ['the 11th at 12:30', ['2026-08-11 12:30']],
    ['Thursday at five', ['2026-08-06 17:00']],
    ['on Friday at half past eight', ['2026-08-07 08:30']],
    ['Tuesday at a quarter to ten', ['2026-08-04 09:45']],
    ['on Wednesday at nine o’clock', ['2026-08-05 09:00']],
    ['this morning', ['2026-08-03']],
    ['end of the week', ['2026-08-07']],
    ['end of next week', ['2026-08-14']],
    ['the end of August', ['2026-08-31']],
    ['by close of business tomorrow', ['2026-08-04']],
    ['move it from Tuesday to Wednesday at 16:00', ['2026-08-04', '2026-08-05 16:00']],
    ['from 10 to 14 August', ['2026-08-10 to 2026-08-14']],
    ['the week after next', ['2026-W34']],
    ['mid-September', ['2026-09-15']],
    ['the middle of May', ['2027-05-15']],
    ['from the 17th to the 23rd', ['2026-08-17 to 2026-08-23']],
    ['the 5th and the 29th', ['2026-08-05', '2026-08-29']],
    ['Good evening, Friday it is', ['2026-08-07']],
    ['Mon 3 Aug 7:00', ['2026-08-03 07:00']],
  ])('%s', (text, expected) => {
    expect(monday(text)).toEqual(expected);
  });

  it.each<[string, string[]]>([
    ['letzten Dienstag', ['2026-07-28']],
    ['Freitag nächster Woche', ['2026-08-14']],
    ['Dienstag in zwei Wochen', ['2026-08-18']],
    ['bis Ende August', ['2026-08-31']],
    ['in KW 34', ['2026-W34']],
    ['heute Abend', ['2026-08-03']],
    ['am 14.8.', ['2026-08-14']],
    ['übernächste Woche', ['2026-W34']],
    ['Mitte Oktober', ['2026-10-15']],
    ['am Freitag um sechs', ['2026-08-07 18:00']],
    ['gegen halb neun', [' 08:30']],
    ['guten morgen', []],
  ])('%s', (text, expected) => {
    expect(monday(text, 'de')).toEqual(expected);
  });

  it.each([
    'two days before',
    'the week after',
    'a third of it',
    'save a third',
    '230 m of hedge',
    'just tell me the day',
    'it usually lasts long',
    'eight hours of work',
  ])('%s names none', (text) => {
    expect(monday(text)).toEqual([]);
  });

  it('never says a day that is over for a stretch that is to come', () => {
    expect(sunday('by the end of the week')).toEqual(['2026-08-07']);
    expect(sunday('this week')).toEqual(['2026-W31']);
  });
});
