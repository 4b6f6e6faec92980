import { instantOf } from '../time/zones';
import { parseLine } from './parseLine';
import { sayOutcome, sayParts } from './sayDraft';

const ZONE = 'Europe/Vienna';
const TODAY = '2026-08-03';
const read = (text: string) => parseLine(text, { now: instantOf('2026-08-03T09:00', ZONE), zone: ZONE, lists: ['Permits'] });
const parts = (text: string) => sayParts(text, read(text), TODAY);
const outcome = (text: string) => {
  const { before, title, after } = sayOutcome(read(text));
  return [before, title && `“${title}”`, after].filter(Boolean).join(' ');
};

describe('what a line was understood to say', () => {
  it.each<[string, [string, string][]]>([
    [
      'Call tomorrow 10:00 for 45 min',
      [
        ['day', 'Tue 4 Aug'],
        ['time', '10:00'],
        ['how long', '45 min'],
      ],
    ],
    ['Report due 14 Aug 17:00', [['deadline', 'Fri 14 Aug 17:00, fixed']]],
    ['Report by Friday', [['deadline', 'Fri 7 Aug, flexible']]],
    [
      'Maps >Permits #write ++',
      [
        ['list', 'Permits'],
        ['tag', 'write'],
        ['priority', 'high'],
      ],
    ],
    ['Mow in week 34', [['week', '34']]],
    ['Mow every Monday', [['repeats', 'every Mon']]],
    ['C# and 5 > 3', []],
  ])('%s', (text, expected) => {
    expect(parts(text)).toEqual(expected);
  });

  it.each([
    ['Call the county', 'puts “Call the county” into the inbox, to be sorted later'],
    ['Call the county >Permits', 'makes the task “Call the county”'],
    ['Call the county tomorrow 10:00', 'makes the task “Call the county” and sets its time aside'],
    ['Site walk tomorrow 10:00-11:30', 'puts “Site walk” into the calendar as an event'],
    ['tomorrow 10:00', 'Add what it is about: nothing is left for a title.'],
  ])('%s: what becomes of it', (text, expected) => {
    expect(outcome(text)).toBe(expected);
  });
});
