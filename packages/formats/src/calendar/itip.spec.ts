import { instantOf } from '@corvun/core';
import { answerTo, readItip } from './itip';
import { writeScheduling } from './writeCalendar';

const ZONE = 'Europe/Vienna';
const REQUEST = [
  'BEGIN:VCALENDAR',
  'VERSION:2.0',
  'PRODID:-//Aalto Timber//EN',
  'METHOD:REQUEST',
  'BEGIN:VTIMEZONE',
  'TZID:Timber yard',
  'BEGIN:STANDARD',
  'DTSTART:19701025T030000',
  'RRULE:FREQ=YEARLY;BYMONTH=10;BYDAY=-1SU',
  'TZOFFSETFROM:+0200',
  'TZOFFSETTO:+0100',
  'END:STANDARD',
  'BEGIN:DAYLIGHT',
  'DTSTART:19700329T020000',
  'RRULE:FREQ=YEARLY;BYMONTH=3;BYDAY=-1SU',
  'TZOFFSETFROM:+0100',
  'TZOFFSETTO:+0200',
  'END:DAYLIGHT',
  'END:VTIMEZONE',
  'BEGIN:VEVENT',
  'UID:section-c@aalto-timber.example',
  'SEQUENCE:3',
  'DTSTAMP:20260801T080000Z',
  'DTSTART;TZID=Timber yard:20260804T100000',
  'DTEND;TZID=Timber yard:20260804T110000',
  'SUMMARY:Section C on site',
  'ORGANIZER;CN=Ines Aalto:mailto:ines@aalto-timber.example',
  'ATTENDEE;CN=Maren Holt;PARTSTAT=NEEDS-ACTION;RSVP=TRUE:mailto:Maren.Holt@alderfen.example',
  'ATTENDEE;CN=Jonas Brandl;PARTSTAT=ACCEPTED:mailto:jonas.brandl@alderfen.example',
  'BEGIN:VALARM',
  'ACTION:DISPLAY',
  'TRIGGER:-PT15M',
  'DESCRIPTION:x',
  'END:VALARM',
  'END:VEVENT',
  'END:VCALENDAR',
  '',
].join('\r\n');
const NOW = Date.UTC(2026, 7, 3, 8, 50);
const maren = { name: 'Maren Holt', address: 'maren.holt@alderfen.example' };

