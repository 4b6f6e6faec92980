import { instantOf, wallOf } from '../time/zones';
import { occurrences } from './recur';

const ZONE = 'America/New_York';

/** `1997 Sep 2 4, Oct 2; 1998 Jan 1 31` as days; `Sep 2-11` is every day of them. */
function daysOf(text: string): string[] {
  const months = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec'];
  return text.split('; ').flatMap((part) => {
    const [, year = '', rest = ''] = /^(\d{4}) (.*)$/.exec(part) ?? [];
    return rest.split(', ').flatMap((one) => {
      const [month = '', ...days] = one.split(' ');
      return days.flatMap((day) => {
        const [from = 0, to = from] = day.split('-').map(Number);
        const number = String(months.indexOf(month) + 1).padStart(2, '0');
        return Array.from({ length: to - from + 1 }, (_, at) => `${year}-${number}-${String(from + at).padStart(2, '0')}`);
      });
    });
  });
}

const wallsOf = (start: string, rrule: string, most: number, exdates: string[] = []) => {
  const event = { start, end: start, allDay: false, zone: ZONE, rrule, rdates: [], exdates };
  const from = instantOf(start, ZONE);
  // As far as one has to look for so many: the rarest of these is every four years.
  for (const years of [1, 15]) {
    const found = occurrences(event, from, from + years * 366 * 86_400_000, ZONE);
    if (found.length >= most || years === 15) return found.slice(0, most).map((one) => wallOf(one.start, ZONE));
  }
  return [];
};

