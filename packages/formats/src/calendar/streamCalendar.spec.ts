import { CalendarError } from './readCalendar';
import { streamCalendar, type CalendarItem } from './streamCalendar';

async function all(text: string, size = 50): Promise<CalendarItem[]> {
  const items: CalendarItem[] = [];
  async function* stream() {
    for (let at = 0; at < text.length; at += size) yield await Promise.resolve(Buffer.from(text.slice(at, at + size)));
  }
  for await (const item of streamCalendar(stream(), 'Europe/Vienna')) items.push(item);
  return items;
}
const said = (items: CalendarItem[]) =>
  items.map((item) =>
    item.type === 'event' ? item.event.title : item.type === 'todo' ? item.todo.title : `${item.at}: ${item.reason}`,
  );
const event = (title: string, ...more: string[]) =>
  [
    'BEGIN:VEVENT',
    `UID:${title}`,
    'DTSTAMP:20260801T000000Z',
    'DTSTART:20260803T090000Z',
    `SUMMARY:${title}`,
    ...more,
    'END:VEVENT',
  ].join('\r\n');
const file = (...parts: string[]) => ['BEGIN:VCALENDAR', 'VERSION:2.0', ...parts, 'END:VCALENDAR', ''].join('\r\n');

describe('large calendars', () => {
  it('reads components one at a time, however the stream is cut', async () => {
    const text = file(
      event('one', 'BEGIN:VALARM', 'ACTION:DISPLAY', 'TRIGGER:-PT5M', 'DESCRIPTION:x', 'END:VALARM'),
      event('two, with a long descr\r\n iption'),
      'BEGIN:VTODO\r\nUID:t\r\nSUMMARY:Buy hose\r\nDUE;VALUE=DATE:20260806\r\nPRIORITY:1\r\nSTATUS:COMPLETED\r\nEND:VTODO',
    );
    for (const size of [1, 13, 100_000]) {
      const items = await all(text, size);
      expect(items.map((item) => item.type)).toEqual(['event', 'event', 'todo']);
      expect(items[1]).toMatchObject({ event: { title: 'two, with a long description' } });
      expect(items[2]).toMatchObject({ todo: { title: 'Buy hose', due: '2026-08-06', priority: 'high', status: 'COMPLETED' } });
    }
  });

  it('leaves out what is broken and says where it stands', async () => {
    const text = file(
      event('good'),
      'BEGIN:VEVENT\r\nUID:x\r\nSUMMARY:no start\r\nEND:VEVENT',
      event('long', `DESCRIPTION:${'x'.repeat(600_000)}`),
    );
    expect(said(await all(text, 5000))).toEqual([
      'good',
      'line 9: It does not say when it begins.',
      'line 13: It is longer than 512 kB.',
    ]);
  });

  it('a file that is cut off gives what is whole, and says that it ends early', async () => {
    const text = file(event('one'), event('two'));
    expect(said(await all(text.slice(0, text.lastIndexOf('SUMMARY'))))).toEqual([
      'one',
      'line 9: The file ends in the middle of it.',
    ]);
  });

  it.each([['<html><body>Sign in first</body></html>'], ['']])('refuses %j', async (text) => {
    await expect(all(text)).rejects.toThrow(CalendarError);
  });

  it('does not let a line without an end fill the memory', async () => {
    async function* endless() {
      yield Buffer.from('BEGIN:VCALENDAR\r\n');
      for (;;) yield await Promise.resolve(Buffer.alloc(1_000_000, 0x61));
    }
    const reading = (async () => {
      for await (const _ of streamCalendar(endless(), 'UTC'));
    })();
    await expect(reading).rejects.toThrow('a line in it never ends');
  });
});
