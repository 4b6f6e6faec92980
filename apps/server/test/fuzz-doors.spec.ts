import type { SourceInfo } from '@corvun/contract';
import fc from 'fast-check';
import { HostileDav } from '../../../testing/hostile-dav';
import { asProgram } from './calendar-program';
import { multipart, ownServer, sendMail, until } from './harness';

const here = ownServer('file', { CORVUN_ALLOW_PRIVATE: '1', CORVUN_READ_TIME: '4000' });
const { program, home } = asProgram(here);

/** Pieces of what a door knows, in any order, with any letters between them; always the same ones. */
const some = (count: number, seed: number, ...words: string[]): string[] =>
  fc.sample(
    fc
      .array(
        fc.oneof(
          { weight: 6, arbitrary: fc.constantFrom(...words) },
          { weight: 1, arbitrary: fc.string({ unit: 'grapheme', maxLength: 8 }) },
        ),
        { maxLength: 30 },
      )
      .map((parts) => parts.join('')),
    { numRuns: count, seed },
  );
const LINES = [
  ...['BEGIN:VEVENT\r\nUID:u\r\nDTSTART:20260805T090000Z\r\n', 'END:VEVENT\r\n', 'BEGIN:VTODO\r\nUID:u\r\n', 'END:VTODO\r\n'],
  ...[
    'RRULE:FREQ=SECONDLY\r\n',
    'RRULE:FREQ=DAILY;BYDAY=XX\r\n',
    'RRULE:FREQ=YEARLY;BYYEARDAY=366;INTERVAL=7\r\n',
    'RDATE:x\r\n',
  ],
  ...['BEGIN:VTIMEZONE\r\nTZID:X\r\n', 'END:VTIMEZONE\r\n', 'BEGIN:STANDARD\r\nTZOFFSETTO:+9900\r\n', 'END:STANDARD\r\n'],
  ...['DTSTART;TZID=X:99990805T090000\r\n', 'DURATION:P99999W\r\n', 'RECURRENCE-ID:20260805T090000Z\r\n', 'EXDATE:\r\n'],
  ...[
    'RELATED-TO:u\r\n',
    'ATTENDEE;CN="x:mailto:y\r\n',
    'ORGANIZER:mailto:a@x.example\r\n',
    'X-A;B=";:c\r\n',
    ' folded',
    '\0',
    '\r',
  ],
  ...[
    'CONFERENCE:javascript:x\r\n',
    'URL:https://x.example/\r\n',
    'BEGIN:VALARM\r\nTRIGGER:-P9999D\r\nEND:VALARM\r\n',
    'SUMMARY:s\r\n',
  ],
];
const calendars = (count: number, seed: number, method = '') =>
  some(count, seed, ...LINES).map((inner) => `BEGIN:VCALENDAR\r\nVERSION:2.0\r\n${method}${inner}\r\nEND:VCALENDAR\r\n`);
const PIECES = [
  ...['<c:calendar-query ', '<d:propfind ', '<d:propertyupdate ', '<d:sync-collection ', 'xmlns:d="DAV:" ', 'xmlns:c="x" ', '>'],
  ...[
    'xmlns:c="urn:ietf:params:xml:ns:caldav">',
    '<d:prop>',
    '</d:prop>',
    '<c:calendar-data/>',
    '<c:expand start="20260101T000000Z" end="x"/>',
  ],
  ...[
    '<c:filter><c:comp-filter name="VCALENDAR">',
    '</c:comp-filter></c:filter>',
    '<c:time-range start="20260801T000000Z"/>',
    '&lol;',
  ],
  ...[
    '<!DOCTYPE x [<!ENTITY lol "x">]>',
    '<d:set>',
    '</d:set>',
    '<d:displayname>n</d:displayname>',
    '</c:calendar-query>',
    '</d:propfind>',
  ],
  ...['<d:href>/dav/home/%00</d:href>', '<d:sync-token>data:,corvun-9999999</d:sync-token>', ']]>', '<![CDATA['],
];
const ADDRESSES = [
  '/dav/home/',
  'http://',
  '//',
  '..',
  '%2e',
  '%00',
  '%ff',
  'x.example',
  ':99999',
  '\\',
  '?',
  '#',
  'cal-x/',
  '.ics',
  ' ',
];

/** It still answers, and within a moment. */
const isCalm = async () => expect((await fetch(`${here.server.url}/api/health`)).status).toBe(200);

