import fc from 'fast-check';
import { changeComponent, putTogether, readObject, takeApart, zoneTexts } from '..';
import { EVENT_FIELDS } from './changeComponent';
import { folded, itemsOf, rawLines, unfolded } from './rawLines';

const READER = 'Europe/Vienna';
const lines = (...all: string[]) => all.map((line) => `${line}\r\n`).join('');
const object = (...all: string[]) => lines('BEGIN:VCALENDAR', 'VERSION:2.0', 'PRODID:-//x//y//EN', ...all, 'END:VCALENDAR');
const zone = (name: string, offset: string) =>
  [
    ...['BEGIN:VTIMEZONE', `TZID:${name}`, 'BEGIN:STANDARD', 'DTSTART:19700101T000000'],
    ...[`TZOFFSETFROM:${offset}`, `TZOFFSETTO:${offset}`, 'END:STANDARD', 'END:VTIMEZONE'],
  ] as const;

describe('the text of a component', () => {
  it('an object that is taken apart and put together is the same, letter by letter', () => {
    const text = object(
      'X-OFFICE;X-ROOM="a:b;c":Alderfen',
      ...zone('Hut time', '+0130'),
      'BEGIN:VEVENT',
      'UID:a',
      'DTSTART;TZID=Hut time:20260804T101530',
      'DESCRIPTION:A long line that goes on and on and on until it is folded by wh',
      ' oever wrote it\\, here',
      'BEGIN:VALARM',
      'UID:alarm-1',
      'END:VALARM',
      'END:VEVENT',
    );
    const { around, texts } = takeApart(text, 'vevent');
    expect(texts).toHaveLength(1);
    expect(around).not.toContain('VEVENT');
    expect(putTogether(around, [{ text: texts[0] ?? '', around }])).toBe(text);
  });

  it('two zones of one name are two, and one that everybody knows is written out', () => {
    const part = (uid: string, tzid: string, offset: string) => ({
      text: lines('BEGIN:VEVENT', `UID:${uid}`, `DTSTART;TZID=${tzid}:20260804T100000`, 'END:VEVENT'),
      around: offset && lines(...zone(tzid, offset)),
    });
    const text = putTogether('', [part('a', 'Hut', '+0100'), part('b', 'Hut', '+0300'), part('c', 'Europe/Vienna', '')]);
    expect([...zoneTexts(text).keys()]).toEqual(['Europe/Vienna', 'Hut', 'Hut 2']);
    const [a, b, c] = readObject(text, READER).events;
    expect(text).toContain('DTSTART;TZID=Hut 2:20260804T100000');
    expect([a?.start, b?.start, c?.zone]).toEqual(['2026-08-04T10:00', '2026-08-04T10:00', READER]);
    expect(a?.zone).not.toBe(b?.zone);
  });

  it('a change writes its own lines, and leaves alarms and guests who stay as they are', () => {
    const present = lines(
      ...[
        'BEGIN:VEVENT',
        'UID:a',
        'DTSTAMP:20260801T000000Z',
        'SUMMARY:Ditch',
        'X-GAUGE:14',
        'CATEGORIES:Fen',
        'CATEGORIES:North',
      ],
      'ATTENDEE;ROLE=CHAIR;DELEGATED-TO="mailto:tom@x.example";PARTSTAT=DELEGATED:mailto:bo@x.example',
      ...['BEGIN:VALARM', 'UID:one', 'ACTION:DISPLAY', 'TRIGGER:-PT10M', 'X-SOUND:bell', 'END:VALARM', 'END:VEVENT'],
    );
    const wanted = lines(
      ...['BEGIN:VEVENT', 'UID:a', 'DTSTAMP:20260802T000000Z', 'SUMMARY:Ditch\\, north', 'CATEGORIES:Fen'],
      'ATTENDEE;PARTSTAT=NEEDS-ACTION:mailto:bo@x.example',
      ...['BEGIN:VALARM', 'ACTION:DISPLAY', 'TRIGGER:-PT10M', 'DESCRIPTION:Ditch', 'END:VALARM'],
      ...['BEGIN:VALARM', 'ACTION:AUDIO', 'TRIGGER:-PT5M', 'END:VALARM', 'END:VEVENT'],
    );
    const text = unfolded(changeComponent(present, wanted, ['title', 'alarms']));
    expect(text).toContain('SUMMARY:Ditch\\, north\r\n');
    expect(text).toContain('DTSTAMP:20260802T000000Z');
    expect(text).toContain('CATEGORIES:Fen\r\nCATEGORIES:North');
    expect(text).toContain('UID:one\r\nACTION:DISPLAY\r\nTRIGGER:-PT10M\r\nX-SOUND:bell');
    expect(text.match(/BEGIN:VALARM/g)).toHaveLength(2);
    expect(text).toContain('PARTSTAT=DELEGATED:mailto:bo');
  });

  it('a guest who is named twice stays so, however often it is written', () => {
    const none = lines('BEGIN:VEVENT', 'UID:a', 'END:VEVENT');
    const twice = ['ATTENDEE;CN=Bo:mailto:bo@x.example', 'ATTENDEE:MAILTO:bo@x.example'];
    const wanted = lines('BEGIN:VEVENT', 'UID:a', ...twice, 'END:VEVENT');
    const once = changeComponent(none, wanted, ['guests']);
    expect(once).toBe(wanted);
    expect(changeComponent(once, wanted, ['guests'])).toBe(wanted);
  });

  const value = fc.string({ maxLength: 120, unit: fc.constantFrom(...'aä\u{1f33e} ;:,\\"=') });
  const property = fc
    .tuple(fc.constantFrom('SUMMARY', 'X-A', 'LOCATION', 'ATTENDEE', 'RELATED-TO', 'DTSTAMP'), value)
    .map(([name, text]) => `${name}:${text}`);

  it('whatever changes: what is none of its fields stays, and doing it twice is doing it once', () => {
    const some = fc.array(property, { maxLength: 8 });
    fc.assert(
      fc.property(some, some, fc.subarray([...EVENT_FIELDS]), (there, here, fields) => {
        const component = (all: string[]) => ['BEGIN:VEVENT', ...all, 'END:VEVENT'].map((line) => `${folded(line)}\r\n`).join('');
        const [present, wanted] = [component(there), component(here)];
        const once = changeComponent(present, wanted, fields);
        const strange = (text: string) => itemsOf(text).filter(({ name }) => name === 'x-a');
        expect(strange(once)).toEqual(strange(present));
        expect(changeComponent(once, wanted, fields)).toBe(once);
      }),
    );
  });

  it('lines as they are written are the text again, and a folded line unfolds to itself', () => {
    const letters = (...all: string[]) => fc.string({ maxLength: 400, unit: fc.constantFrom(...'aä\u{1f33e} :', ...all) });
    const bare = (text: string) => text.replace(/\s/g, '');
    fc.assert(fc.property(letters('\r', '\n', '\t'), (text) => expect(bare(rawLines(text).join(''))).toBe(bare(text))));
    fc.assert(
      fc.property(letters(), (line) => {
        const text = folded(line);
        for (const part of text.split('\r\n')) expect(Buffer.byteLength(part)).toBeLessThanOrEqual(75);
        expect(unfolded(text)).toBe(line);
      }),
    );
  });
});
