import fc from 'fast-check';
import { instantOf, isDay, isWeek } from '../time/zones';
import { readMessage } from './facts';

const ZONE = 'Europe/Vienna';
const WRITTEN = instantOf('2026-08-03T09:00', ZONE);

const PIECES = [
  'Hello Maren,',
  '\n\n',
  'Could you send the plan',
  'by Friday',
  'on 14 August at 14:00',
  'at 9:30 Halifax time',
  'end of next week',
  'KW 34',
  'half an hour',
  '1,240.50 €',
  'invoice 2026-118',
  'at the field hut',
  '> quoted words by Monday?',
  '\n',
  '.',
  '?',
  ',',
  'Ines Aalto <ines@aalto-timber.example>',
  'https://meet.tide-lab.example/marsh',
  'Mit freundlichen Grüßen',
  '-- \nPlease think of the trees by Friday.',
  'last Tuesday',
  'between 25:00 and 31 June',
];
const message = fc.array(fc.constantFrom(...PIECES), { maxLength: 30 }).map((parts) => parts.join(' '));
const read = (text: string, zone = ZONE) => readMessage({ text, written: WRITTEN, zone, reader: ZONE, names: ['Maren'] });

describe('whatever a message says, its facts', () => {
  it('stand where they are said, in order, and what is said there is theirs', () => {
    fc.assert(
      fc.property(message, (text) => {
        const { asks, dates, durations, places, money, numbers } = read(text);
        for (const kind of [asks, dates, durations, places, money, numbers]) {
          expect(kind.every((one) => one.start >= 0 && one.start < one.end && one.end <= text.length)).toBe(true);
          expect(kind.every((one, at) => at === 0 || one.start >= (kind[at - 1]?.start ?? 0))).toBe(true);
        }
        for (const one of [...dates, ...durations, ...money, ...numbers]) expect(text.slice(one.start, one.end)).toBe(one.text);
      }),
    );
  });

  it('name days, times and weeks that there are, and no amount that is none', () => {
    fc.assert(
      fc.property(message, fc.constantFrom('Europe/Vienna', 'UTC-3', 'Asia/Kolkata'), (text, zone) => {
        const { dates, durations, money, minutes } = read(text, zone);
        for (const { value, endValue, role } of dates) {
          const [day = '', time] = value.split('T');
          expect(isDay(day) || isWeek(value)).toBe(true);
          expect(time === undefined || /^([01]\d|2[0-3]):[0-5]\d$/.test(time)).toBe(true);
          expect(endValue === null || isDay(endValue.slice(0, 10))).toBe(true);
          expect(['deadline', 'meeting', 'mention']).toContain(role);
        }
        expect(durations.every((one) => one.minutes >= 1 && one.minutes <= 6000)).toBe(true);
        expect(money.every((one) => one.amount >= 0 && /^[A-Z]{3}$/.test(one.currency))).toBe(true);
        expect(minutes).toBe(durations[0]?.minutes ?? null);
      }),
    );
  });

  it('are not taken from what is quoted, nor from the signature', () => {
    fc.assert(
      fc.property(message, (text) => {
        const { asks, dates } = read(text);
        for (const one of [...asks, ...dates]) {
          const line = text.slice(text.lastIndexOf('\n', one.start) + 1, one.start);
          expect(/^\s*>/.test(line)).toBe(false);
        }
        const signature = text.search(/^-- $/m);
        if (signature >= 0) expect([...asks, ...dates].every((one) => one.start < signature)).toBe(true);
      }),
    );
  });

  it('are the same however often they are read', () => {
    fc.assert(
      fc.property(message, (text) => {
        expect(read(text)).toEqual(read(text));
      }),
      { numRuns: 30 },
    );
  });
});
