import { changeObject, readObject } from '..';

const READER = 'Europe/Vienna';
const object = (...lines: string[]) =>
  ['BEGIN:VCALENDAR', 'VERSION:2.0', 'PRODID:-//x//y//EN', ...lines, 'END:VCALENDAR', ''].join('\r\n');
const event = (fields: readonly string[]) => ({ component: 'vevent' as const, fields, reader: READER });
const event1 = (...lines: string[]) => ['BEGIN:VEVENT', 'UID:walk', 'DTSTAMP:20260801T000000Z', ...lines, 'END:VEVENT'];

const PRESENT = object(
  ...event1(
    'SUMMARY:Site walk',
    'DTSTART;TZID=Europe/Vienna:20260804T100000',
    'DTEND;TZID=Europe/Vienna:20260804T110000',
    'RRULE:FREQ=WEEKLY;COUNT=4',
    'SEQUENCE:3',
    'X-GAUGE;X-BANK=north:14',
    'ORGANIZER;SENT-BY="mailto:office@alderfen.example":mailto:maren@alderfen.example',
    'ATTENDEE;ROLE=OPT-PARTICIPANT;RSVP=TRUE;PARTSTAT=NEEDS-ACTION:mailto:bo@x.example',
    'ATTENDEE;PARTSTAT=ACCEPTED:mailto:ines@x.example',
    'BEGIN:VALARM',
    'ACTION:DISPLAY',
    'TRIGGER:-PT10M',
    'END:VALARM',
  ),
  ...event1(
    'RECURRENCE-ID:20260811T080000Z',
    'SUMMARY:Site walk, late',
    'DTSTART:20260811T100000Z',
    'DTEND:20260811T110000Z',
    'X-NOTE:kept',
  ),
);

describe('changing an object of somebody else', () => {
  it('changes what is said and nothing beside it: unknown lines, roles of guests and other dates stay', () => {
    const wanted = object(
      ...event1(
        'SUMMARY:Site walk\\, north bank',
        'DTSTART;TZID=Europe/Vienna:20260804T100000',
        'DTEND;TZID=Europe/Vienna:20260804T110000',
        'SEQUENCE:4',
        'ORGANIZER:mailto:maren@alderfen.example',
        'ATTENDEE;PARTSTAT=ACCEPTED:mailto:bo@x.example',
        'ATTENDEE;PARTSTAT=NEEDS-ACTION:mailto:tom@x.example',
      ),
    );
    const text = changeObject(PRESENT, wanted, event(['title', 'guests'])).replace(/\r\n /g, '');
    expect(text).toContain('SUMMARY:Site walk\\, north bank');
    expect(text).toContain('X-GAUGE;X-BANK=north:14');
    expect(text).toContain('RRULE:FREQ=WEEKLY;COUNT=4');
    expect(text).toContain('SEQUENCE:4');
    expect(text).toContain('TRIGGER:-PT10M');
    expect(text).toContain('SENT-BY="mailto:office@alderfen.example"');
    expect(text).toMatch(/ATTENDEE;ROLE=OPT-PARTICIPANT;RSVP=TRUE;PARTSTAT=ACCEPTED:mailto:bo@x\.example/);
    expect(text).toMatch(/mailto:tom@x\.example/);
    expect(text).not.toMatch(/ines@x/);
    expect(readObject(text, READER).events).toHaveLength(2);
  });

  it('a changed date is known by its moment, in whatever zone it is named; it is changed, added and taken away', () => {
    const series = event1(
      'SUMMARY:Site walk',
      'DTSTART;TZID=Europe/Vienna:20260804T100000',
      'DTEND;TZID=Europe/Vienna:20260804T110000',
      'RRULE:FREQ=WEEKLY;COUNT=4',
    );
    const date = (day: string, title: string) =>
      event1(
        `RECURRENCE-ID;TZID=Europe/Vienna:202608${day}T100000`,
        `SUMMARY:${title}`,
        `DTSTART;TZID=Europe/Vienna:202608${day}T150000`,
        `DTEND;TZID=Europe/Vienna:202608${day}T160000`,
      );
    const changed = changeObject(
      PRESENT,
      object(...series, ...date('11', 'Later still'), ...date('18', 'Another')),
      event(['date 2026-08-11T10:00', 'date 2026-08-18T10:00']),
    );
    expect(readObject(changed, READER).events.map(({ title }) => title)).toEqual(['Site walk', 'Later still', 'Another']);
    expect(changed).toContain('X-NOTE:kept');
    const without = changeObject(changed, object(...series), event(['date 2026-08-11T10:00']));
    expect(readObject(without, READER).events.map(({ title }) => title)).toEqual(['Site walk', 'Another']);
  });

  it('of a task: status with what belongs to it, and whose step it is, not what else it is related to', () => {
    const todo = (...lines: string[]) => object('BEGIN:VTODO', 'UID:t', 'DTSTAMP:20260801T000000Z', ...lines, 'END:VTODO');
    const present = todo(
      'SUMMARY:Mend the gauge',
      'STATUS:NEEDS-ACTION',
      'PERCENT-COMPLETE:40',
      'RELATED-TO:old',
      'RELATED-TO;RELTYPE=SIBLING:twin',
      'X-A:1',
    );
    const wanted = todo('SUMMARY:x', 'STATUS:COMPLETED', 'COMPLETED:20260804T100000Z', 'RELATED-TO;RELTYPE=PARENT:new');
    const text = changeObject(present, wanted, { component: 'vtodo', fields: ['status', 'parent'], reader: READER });
    expect(text).toContain('SUMMARY:Mend the gauge');
    expect(text).toContain('STATUS:COMPLETED');
    expect(text).toContain('COMPLETED:20260804T100000Z');
    expect(text).not.toContain('PERCENT-COMPLETE');
    expect(text).toContain('RELATED-TO;RELTYPE=SIBLING:twin');
    expect(readObject(text, READER).todos[0]?.parent).toBe('new');
  });
});
