import { instantOf } from '../time/zones';
import { readDay, readDeadline, readLength, readMoment, readRepeat, readWhen } from './readField';

const ZONE = 'Europe/Vienna';
const context = { now: instantOf('2026-08-03T09:00', ZONE), zone: ZONE };

describe('what is typed into a field', () => {
  it.each([
    ['tomorrow', '2026-08-04'],
    ['Fri 14 Aug', '2026-08-14'],
    ['2026-12-24', '2026-12-24'],
    ['31 June', null],
    ['someday', null],
  ])('the day %s', (text, day) => expect(readDay(text, context)).toBe(day));

  it.each([
    ['Tue 4 Aug', { plannedDay: '2026-08-04', plannedWeek: null }],
    ['next week', { plannedDay: null, plannedWeek: '2026-W33' }],
    ['2026-W34', { plannedDay: null, plannedWeek: '2026-W34' }],
    ['any day', { plannedDay: null, plannedWeek: '2026-W32' }],
    ['nowhere', null],
  ])('when: %s', (text, when) => expect(readWhen(text, context)).toEqual(when));

  it.each([
    ['31 August', { deadline: '2026-08-31', fixed: null }],
    ['due 31 August 12:00', { deadline: '2026-08-31T12:00', fixed: true }],
    ['Friday, flexible', { deadline: '2026-08-07', fixed: false }],
    ['17:00', { deadline: '2026-08-03T17:00', fixed: null }],
    ['2026-08-31T08:30', { deadline: '2026-08-31T08:30', fixed: null }],
    ['soon', null],
  ])('the deadline %s', (text, read) => expect(readDeadline(text, context)).toEqual(read));

  it.each([
    ['tomorrow', '2026-08-04T09:00'],
    ['Fri 14:30', '2026-08-07T14:30'],
    ['when it rains', null],
  ])('the reminder %s', (text, moment) => expect(readMoment(text, context)).toBe(moment));

  it.each([
    ['45', 45],
    ['1 h 30', 90],
    ['half an hour', 30],
    ['0', null],
    ['9999', null],
    ['long', null],
  ])('how long: %s', (text, minutes) => expect(readLength(text)).toBe(minutes));

  it.each([
    ['every other Tuesday', 'FREQ=WEEKLY;INTERVAL=2;BYDAY=TU'],
    ['every 10 days', 'FREQ=DAILY;INTERVAL=10'],
    ['FREQ=MONTHLY;BYDAY=-1FR', 'FREQ=MONTHLY;BYDAY=-1FR'],
    ['FREQ=MONTHLY;BYDAY=9XX', null],
    ['every Tuesday or so', null],
    ['often', null],
  ])('the repeat %s', (text, rule) => expect(readRepeat(text, context)).toBe(rule));
});
