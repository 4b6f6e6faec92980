import fc from 'fast-check';
import { readFreeBusy, writeFreeBusy } from './freeBusy';

const at = (text: string) => Date.parse(text);
const calendar = (...lines: string[]) =>
  [
    'BEGIN:VCALENDAR',
    'VERSION:2.0',
    'PRODID:-//X//X//EN',
    'BEGIN:VFREEBUSY',
    ...lines,
    'END:VFREEBUSY',
    'END:VCALENDAR',
    '',
  ].join('\r\n');

it('reads the examples of RFC 5545, 3.8.2.6: lengths and ends, several in one line, busy or not there', () => {
  const busy = readFreeBusy(
    calendar(
      'FREEBUSY;FBTYPE=BUSY-UNAVAILABLE:19970308T160000Z/PT8H30M',
      'FREEBUSY;FBTYPE=FREE:19970308T030000Z/PT3H',
      'FREEBUSY:19970308T160000Z/PT3H,19970308T200000Z/PT1H,',
      'FREEBUSY;FBTYPE=BUSY-TENTATIVE:19970309T230000Z/19970310T000000Z',
    ),
  );
  expect(busy).toContainEqual({ start: at('1997-03-08T16:00Z'), end: at('1997-03-09T00:30Z') });
  expect(busy).toContainEqual({ start: at('1997-03-09T23:00Z'), end: at('1997-03-10T00:00Z') });
  expect(busy).not.toContainEqual({ start: at('1997-03-08T03:00Z'), end: at('1997-03-08T06:00Z') });
});

it('reads what RFC 4791, 7.10.1 answers', () => {
  const text = calendar(
    'DTSTAMP:20050125T090000Z',
    'DTSTART:20060104T140000Z',
    'DTEND:20060105T220000Z',
    'FREEBUSY;FBTYPE=BUSY-TENTATIVE:20060104T150000Z/PT1H',
    'FREEBUSY:20060104T190000Z/PT1H',
  );
  expect(readFreeBusy(text)).toEqual([
    { start: at('2006-01-04T15:00Z'), end: at('2006-01-04T16:00Z') },
    { start: at('2006-01-04T19:00Z'), end: at('2006-01-04T20:00Z') },
  ]);
});

it('leaves out what is no stretch, and says when there is no calendar', () => {
  expect(readFreeBusy(calendar('FREEBUSY:nonsense', 'FREEBUSY:20260101T100000Z/20260101T090000Z'))).toEqual([]);
  expect(() => readFreeBusy('<html>sign in</html>')).toThrow('no free and busy time');
});

it('what is written is read as the same, cut to what was asked for', () => {
  const asked = { start: at('2026-08-03T00:00Z'), end: at('2026-08-10T00:00Z') };
  const stretch = fc
    .tuple(fc.integer({ min: -200, max: 10_000 }), fc.integer({ min: 1, max: 600 }))
    .map(([from, length]) => ({ start: asked.start + from * 60_000, end: asked.start + (from + length) * 60_000 }))
    .filter(({ start, end }) => end > asked.start && start < asked.end);
  fc.assert(
    fc.property(fc.array(stretch, { maxLength: 20 }), (busy) => {
      const cut = busy
        .map(({ start, end }) => ({ start: Math.max(start, asked.start), end: Math.min(end, asked.end) }))
        .sort((a, b) => a.start - b.start || a.end - b.end);
      expect(readFreeBusy(writeFreeBusy(busy, asked))).toEqual(cut);
    }),
  );
});
