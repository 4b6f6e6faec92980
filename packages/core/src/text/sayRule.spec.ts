import fc from 'fast-check';
import { parseLine } from '../capture/parseLine';
import { instantOf } from '../time/zones';
import { sayRule } from './sayRule';

const TODAY = '2026-08-03';
const read = (text: string) =>
  parseLine(text, { now: instantOf(`${TODAY}T09:00`, 'Europe/Vienna'), zone: 'Europe/Vienna' }).repeat;

describe('sayRule', () => {
  it.each([
    ['FREQ=DAILY', 'every day'],
    ['FREQ=DAILY;INTERVAL=10', 'every 10 days'],
    ['FREQ=WEEKLY;BYDAY=MO,TU,WE,TH,FR', 'every working day'],
    ['FREQ=WEEKLY;BYDAY=MO,TH', 'every Mon and Thu'],
    ['FREQ=WEEKLY;INTERVAL=2;BYDAY=TU', 'every 2 weeks on Tue'],
    ['FREQ=MONTHLY;BYMONTHDAY=3', 'every 3rd of the month'],
    ['FREQ=MONTHLY;BYMONTHDAY=12', 'every 12th of the month'],
    ['FREQ=MONTHLY;BYDAY=-1FR', 'every last Fri of the month'],
    ['FREQ=MONTHLY;BYDAY=FR;BYSETPOS=-1', 'every last Fri of the month'],
    ['FREQ=WEEKLY;BYDAY=MO;COUNT=5', 'every Mon, 5 times'],
    ['FREQ=WEEKLY;UNTIL=20270115T090000Z', 'every week, until Fri 15 Jan 2027'],
    ['FREQ=YEARLY;BYMONTH=3;BYDAY=1SU', 'by the rule FREQ=YEARLY;BYMONTH=3;BYDAY=1SU'],
    ['DAILY0', 'by the rule DAILY0'],
  ])('%s', (rule, words) => expect(sayRule(rule, TODAY)).toBe(words));

  it('says what the capture line reads back as the same rule', () => {
    const day = fc.constantFrom('MO', 'TU', 'WE', 'TH', 'FR', 'SA', 'SU');
    const rules = fc.oneof(
      fc
        .tuple(fc.constantFrom('DAILY', 'WEEKLY', 'MONTHLY', 'YEARLY'), fc.integer({ min: 2, max: 99 }))
        .map(([f, n]) => `FREQ=${f};INTERVAL=${n}`),
      fc.uniqueArray(day, { minLength: 1, maxLength: 4 }).map((days) => `FREQ=WEEKLY;BYDAY=${days.join()}`),
      fc.tuple(fc.integer({ min: 2, max: 20 }), day).map(([n, d]) => `FREQ=WEEKLY;INTERVAL=${n};BYDAY=${d}`),
      fc.integer({ min: 1, max: 31 }).map((n) => `FREQ=MONTHLY;BYMONTHDAY=${n}`),
      fc.tuple(fc.constantFrom(1, 2, 3, 4, -1), day).map(([n, d]) => `FREQ=MONTHLY;BYDAY=${n}${d}`),
    );
    fc.assert(fc.property(rules, (rule) => expect(read(`Look at the gauge ${sayRule(rule, TODAY)}`)).toBe(rule)));
  });
});
