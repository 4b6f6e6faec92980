import type { AgendaEntry, IncomingFull } from '@corvun/contract';
import { database, ownServer, sendMail, until, type Page } from './harness';

const here = ownServer('test');
const TO = 'maren@alderfen.example';
const INES = 'ines@aalto-timber.example';
let number = 0;

interface Sent {
  to: { address: string }[];
  calendar?: { method: string; text: string };
}

/** A scheduling message, as the standard has them. */
async function send(method: string, lines: string[], from = INES): Promise<IncomingFull> {
  number += 1;
  const subject = `Message ${number}`;
  const calendar = ['BEGIN:VCALENDAR', 'PRODID:-//Example//EN', `METHOD:${method}`, 'VERSION:2.0', ...lines, 'END:VCALENDAR', ''];
  const raw = `From: <${from}>\r\nTo: ${TO}\r\nDate: Mon, 3 Aug 2026 09:00:00 +0200\r\nSubject: ${subject}\r\nMessage-ID: <${number}@x.example>\r\nMIME-Version: 1.0\r\nContent-Type: text/calendar; method=${method}; charset=utf-8\r\n\r\n${calendar.join('\r\n')}`;
  expect(await sendMail(here.server.smtpPort, { to: TO, raw })).toMatch(/^250/);
  const line = await until(async () => {
    for (const state of ['waiting', 'decided']) {
      const { items } = (await here.maren.get<Page>(`/incoming?state=${state}&limit=100`)).body;
      const found = items.find((one) => one.subject === subject);
      if (found) return found;
    }
    return undefined;
  }, subject);
  return (await here.maren.get<IncomingFull>(`/incoming/${line.id}`)).body;
}
const event = (sequence: number, ...lines: string[]) => [
  ...['BEGIN:VEVENT', 'UID:calsrv.example.com-873970198738777@example.com', `SEQUENCE:${sequence}`],
  ...[`DTSTAMP:202608010${sequence}0000Z`, `ORGANIZER:mailto:${INES}`, 'SUMMARY:Review'],
  ...[`ATTENDEE;ROLE=CHAIR;PARTSTAT=ACCEPTED;CN=Ines:mailto:${INES}`, `ATTENDEE;RSVP=TRUE;CN=Maren:mailto:${TO}`],
  ...['ATTENDEE;RSVP=TRUE;CN=Tomas:mailto:tomas@county-water.example', ...lines, 'END:VEVENT'],
];
const at = (day: string, hour: string) => [
  `DTSTART:2026${day}T${hour}0000Z`,
  `DTEND:2026${day}T${String(Number(hour) + 1).padStart(2, '0')}0000Z`,
];
const daily = (sequence: number, ...lines: string[]) =>
  event(sequence, ...at('0810', '07'), 'RRULE:FREQ=DAILY;COUNT=4', ...lines);
const entries = async () =>
  (await here.maren.get<{ entries: AgendaEntry[] }>('/agenda?from=2026-08-03&days=40')).body.entries
    .filter((one) => one.kind === 'event' && one.title === 'Review')
    .map(({ start, status }) => `${start?.slice(5, 16)} ${status}`);
const answer = (incoming: IncomingFull, more: object) =>
  here.maren.post<{ sentence: string }>('/decisions', { incoming: [incoming.id], to: 'answer', ...more });
const sent = async (): Promise<Sent[]> => {
  const rows = await database(here.server).query<{ payload: string }[]>('SELECT payload FROM outbox ORDER BY created');
  return rows.map(({ payload }) => JSON.parse(payload) as Sent);
};

describe('the exchanges of RFC 5546, 4.2: one event, for a guest', () => {
  it('a request is answered, and an update asks anew (4.2.1 to 4.2.3)', async () => {
    const request = await send('REQUEST', event(0, ...at('0810', '07')));
    expect(await entries()).toEqual(['08-10T09:00 TENTATIVE']);
    await answer(request, { reply: 'yes' });
    const [reply] = await sent();
    expect(reply).toMatchObject({ to: [{ address: INES }], calendar: { method: 'REPLY' } });
    const text = reply?.calendar?.text.replace(/\r\n /g, '') ?? '';
    expect(text).toContain('UID:calsrv.example.com-873970198738777@example.com');
    expect(text.match(/^ATTENDEE.*$/gm)).toHaveLength(1);
    expect(text).toMatch(/ATTENDEE[^:]*PARTSTAT=ACCEPTED[^:]*:mailto:maren@alderfen\.example/);
    expect(await entries()).toEqual(['08-10T09:00 CONFIRMED']);
    const update = await send('REQUEST', event(1, ...at('0811', '12')));
    expect(update.invitation?.changes.join()).toContain('moved');
    expect(await entries()).toEqual(['08-11T14:00 TENTATIVE']);
  });

  it('another time is proposed, and refused (4.2.4)', async () => {
    const request = await send('REQUEST', event(0, ...at('0810', '07')));
    await answer(request, { start: '2026-08-10T15:00' });
    const [counter] = await sent();
    expect(counter?.calendar?.method).toBe('COUNTER');
    expect(counter?.calendar?.text).toContain('20260810T130000Z');
    const refused = await send('DECLINECOUNTER', event(0, ...at('0810', '07')));
    expect(refused.invitation).toMatchObject({ method: 'DECLINECOUNTER', answerable: false });
    expect(await entries()).toEqual(['08-10T09:00 TENTATIVE']);
  });

  it('an invitation that somebody passed on is answered to its organizer (4.2.8)', async () => {
    const passedOn = await send('REQUEST', event(0, ...at('0810', '07')), 'tomas@county-water.example');
    await answer(passedOn, { reply: 'maybe' });
    expect((await sent())[0]).toMatchObject({ to: [{ address: INES }], calendar: { method: 'REPLY' } });
  });

  it('is cancelled, as a whole or for one guest alone (4.2.9, 4.2.10)', async () => {
    await answer(await send('REQUEST', event(0, ...at('0810', '07'))), { reply: 'yes' });
    await send('CANCEL', event(1, ...at('0810', '07'), 'STATUS:CANCELLED'));
    expect(await entries()).toEqual(['08-10T09:00 CANCELLED']);
  });

  it('another organizer cannot take it over by mail alone (4.2.11)', async () => {
    await answer(await send('REQUEST', event(0, ...at('0810', '07'))), { reply: 'yes' });
    const taken = event(1, ...at('0812', '07')).map((line) =>
      line.replace(`ORGANIZER:mailto:${INES}`, 'ORGANIZER:mailto:eve@elsewhere.example'),
    );
    const incoming = await send('REQUEST', taken, 'eve@elsewhere.example');
    expect(incoming.note).not.toBe('');
    expect(await entries()).toEqual(['08-10T09:00 CONFIRMED']);
  });
});

