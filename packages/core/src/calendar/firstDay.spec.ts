import { firstDayOf } from './firstDay';

describe('the first day that a rule names', () => {
  it.each([
    ['FREQ=WEEKLY;BYDAY=TU', '2026-08-03', '2026-08-04'],
    ['FREQ=WEEKLY;BYDAY=MO', '2026-08-03', '2026-08-03'],
    ['FREQ=DAILY', '2026-08-03', '2026-08-03'],
    ['FREQ=MONTHLY;BYDAY=-1FR', '2026-08-29', '2026-09-25'],
    ['FREQ=YEARLY;BYMONTH=2;BYMONTHDAY=29', '2026-08-03', '2026-08-03'],
  ])('%s from %s on is %s', (rule, from, day) => {
    expect(firstDayOf(rule, from)).toBe(day);
  });
});
