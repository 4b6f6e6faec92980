import { readCalendar, streamCalendar, type CalendarItem } from '../index';

const ZONE = 'Europe/Vienna';
const alarmed = (kind: string, start: readonly string[], ...alarm: string[]) =>
  [
    ...['BEGIN:VCALENDAR', 'VERSION:2.0', `BEGIN:${kind}`, 'UID:1@alderfen.example', 'SUMMARY:Weir walk', ...start],
    ...['BEGIN:VALARM', ...alarm, 'END:VALARM', `END:${kind}`, 'END:VCALENDAR', ''],
  ].join('\r\n');
const event = (...alarm: string[]) => readCalendar(alarmed('VEVENT', ['DTSTART:20260803T080000Z'], ...alarm), ZONE)[0]?.alarms;

describe('alarms as the standard gives them (RFC 5545, 3.6.6)', () => {
  it('at a precise time, repeated afterwards, with a sound', () => {
    expect(
      event('TRIGGER;VALUE=DATE-TIME:19970317T133000Z', 'REPEAT:4', 'DURATION:PT15M', 'ACTION:AUDIO', 'ATTACH:ftp://x.example/y'),
    ).toEqual([{ action: 'AUDIO', trigger: '19970317T133000Z', related: 'START' }]);
  });

  it('30 minutes before, shown', () => {
    expect(event('TRIGGER:-PT30M', 'REPEAT:2', 'DURATION:PT15M', 'ACTION:DISPLAY', 'DESCRIPTION:Breakfast')).toEqual([
      { action: 'DISPLAY', trigger: '-PT30M', related: 'START' },
    ]);
  });

  it('two days before the end, by mail', () => {
    expect(
      event('TRIGGER;RELATED=END:-P2D', 'ACTION:EMAIL', 'ATTENDEE:mailto:x@x.example', 'SUMMARY:x', 'DESCRIPTION:x'),
    ).toEqual([{ action: 'EMAIL', trigger: '-P2D', related: 'END' }]);
  });

  it('leaves out what it cannot do, and still knows that something was said', () => {
    expect(event('TRIGGER:-PT30M', 'ACTION:PROCEDURE')).toEqual([]);
    expect(event('TRIGGER:soon', 'ACTION:DISPLAY')).toEqual([]);
    expect(
      readCalendar(alarmed('VEVENT', ['DTSTART:20260803T080000Z']).replace(/BEGIN:VALARM\r\nEND:VALARM\r\n/, ''), ZONE)[0]
        ?.alarms,
    ).toBeNull();
  });
});

describe('a task from a file', () => {
  const taskOf = async (start: readonly string[], ...alarm: string[]) => {
    const items: CalendarItem[] = [];
    for await (const item of streamCalendar([alarmed('VTODO', start, ...alarm)] as unknown as AsyncIterable<string>, ZONE))
      items.push(item);
    const [first] = items;
    return first?.type === 'todo' ? first.todo : undefined;
  };

  it('has its times in the zone of the reader, and is reminded of at its first alarm', async () => {
    expect(
      await taskOf(
        ['DUE:20260803T150000Z', 'RELATED-TO:parent@x.example', 'RRULE:FREQ=DAILY'],
        'TRIGGER;RELATED=END:-PT1H',
        'ACTION:DISPLAY',
      ),
    ).toMatchObject({ due: '2026-08-03T17:00', reminder: '2026-08-03T16:00', parent: 'parent@x.example', rrule: 'FREQ=DAILY' });
    expect(
      await taskOf(
        ['DUE;TZID=Europe/London:20260803T150000', 'ESTIMATED-DURATION:PT2H'],
        'TRIGGER;VALUE=DATE-TIME:20260803T050000Z',
        'ACTION:DISPLAY',
      ),
    ).toMatchObject({
      due: '2026-08-03T16:00',
      reminder: '2026-08-03T07:00',
      minutes: 120,
    });
  });

  it('has no reminder by an alarm that is counted from nothing', async () => {
    expect((await taskOf([], 'TRIGGER:-PT1H', 'ACTION:DISPLAY'))?.reminder).toBeNull();
    expect((await taskOf(['RELATED-TO;RELTYPE=CHILD:x'], 'TRIGGER:-PT1H', 'ACTION:DISPLAY'))?.parent).toBeNull();
  });
});
