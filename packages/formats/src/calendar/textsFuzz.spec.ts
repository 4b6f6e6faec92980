import fc from 'fast-check';
import { CalendarError, EVENT_FIELDS, answerTo, changeComponent, changeObject, putTogether, shapeObject, takeApart } from '..';
import { calm, soup } from '../soup.fixture';

const ZONE = 'Europe/Vienna';
const RUNS = { numRuns: 150 };

const fixed = soup(
  'BEGIN:VEVENT\r\nUID:u\r\nDTSTART:20260805T090000Z\r\n',
  'END:VEVENT\r\n',
  'BEGIN:VALARM\r\nTRIGGER:-PT5M\r\nEND:VALARM\r\n',
  'BEGIN:X-A\r\n',
  'RRULE:FREQ=SECONDLY\r\n',
  'RRULE:FREQ=DAILY\r\n',
  'RECURRENCE-ID:20260806T090000Z\r\n',
  'DTSTART;TZID="Hut":20260805T090000\r\n',
  'BEGIN:VTIMEZONE\r\nTZID:Hut\r\n',
  'END:VTIMEZONE\r\n',
  'ATTENDEE;PARTSTAT="a;b":mailto:a@x.example\r\n',
  ' folded',
  'SUMMARY:x',
  '\r\n',
  '\n',
  '\r',
);
it('texts as they are written: taken apart, changed, shaped, answered and put together; what is none of it stays', () => {
  const august = { start: Date.UTC(2026, 7, 1), end: Date.UTC(2026, 7, 9) };
  const kept = (text: string) => text.match(/^BEGIN:VEVENT/gm)?.length ?? 0;
  fc.assert(
    fc.property(fixed, fixed, (one, other) => {
      const [text, wanted] = [one, other].map(
        (inner) => `BEGIN:VCALENDAR\r\nVERSION:2.0\r\nX-A:1\r\n${inner}\r\nEND:VCALENDAR\r\n`,
      ) as [string, string];
      const { around, texts } = takeApart(text, 'vevent');
      const whole = putTogether(
        around,
        texts.map((part) => ({ text: part, around })),
      );
      expect(kept(whole)).toBe(kept(text));
      expect(changeComponent(texts[0] ?? '', wanted, EVENT_FIELDS).length).toBeLessThan(text.length + wanted.length + 100);
      for (const shape of [{ expand: august }, { limit: august }, { comp: { props: [], comps: 'all' as const } }])
        void calm(() => shapeObject(text, shape, ZONE), CalendarError, RangeError);
      const answer = { attendee: { name: '"x"', address: 'a@x.example' }, partstat: 'ACCEPTED' as const, now: 0 };
      void calm(
        () => answerTo(text, null, { ...answer, propose: { start: '2026-08-05T10:00', end: '2026-08-05T11:00' } }),
        Error,
      );
      void calm(
        () => changeObject(text, wanted, { component: 'vevent', fields: ['title', 'time'], reader: ZONE }),
        CalendarError,
      );
    }),
    RUNS,
  );
});