/** Every example of the standard: what it is called, DTSTART, the rule, and the dates it gives; without an end the first of them. */
const DAYS: [string, string, string, string, string[]?][] = [
  ['daily, ten times', '1997-09-02', 'FREQ=DAILY;COUNT=10', '1997 Sep 2-11'],
  ['daily until Christmas Eve', '1997-09-02', 'FREQ=DAILY;UNTIL=19971224T000000Z', '1997 Sep 2-30, Oct 1-31, Nov 1-30, Dec 1-23'],
  ['every other day', '1997-09-02', 'FREQ=DAILY;INTERVAL=2', '1997 Sep 2 4 6 8 10 12 14 16 18 20 22 24 26 28 30, Oct 2 4'],
  ['every ten days, five times', '1997-09-02', 'FREQ=DAILY;INTERVAL=10;COUNT=5', '1997 Sep 2 12 22, Oct 2 12'],
  [
    'every day in January, by year',
    '1998-01-01',
    'FREQ=YEARLY;UNTIL=20000131T140000Z;BYMONTH=1;BYDAY=SU,MO,TU,WE,TH,FR,SA',
    '1998 Jan 1-31; 1999 Jan 1-31; 2000 Jan 1-31',
  ],
  [
    'every day in January, by day',
    '1998-01-01',
    'FREQ=DAILY;UNTIL=20000131T140000Z;BYMONTH=1',
    '1998 Jan 1-31; 1999 Jan 1-31; 2000 Jan 1-31',
  ],
  ['weekly, ten times', '1997-09-02', 'FREQ=WEEKLY;COUNT=10', '1997 Sep 2 9 16 23 30, Oct 7 14 21 28, Nov 4'],
  [
    'weekly until Christmas Eve',
    '1997-09-02',
    'FREQ=WEEKLY;UNTIL=19971224T000000Z',
    '1997 Sep 2 9 16 23 30, Oct 7 14 21 28, Nov 4 11 18 25, Dec 2 9 16 23',
  ],
  [
    'every other week',
    '1997-09-02',
    'FREQ=WEEKLY;INTERVAL=2;WKST=SU',
    '1997 Sep 2 16 30, Oct 14 28, Nov 11 25, Dec 9 23; 1998 Jan 6 20, Feb 3 17',
  ],
  [
    'Tuesdays and Thursdays until 7 October',
    '1997-09-02',
    'FREQ=WEEKLY;UNTIL=19971007T000000Z;WKST=SU;BYDAY=TU,TH',
    '1997 Sep 2 4 9 11 16 18 23 25 30, Oct 2',
  ],
  [
    'Tuesdays and Thursdays, ten times',
    '1997-09-02',
    'FREQ=WEEKLY;COUNT=10;WKST=SU;BYDAY=TU,TH',
    '1997 Sep 2 4 9 11 16 18 23 25 30, Oct 2',
  ],
  [
    'Mondays, Wednesdays and Fridays of every other week',
    '1997-09-01',
    'FREQ=WEEKLY;INTERVAL=2;UNTIL=19971224T000000Z;WKST=SU;BYDAY=MO,WE,FR',
    '1997 Sep 1 3 5 15 17 19 29, Oct 1 3 13 15 17 27 29 31, Nov 10 12 14 24 26 28, Dec 8 10 12 22',
  ],
  [
    'Tuesdays and Thursdays of every other week',
    '1997-09-02',
    'FREQ=WEEKLY;INTERVAL=2;COUNT=8;WKST=SU;BYDAY=TU,TH',
    '1997 Sep 2 4 16 18 30, Oct 2 14 16',
  ],
  [
    'the first Friday, ten times',
    '1997-09-05',
    'FREQ=MONTHLY;COUNT=10;BYDAY=1FR',
    '1997 Sep 5, Oct 3, Nov 7, Dec 5; 1998 Jan 2, Feb 6, Mar 6, Apr 3, May 1, Jun 5',
  ],
  [
    'the first Friday until Christmas Eve',
    '1997-09-05',
    'FREQ=MONTHLY;UNTIL=19971224T000000Z;BYDAY=1FR',
    '1997 Sep 5, Oct 3, Nov 7, Dec 5',
  ],
  [
    'the first and last Sunday of every other month',
    '1997-09-07',
    'FREQ=MONTHLY;INTERVAL=2;COUNT=10;BYDAY=1SU,-1SU',
    '1997 Sep 7 28, Nov 2 30; 1998 Jan 4 25, Mar 1 29, May 3 31',
  ],
  [
    'the second to last Monday',
    '1997-09-22',
    'FREQ=MONTHLY;COUNT=6;BYDAY=-2MO',
    '1997 Sep 22, Oct 20, Nov 17, Dec 22; 1998 Jan 19, Feb 16',
  ],
  [
    'the third to last day',
    '1997-09-28',
    'FREQ=MONTHLY;BYMONTHDAY=-3',
    '1997 Sep 28, Oct 29, Nov 28, Dec 29; 1998 Jan 29, Feb 26',
  ],
  [
    'the 2nd and the 15th',
    '1997-09-02',
    'FREQ=MONTHLY;COUNT=10;BYMONTHDAY=2,15',
    '1997 Sep 2 15, Oct 2 15, Nov 2 15, Dec 2 15; 1998 Jan 2 15',
  ],
  [
    'the first and the last day',
    '1997-09-30',
    'FREQ=MONTHLY;COUNT=10;BYMONTHDAY=1,-1',
    '1997 Sep 30, Oct 1 31, Nov 1 30, Dec 1 31; 1998 Jan 1 31, Feb 1',
  ],
  [
    'the 10th to the 15th of every 18th month',
    '1997-09-10',
    'FREQ=MONTHLY;INTERVAL=18;COUNT=10;BYMONTHDAY=10,11,12,13,14,15',
    '1997 Sep 10-15; 1999 Mar 10-13',
  ],
  [
    'Tuesdays of every other month',
    '1997-09-02',
    'FREQ=MONTHLY;INTERVAL=2;BYDAY=TU',
    '1997 Sep 2 9 16 23 30, Nov 4 11 18 25; 1998 Jan 6 13 20 27, Mar 3 10 17 24 31',
  ],
  [
    'in June and July',
    '1997-06-10',
    'FREQ=YEARLY;COUNT=10;BYMONTH=6,7',
    '1997 Jun 10, Jul 10; 1998 Jun 10, Jul 10; 1999 Jun 10, Jul 10; 2000 Jun 10, Jul 10; 2001 Jun 10, Jul 10',
  ],
  [
    'in January, February and March of every other year',
    '1997-03-10',
    'FREQ=YEARLY;INTERVAL=2;COUNT=10;BYMONTH=1,2,3',
    '1997 Mar 10; 1999 Jan 10, Feb 10, Mar 10; 2001 Jan 10, Feb 10, Mar 10; 2003 Jan 10, Feb 10, Mar 10',
  ],
  [
    'the 1st, 100th and 200th day of every third year',
    '1997-01-01',
    'FREQ=YEARLY;INTERVAL=3;COUNT=10;BYYEARDAY=1,100,200',
    '1997 Jan 1, Apr 10, Jul 19; 2000 Jan 1, Apr 9, Jul 18; 2003 Jan 1, Apr 10, Jul 19; 2006 Jan 1',
  ],
  ['the 20th Monday of the year', '1997-05-19', 'FREQ=YEARLY;BYDAY=20MO', '1997 May 19; 1998 May 18; 1999 May 17'],
  ['the Monday of week 20', '1997-05-12', 'FREQ=YEARLY;BYWEEKNO=20;BYDAY=MO', '1997 May 12; 1998 May 11; 1999 May 17'],
  [
    'Thursdays in March',
    '1997-03-13',
    'FREQ=YEARLY;BYMONTH=3;BYDAY=TH',
    '1997 Mar 13 20 27; 1998 Mar 5 12 19 26; 1999 Mar 4 11 18 25',
  ],
  [
    'Thursdays in summer',
    '1997-06-05',
    'FREQ=YEARLY;BYDAY=TH;BYMONTH=6,7,8',
    '1997 Jun 5 12 19 26, Jul 3 10 17 24 31, Aug 7 14 21 28; 1998 Jun 4 11 18 25, Jul 2 9 16 23 30, Aug 6 13 20 27',
  ],
  [
    'Fridays the 13th',
    '1997-09-02',
    'FREQ=MONTHLY;BYDAY=FR;BYMONTHDAY=13',
    '1998 Feb 13, Mar 13, Nov 13; 1999 Aug 13; 2000 Oct 13',
    ['1997-09-02T09:00'],
  ],
  [
    'the Saturday after the first Sunday',
    '1997-09-13',
    'FREQ=MONTHLY;BYDAY=SA;BYMONTHDAY=7,8,9,10,11,12,13',
    '1997 Sep 13, Oct 11, Nov 8, Dec 13; 1998 Jan 10, Feb 7, Mar 7, Apr 11, May 9, Jun 13',
  ],
  [
    'the Tuesday after a Monday in November of every fourth year',
    '1996-11-05',
    'FREQ=YEARLY;INTERVAL=4;BYMONTH=11;BYDAY=TU;BYMONTHDAY=2,3,4,5,6,7,8',
    '1996 Nov 5; 2000 Nov 7; 2004 Nov 2',
  ],
  [
    'the third of Tuesdays, Wednesdays and Thursdays',
    '1997-09-04',
    'FREQ=MONTHLY;COUNT=3;BYDAY=TU,WE,TH;BYSETPOS=3',
    '1997 Sep 4, Oct 7, Nov 6',
  ],
  [
    'the second to last weekday',
    '1997-09-29',
    'FREQ=MONTHLY;BYDAY=MO,TU,WE,TH,FR;BYSETPOS=-2',
    '1997 Sep 29, Oct 30, Nov 27, Dec 30; 1998 Jan 29, Feb 26, Mar 30',
  ],
  ['weeks that begin on Monday', '1997-08-05', 'FREQ=WEEKLY;INTERVAL=2;COUNT=4;BYDAY=TU,SU;WKST=MO', '1997 Aug 5 10 19 24'],
  ['weeks that begin on Sunday', '1997-08-05', 'FREQ=WEEKLY;INTERVAL=2;COUNT=4;BYDAY=TU,SU;WKST=SU', '1997 Aug 5 17 19 31'],
  [
    'a day that some months do not have',
    '2007-01-15',
    'FREQ=MONTHLY;BYMONTHDAY=15,30;COUNT=5',
    '2007 Jan 15 30, Feb 15, Mar 15 30',
  ],
];