describe('the exchanges of RFC 5546, 4.4: what repeats', () => {
  it('one date is changed (4.4.2), and one is cancelled (4.4.3)', async () => {
    await answer(await send('REQUEST', daily(0)), { reply: 'yes' });
    await send('REQUEST', event(1, 'RECURRENCE-ID:20260811T070000Z', ...at('0811', '13')));
    expect(await entries()).toEqual([
      '08-10T09:00 CONFIRMED',
      '08-11T15:00 TENTATIVE',
      '08-12T09:00 CONFIRMED',
      '08-13T09:00 CONFIRMED',
    ]);
    await send('CANCEL', event(2, 'RECURRENCE-ID:20260812T070000Z', ...at('0812', '07'), 'STATUS:CANCELLED'));
    expect((await entries()).filter((one) => one.startsWith('08-12') && !one.endsWith('CANCELLED'))).toEqual([]);
    expect(await entries()).toContain('08-13T09:00 CONFIRMED');
  });

  it('all dates are cancelled (4.4.4)', async () => {
    await send('REQUEST', daily(0));
    await send('CANCEL', event(1, ...at('0810', '07'), 'STATUS:CANCELLED'));
    expect((await entries()).every((one) => one.endsWith('CANCELLED'))).toBe(true);
  });

  it('all from one date on are changed (4.4.5)', async () => {
    await send('REQUEST', daily(0));
    await send('REQUEST', event(1, 'RECURRENCE-ID;RANGE=THISANDFUTURE:20260812T070000Z', ...at('0812', '13')));
    expect((await entries()).map((one) => one.slice(0, 11))).toEqual([
      '08-10T09:00',
      '08-11T09:00',
      '08-12T15:00',
      '08-13T15:00',
    ]);
  });

  it('a date is added (4.4.6)', async () => {
    await send('REQUEST', daily(0));
    await send('ADD', event(1, 'RECURRENCE-ID:20260820T070000Z', ...at('0820', '07')));
    expect((await entries()).map((one) => one.slice(0, 11))).toEqual([
      '08-10T09:00',
      '08-11T09:00',
      '08-12T09:00',
      '08-13T09:00',
      '08-20T09:00',
    ]);
  });
});

it('busy time, a task and a journal entry by mail are kept as what they are: messages (4.3, 4.5, 4.6)', async () => {
  const busy = await send('REQUEST', [
    'BEGIN:VFREEBUSY',
    'UID:1@x.example',
    'DTSTAMP:20260801T000000Z',
    `ORGANIZER:mailto:${INES}`,
    `ATTENDEE:mailto:${TO}`,
    'DTSTART:20260810T000000Z',
    'DTEND:20260811T000000Z',
    'END:VFREEBUSY',
  ]);
  const todo = await send('REQUEST', [
    'BEGIN:VTODO',
    'UID:2@x.example',
    'DTSTAMP:20260801T000000Z',
    `ORGANIZER:mailto:${INES}`,
    `ATTENDEE:mailto:${TO}`,
    'SUMMARY:Oil the gate',
    'END:VTODO',
  ]);
  const journal = await send('PUBLISH', [
    'BEGIN:VJOURNAL',
    'UID:3@x.example',
    'DTSTAMP:20260801T000000Z',
    `ORGANIZER:mailto:${INES}`,
    'SUMMARY:Notes',
    'END:VJOURNAL',
  ]);
  expect([busy, todo, journal].map(({ kind, invitation }) => [kind, invitation])).toEqual([
    ['mail', null],
    ['mail', null],
    ['mail', null],
  ]);
  expect(await entries()).toEqual([]);
});