describe('scheduling messages (RFC 5546)', () => {
  it('reads a request with its people, its sequence and a zone under a private name', () => {
    const itip = readItip(REQUEST, ZONE);
    const event = itip?.events[0];
    expect(itip?.method).toBe('REQUEST');
    expect(event).toMatchObject({
      uid: 'section-c@aalto-timber.example',
      sequence: 3,
      stamp: Date.UTC(2026, 7, 1, 8),
      organizer: { name: 'Ines Aalto', address: 'ines@aalto-timber.example' },
      attendees: [
        { ...maren, partstat: 'NEEDS-ACTION' },
        { name: 'Jonas Brandl', address: 'jonas.brandl@alderfen.example', partstat: 'ACCEPTED' },
      ],
    });
    expect(instantOf(event?.start ?? '', event?.zone ?? '')).toBe(Date.UTC(2026, 7, 4, 8));
  });

  it('replies with the same UID and SEQUENCE, and only with the one who answers (3.2.3)', () => {
    const reply = answerTo(REQUEST, null, { attendee: maren, partstat: 'ACCEPTED', comment: 'Gladly; bring boots.', now: NOW });
    const read = readItip(reply, ZONE);
    expect(read?.method).toBe('REPLY');
    expect(read?.events[0]).toMatchObject({
      uid: 'section-c@aalto-timber.example',
      sequence: 3,
      stamp: NOW,
      comment: 'Gladly; bring boots.',
      start: '2026-08-04T10:00',
      attendees: [{ ...maren, partstat: 'ACCEPTED' }],
      organizer: { address: 'ines@aalto-timber.example' },
    });
    expect(reply).not.toMatch(/VALARM/);
    expect(reply.split('\r\n').every((line) => Buffer.byteLength(line) <= 75)).toBe(true);
  });

  it('proposes another time with a COUNTER in the zone of the request (3.2.7)', () => {
    const counter = answerTo(REQUEST, null, {
      attendee: maren,
      partstat: 'TENTATIVE',
      propose: { start: '2026-08-05T14:00', end: '2026-08-05T15:00' },
      now: NOW,
    });
    const read = readItip(counter, ZONE);
    expect(read?.method).toBe('COUNTER');
    const event = read?.events[0];
    expect([instantOf(event?.start ?? '', event?.zone ?? ''), event?.end]).toEqual([
      Date.UTC(2026, 7, 5, 12),
      '2026-08-05T15:00',
    ]);
  });

  it('answers the changed occurrence that was asked about, not the series', () => {
    const series = REQUEST.replace('SUMMARY:Section', 'RRULE:FREQ=WEEKLY\r\nSUMMARY:Section');
    const occurrence = [
      'BEGIN:VEVENT',
      'UID:section-c@aalto-timber.example',
      'SEQUENCE:4',
      'DTSTAMP:20260801T080000Z',
      'RECURRENCE-ID;TZID=Timber yard:20260811T100000',
      'DTSTART;TZID=Timber yard:20260812T100000',
      'DTEND;TZID=Timber yard:20260812T110000',
      'SUMMARY:Section C, later',
      'ORGANIZER:mailto:ines@aalto-timber.example',
      'END:VEVENT',
      'END:VCALENDAR',
    ].join('\r\n');
    const both = series.replace('END:VCALENDAR', occurrence);
    expect(readItip(both, ZONE)?.events.map((one) => one.recurrenceId)).toEqual([null, '2026-08-11T10:00']);
    const reply = readItip(answerTo(both, '2026-08-11T10:00', { attendee: maren, partstat: 'DECLINED', now: NOW }), ZONE);
    expect(reply?.events[0]).toMatchObject({ recurrenceId: '2026-08-11T10:00', sequence: 4 });
  });

  it('writes a request that another calendar reads as the same event, in its zone', () => {
    const text = writeScheduling(
      'REQUEST',
      [
        {
          uid: 'a@corvun',
          sequence: 1,
          recurrenceId: '',
          following: false,
          seriesZone: ZONE,
          start: '2026-08-06T16:00',
          end: '2026-08-06T16:45',
          duration: null,
          allDay: false,
          zone: ZONE,
          endZone: 'Europe/London',
          title: 'Key handover; hut, north',
          description: 'Bring both keys\nand the list',
          location: 'Hut',
          meetingLink: '',
          status: 'CONFIRMED',
          transparent: false,
          class: 'PUBLIC',
          category: '',
          rrule: 'FREQ=WEEKLY;COUNT=3',
          exrule: null,
          rdates: [],
          exdates: ['2026-08-13T16:00'],
          organizer: '',
          attendees: [{ name: 'Jonas Brandl', address: 'jonas.brandl@alderfen.example', partstat: 'NEEDS-ACTION' }],
          link: '',
          alarms: [{ action: 'DISPLAY', trigger: '-PT15M', related: 'START' }],
          changed: 0,
          created: 0,
        },
      ],
      maren,
      NOW,
    );
    expect(text).not.toContain('VALARM');
    expect(text).toContain('DTEND;TZID=Europe/London:20260806T154500');
    expect(text.replace(/\r\n /g, '')).toContain(';RSVP=TRUE:mailto:jonas.brandl@alderfen.example');
    expect(readItip(text, ZONE)?.events[0]).toMatchObject({
      title: 'Key handover; hut, north',
      description: 'Bring both keys\nand the list',
      rrule: 'FREQ=WEEKLY;COUNT=3',
      exdates: ['2026-08-13T16:00'],
      zone: ZONE,
      start: '2026-08-06T16:00',
      end: '2026-08-06T16:45',
      endZone: 'Europe/London',
      organizer: { name: maren.name, address: maren.address },
      stamp: NOW,
    });
  });

  it.each(['', 'hello', REQUEST.replace('METHOD:REQUEST\r\n', ''), REQUEST.slice(0, 300), REQUEST.replace('REQUEST', 'SELL')])(
    'does not take %j for one',
    (text) => {
      expect(readItip(text, ZONE)).toBeNull();
    },
  );
});