const TIMES: [string, string, string[]][] = [
  // Its UNTIL as the errata of the standard have it.
  ['every three hours of a day', 'FREQ=HOURLY;INTERVAL=3;UNTIL=19970902T210000Z', ['09:00', '12:00', '15:00']],
  [
    'every quarter of an hour, six times',
    'FREQ=MINUTELY;INTERVAL=15;COUNT=6',
    ['09:00', '09:15', '09:30', '09:45', '10:00', '10:15'],
  ],
  ['every hour and a half, four times', 'FREQ=MINUTELY;INTERVAL=90;COUNT=4', ['09:00', '10:30', '12:00', '13:30']],
];

describe('the examples of RFC 5545, 3.8.5.3', () => {
  it.each(DAYS.map(([name, day, rrule, dates, exdates = []]) => ({ name, day, rrule, dates, exdates })))(
    '$name',
    ({ day, rrule, dates, exdates }) => {
      const expected = daysOf(dates);
      const ends = /COUNT|UNTIL/.test(rrule);
      expect(wallsOf(`${day}T09:00`, rrule, expected.length + (ends ? 1 : 0), exdates)).toEqual(
        expected.map((one) => `${one}T09:00`),
      );
    },
  );

  it.each(TIMES)('%s', (_, rrule, times) => {
    expect(wallsOf('1997-09-02T09:00', rrule, times.length + 1)).toEqual(times.map((time) => `1997-09-02T${time}`));
  });

  it.each([
    'FREQ=DAILY;BYHOUR=9,10,11,12,13,14,15,16;BYMINUTE=0,20,40',
    'FREQ=MINUTELY;INTERVAL=20;BYHOUR=9,10,11,12,13,14,15,16',
  ])('every 20 minutes from 9 to 16:40, by %s', (rrule) => {
    const times = Array.from(
      { length: 24 },
      (_, at) => `${String(9 + Math.floor(at / 3)).padStart(2, '0')}:${['00', '20', '40'][at % 3]}`,
    );
    const expected = ['1997-09-02', '1997-09-03'].flatMap((day) => times.map((time) => `${day}T${time}`));
    expect(wallsOf('1997-09-02T09:00', rrule, 48)).toEqual(expected);
  });
});
