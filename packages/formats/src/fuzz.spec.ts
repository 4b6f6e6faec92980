import fc from 'fast-check';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { occurrences, parseLine, readMessage } from '@corvun/core';
import {
  CalendarError,
  MailError,
  TableError,
  changeNote,
  cleanHtml,
  readCalendar,
  readCsv,
  readItip,
  readMail,
  readMbox,
  readVcards,
  sampleCsv,
  streamCalendar,
  tasksInNote,
} from '.';
import { bareText, shapeOf } from './mail/shape';
import { calm, soup } from './soup.fixture';

const ZONE = 'Europe/Vienna';
const RUNS = { numRuns: 150 };

// eslint-disable-next-line @typescript-eslint/require-await
async function* chunks(bytes: Buffer, size: number) {
  for (let at = 0; at < bytes.length; at += size) yield bytes.subarray(at, at + size);
}
const sized = fc.integer({ min: 1, max: 60 });
describe('whatever arrives, no reader crashes', () => {
  it('typed lines', () => {
    const text = soup(
      'tomorrow ',
      'Friday ',
      '14:00',
      '-',
      'for ',
      '45 min ',
      '>',
      '"',
      '#',
      '@',
      '++',
      'by ',
      'every ',
      'last ',
      '31 June ',
      'in week 34 ',
      ' ',
    );
    fc.assert(
      fc.property(text, (line) => {
        const { spans } = parseLine(line, { now: Date.UTC(2026, 7, 3), zone: ZONE, lists: ['Permits'], people: ['Ines Aalto'] });
        for (const { start, end } of spans) expect(0 <= start && start <= end && end <= line.length).toBe(true);
      }),
      RUNS,
    );
  });

  it('mail', async () => {
    const text = soup(
      'From: a@x.example\r\n',
      'Subject: =?utf-8?q?=C3?=\r\n',
      'Content-Type: multipart/mixed; boundary=b\r\n',
      'Content-Type: text/html; charset=x\r\n',
      'Content-Transfer-Encoding: base64\r\n',
      '--b\r\n',
      '--b--\r\n',
      '\r\n',
      'Date: x\r\n',
      '<b>',
      'QUJD',
    );
    await fc.assert(
      fc.asyncProperty(text, async (raw) => {
        const mail = await calm(() => readMail(Buffer.from(raw)), MailError);
        if (mail)
          readMessage({ text: mail.text, written: 0, zone: ZONE, reader: ZONE, from: null, bulk: false, invitation: false });
      }),
      RUNS,
    );
  });

  it('mail boxes, cut anywhere', async () => {
    const text = soup(
      'From x Mon Aug  3 09:00:00 2026\n',
      'From tomorrow on\n',
      'From \n',
      'Subject: s\n',
      '\n',
      '>From x\n',
      'body\r\n',
    );
    await fc.assert(
      fc.asyncProperty(text, sized, async (raw, size) => {
        const bytes = Buffer.from(raw);
        const all = async (piece: number) => {
          const found: string[] = [];
          for await (const one of readMbox(chunks(bytes, piece), 1e6)) found.push(one?.toString('latin1') ?? '');
          return found;
        };
        expect(await all(size)).toEqual(await all(1e6));
      }),
      RUNS,
    );
  });

  it('HTML: nothing that runs is left, and one look is enough', () => {
    const text = soup(
      '<table>',
      '<td colspan=99999>',
      '<b>',
      '</b>',
      '<script>',
      '</script>',
      '<a href="javascript:x">',
      '<img src=x onerror=y>',
      '<!--',
      '-->',
      '<style>',
      '<',
      '>',
      '&#99999999;',
      '&amp;',
      ' style="x"',
      '<svg onload=x>',
    );
    fc.assert(
      fc.property(text, (html) => {
        expect(cleanHtml(html, () => null).html).not.toMatch(
          /<(?:script|svg|style|iframe)|<[^>]*(?:\son\w+=|javascript:|style=)/i,
        );
        expect(bareText(html).length).toBeLessThanOrEqual(html.length + 1);
        const shape = shapeOf(html, { maxDepth: 20, maxElements: 30 });
        expect(shape.elements).toBeLessThanOrEqual(31);
      }),
      RUNS,
    );
  });

  const lines = soup(
    'BEGIN:VCALENDAR\r\n',
    'END:VCALENDAR\r\n',
    'METHOD:REQUEST\r\n',
    'BEGIN:VEVENT\r\n',
    'END:VEVENT\r\n',
    'BEGIN:VTIMEZONE\r\n',
    'END:VTIMEZONE\r\n',
    'TZID:X\r\n',
    'UID:u\r\n',
    'DTSTART;TZID=X:20260805T090000\r\n',
    'DTSTART:99999999T999999Z\r\n',
    'DTSTART;VALUE=DATE:20260230\r\n',
    'DURATION:-PT1H\r\n',
    'RRULE:FREQ=DAILY;BYDAY=XX\r\n',
    'RRULE:FREQ=YEARLY;COUNT=3\r\n',
    'RDATE;VALUE=PERIOD:20260805T090000/PT1H\r\n',
    'RECURRENCE-ID;RANGE=THISANDFUTURE:20260805T090000Z\r\n',
    'EXDATE:x\r\n',
    ' folded\r\n',
    'ATTENDEE;CN="x:mailto:y\r\n',
  );
  it('calendars, cut anywhere; what is given out can be placed', async () => {
    await fc.assert(
      fc.asyncProperty(lines, sized, async (raw, size) => {
        await calm(() => readCalendar(raw, ZONE), CalendarError);
        readItip(raw, ZONE);
        await calm(async () => {
          for await (const item of streamCalendar(chunks(Buffer.from(raw), size), ZONE))
            if (item.type === 'event' && !item.event.unplaced)
              await calm(() => occurrences(item.event, Date.UTC(2026, 0), Date.UTC(2027, 0), ZONE), RangeError);
        }, CalendarError);
      }),
      RUNS,
    );
  });

  it('cards', async () => {
    const text = soup(
      'BEGIN:VCARD\r\n',
      'VERSION:2.1\r\n',
      'END:VCARD\r\n',
      'FN:',
      'N:A;B\\;C;;\r\n',
      'EMAIL;INTERNET:a@x.example\r\n',
      'NOTE;ENCODING=QUOTED-PRINTABLE:=C3=\r\n',
      'item1.TEL;TYPE="a;b":1\r\n',
      '\r\n',
      ';',
      ':',
      '\\',
    );
    await fc.assert(
      fc.asyncProperty(text, sized, async (raw, size) => {
        for await (const item of readVcards(chunks(Buffer.from(raw), size)))
          if (item.type === 'person') expect(item.person.name).not.toBe('');
      }),
      RUNS,
    );
  });

  it('notes: what is changed is changed, everything else stays', () => {
    const text = soup(
      '- [ ] ',
      '* [x] ',
      '> ',
      '\t',
      '    ',
      '{due 2026-08-14}',
      '{',
      '}',
      '|',
      '<!--corvun:k3f9x2ab-->',
      '#tag',
      '\r\n',
      '\n',
      '```\n',
      'words ',
      '1. ',
    );
    fc.assert(
      fc.property(text, (note) => {
        const tasks = tasksInNote(note);
        expect(changeNote(note, new Map())).toBe(note);
        for (const task of tasks.slice(0, 3)) {
          const turned = changeNote(note, new Map([[task.line, { done: !task.done }]]));
          expect([turned.length - note.length, tasksInNote(turned).find((one) => one.line === task.line)?.done]).toEqual([
            0,
            !task.done,
          ]);
        }
      }),
      RUNS,
    );
  });

  it('tables', async () => {
    const folder = mkdtempSync(join(tmpdir(), 'corvun-fuzz-'));
    const path = join(folder, 'table.csv');
    const text = soup('title', ';', ',', '\t', '"', '""', '\r\n', '\n', 'x', '\uFEFF', '\0', 'ü');
    await fc.assert(
      fc.asyncProperty(text, async (raw) => {
        writeFileSync(path, raw);
        await calm(() => sampleCsv(path), TableError);
        await calm(async () => {
          for await (const { row } of readCsv(path)) expect(Array.isArray(row)).toBe(true);
        }, TableError);
      }),
      { numRuns: 80 },
    );
    rmSync(folder, { recursive: true });
  });
});