it('objects, questions and addresses at /dav/: each is answered, none with an error of the server', async () => {
  const [ask, path] = [await program(), await home()];
  const statuses = new Map<string, number>();
  const note = (method: string, status: number) => {
    // 502 and 507 are answers: that it is elsewhere, and that it is too much.
    expect([method, status < 500 || [502, 507].includes(status)]).toEqual([method, true]);
    statuses.set(method, Math.max(statuses.get(method) ?? 0, status));
  };
  for (const [at, text] of calendars(60, 26).entries()) {
    note('PUT', (await ask('PUT', `${path}${at % 7}.ics`, text)).status);
    note('GET', (await ask('GET', `${path}${at % 7}.ics`)).status);
  }
  for (const text of some(60, 27, ...PIECES))
    for (const method of ['REPORT', 'PROPFIND', 'PROPPATCH'])
      note(method, (await ask(method, path, text, { Depth: '1' })).status);
  for (const text of some(40, 28, ...ADDRESSES)) {
    const to = text.replace(/[^\x21-\x7e]/g, '');
    note('MOVE', (await ask('MOVE', `${path}1.ics`, '', { Destination: to })).status);
    note('COPY', (await ask('COPY', `${path}2.ics`, '', { Destination: to, Overwrite: 'F' })).status);
  }
  const everything = await ask('REPORT', path, ALL, { Depth: '1' });
  expect(everything.status).toBe(207);
  await isCalm();
});

const ALL = `<c:calendar-query xmlns:d="DAV:" xmlns:c="urn:ietf:params:xml:ns:caldav"><d:prop><d:getetag/><c:calendar-data>
  <c:expand start="20260801T000000Z" end="20261001T000000Z"/></c:calendar-data></d:prop>
  <c:filter><c:comp-filter name="VCALENDAR"><c:comp-filter name="VEVENT"/></c:comp-filter></c:filter></c:calendar-query>`;

it('files, days off and mails: each is taken or refused with a sentence', async () => {
  for (const text of calendars(25, 29)) {
    expect((await here.maren.post('/import', multipart('all.ics', text))).status).toBeLessThan(500);
    expect((await here.maren.post('/settings/days-off', { ics: text })).status).toBeLessThan(500);
  }
  for (const [at, method] of ['REQUEST', 'REPLY', 'COUNTER', 'CANCEL', 'DECLINECOUNTER'].entries())
    for (const text of calendars(6, 30 + at, `METHOD:${method}\r\n`)) {
      const raw = `From: a@x.example\r\nTo: maren@alderfen.example\r\nSubject: s\r\nContent-Type: text/calendar; method=${method}\r\nContent-Transfer-Encoding: base64\r\n\r\n${Buffer.from(text).toString('base64').replace(/.{76}/g, '$&\r\n')}`;
      expect(await sendMail(here.server.smtpPort, { to: 'maren@alderfen.example', raw })).toMatch(/^250/);
    }
  expect((await here.maren.get('/incoming')).status).toBe(200);
  expect((await here.maren.get<string>('/calendars/file')).status).toBe(200);
  await isCalm();
});

it('an account and a feed: what cannot be read is said, and everything else is here', async () => {
  const there = await new HostileDav().start();
  try {
    for (const [at, text] of calendars(40, 40).entries()) there.objects.set(`/home/fen/${at}.ics`, text);
    there.objects.set(
      '/home/fen/good.ics',
      'BEGIN:VCALENDAR\r\nVERSION:2.0\r\nBEGIN:VEVENT\r\nUID:good\r\nDTSTAMP:20260801T000000Z\r\nDTSTART:20260805T090000Z\r\nSUMMARY:Good\r\nEND:VEVENT\r\nEND:VCALENDAR\r\n',
    );
    there.objects.set(
      '/feed.ics',
      `BEGIN:VCALENDAR\r\nVERSION:2.0\r\n${calendars(40, 41)
        .map((one) => one.replace(/(?:BEGIN|END):VCALENDAR\r\n|VERSION:2.0\r\n/g, ''))
        .join('')}END:VCALENDAR\r\n`,
    );
    const login = { account: 'maren', secret: 'fen-water' };
    const account = { kind: 'account', name: 'Fen', address: `${there.url}/`, ...login };
    const looked = await here.maren.post<{ settings: object }>('/sources/look', account);
    await here.maren.post('/sources', { ...account, settings: looked.body.settings });
    await here.maren.post('/sources', { kind: 'feed', name: 'Feed', address: `${there.url}/feed.ics`, settings: {} });
    await until(async () => {
      const all = (await here.maren.get<SourceInfo[]>('/sources')).body;
      return all.length === 2 && all.every(({ progress, lastTry }) => progress === null && lastTry !== null);
    }, 'both to be looked at');
    const { body } = await here.maren.get<{ entries: { title: string }[] }>('/agenda?from=2026-08-03&days=14');
    expect(body.entries.some(({ title }) => title === 'Good')).toBe(true);
    await isCalm();
  } finally {
    there.stop();
  }
});
