import type { CalendarInfo, DecisionAnswer, EventFull } from '@corvun/contract';
import { vevent } from '../../../testing/calendar-object';
import { clear, database, firstAccount, sendMail, startServer, until, type Caller, type Page, type Running } from './harness';

const TO = 'maren@alderfen.example';
const [BO, INES, TOM] = ['bo@hale-farm.example', 'ines@aalto-timber.example', 'tom@county-water.example'] as const;
let server: Running;
let maren: Caller;
let number = 0;
beforeEach(async () => {
  server = await startServer('empty');
  maren = await firstAccount(server);
});
afterEach(async () => {
  await server.stop();
  clear(server.data);
});

interface Sent {
  payload: { to: { name: string; address: string }[]; calendar: { method: string; text: string } };
}
/** Mails to guests that wait to be sent, without their folds. */
const sent = async (): Promise<{ to: string; method: string; text: string }[]> => {
  const rows = await database(server).query<{ payload: string }[]>('SELECT "payload" FROM "outbox" ORDER BY "created", "id"');
  return rows.map(({ payload }) => {
    const { to, calendar } = JSON.parse(payload) as Sent['payload'];
    return { to: to[0]?.address ?? '', method: calendar.method, text: calendar.text.replace(/\r\n /g, '') };
  });
};
const make = async (more: object = {}): Promise<{ id: string; uid: string }> => {
  const calendarId = (await maren.get<CalendarInfo[]>('/calendars')).body[0]?.id;
  const input = { title: 'Weir walk', start: '2026-08-10T09:00', minutes: 60, calendarId, guests: [BO, INES], ...more };
  const id = (await maren.post<DecisionAnswer>('/events', input)).body.made[0]?.id ?? '';
  const [row] = await database(server).query<{ uid: string }[]>('SELECT "uid" FROM "event" WHERE "id" = ?', [id]);
  return { id, uid: row?.uid ?? '' };
};
interface Answer {
  from: string;
  uid: string;
  method?: string;
  partstat?: string;
  of?: string;
  sequence?: number;
  at?: string;
  more?: string[];
}
/** A message of a guest; gives its line. */
async function says({ from, uid, method = 'REPLY', partstat = 'ACCEPTED', of, sequence = 0, at = '0800', more = [] }: Answer) {
  number += 1;
  const subject = `Answer ${number}`;
  const text = [
    ...['BEGIN:VCALENDAR', 'VERSION:2.0', `METHOD:${method}`, 'BEGIN:VEVENT', `UID:${uid}`, `DTSTAMP:20260803T${at}00Z`],
    ...[`SEQUENCE:${sequence}`, ...(of ? [`RECURRENCE-ID;TZID=Europe/Vienna:${of}`] : [])],
    ...(more.some((line) => line.startsWith('DTSTART'))
      ? []
      : [`DTSTART;TZID=Europe/Vienna:${of ?? '20260810T090000'}`, 'DURATION:PT1H']),
    ...[`ORGANIZER:mailto:${TO}`, `ATTENDEE;PARTSTAT=${partstat}:mailto:${from}`, ...more, 'END:VEVENT', 'END:VCALENDAR', ''],
  ].join('\r\n');
  const raw = `From: ${from}\r\nTo: ${TO}\r\nDate: Mon, 3 Aug 2026 09:00:00 +0200\r\nSubject: ${subject}\r\nMessage-ID: <${number}@x.example>\r\nMIME-Version: 1.0\r\nContent-Type: text/calendar; method=${method}; charset=utf-8\r\n\r\n${text}`;
  expect(await sendMail(server.smtpPort, { to: TO, raw })).toMatch(/^250/);
  const line = await until(async () => {
    const sql = 'SELECT "id" FROM "incoming" WHERE "subject" = ?';
    return (await database(server).query<{ id: string }[]>(sql, [subject]))[0];
  }, subject);
  const { body } = await maren.get<{ note: string; invitation: { answerable: boolean } | null }>(`/incoming/${line.id}`);
  return { id: line.id, note: body.note, answerable: body.invitation?.answerable ?? false };
}
const guests = async (id: string, occurrence = '') => {
  const { body } = await maren.get<EventFull>(`/events/${id}${occurrence && `?occurrence=${occurrence}`}`);
  return Object.fromEntries(body.guests.map(({ address, partstat }) => [address, partstat]));
};

describe('what guests say to whoever asked them', () => {
  it('for one date of a series that has no row of its own; the others stay open', async () => {
    const { id, uid } = await make({ repeat: 'FREQ=DAILY;COUNT=4' });
    const { note } = await says({ from: BO, uid, partstat: 'DECLINED', of: '20260811T090000' });
    expect(note).toContain('says no');
    expect(await guests(id, '2026-08-11T09:00')).toEqual({ [BO]: 'DECLINED', [INES]: 'NEEDS-ACTION' });
    expect(await guests(id, '2026-08-12T09:00')).toEqual({ [BO]: 'NEEDS-ACTION', [INES]: 'NEEDS-ACTION' });
    await says({ from: BO, uid, at: '0900' });
    expect(await guests(id, '2026-08-11T09:00')).toMatchObject({ [BO]: 'DECLINED' });
    expect(await guests(id, '2026-08-12T09:00')).toMatchObject({ [BO]: 'ACCEPTED' });
    await says({ from: INES, uid, at: '0900' });
    expect(await guests(id, '2026-08-11T09:00')).toMatchObject({ [INES]: 'ACCEPTED' });
    expect((await says({ from: BO, uid, of: '20260820T090000' })).note).toContain('does not have');
  });

  it('a newer answer counts, whichever arrives last; one to an earlier state of it does not', async () => {
    const { id, uid } = await make();
    await says({ from: BO, uid, partstat: 'DECLINED', at: '1000' });
    expect((await says({ from: BO, uid, at: '0900' })).note).toContain('older');
    expect(await guests(id)).toMatchObject({ [BO]: 'DECLINED' });
    await says({ from: BO, uid, at: '1100' });
    expect(await guests(id)).toMatchObject({ [BO]: 'ACCEPTED' });
    await maren.patch(`/events/${id}`, { start: '2026-08-11T09:00', minutes: 60 });
    expect((await says({ from: INES, uid, at: '1200' })).note).toContain('older');
    await says({ from: INES, uid, at: '1200', sequence: 1 });
    expect(await guests(id)).toMatchObject({ [INES]: 'ACCEPTED' });
  });

  it('who knows its UID is no guest; to whom a guest passes it on is one', async () => {
    const { id, uid } = await make();
    expect((await says({ from: TOM, uid })).note).toContain('not invited');
    const counter = await says({ from: TOM, uid, method: 'COUNTER' });
    expect([counter.answerable, counter.note.includes('not invited')]).toEqual([false, true]);
    expect(await guests(id)).toEqual({ [BO]: 'NEEDS-ACTION', [INES]: 'NEEDS-ACTION' });
    const delegated = `DELEGATED;DELEGATED-TO="mailto:${TOM}"`;
    expect((await says({ from: BO, uid, partstat: delegated })).note).toContain(`passed it on to ${TOM}`);
    expect(await guests(id)).toEqual({ [BO]: 'DELEGATED', [INES]: 'NEEDS-ACTION', [TOM]: 'NEEDS-ACTION' });
    await says({ from: TOM, uid });
    expect(await guests(id)).toMatchObject({ [TOM]: 'ACCEPTED' });
  });

  it('another time for one date moves that date; refused, the guest is told with DECLINECOUNTER', async () => {
    const { id, uid } = await make({ repeat: 'FREQ=DAILY;COUNT=4' });
    const more = ['DTSTART;TZID=Europe/Vienna:20260811T140000', 'DURATION:PT1H'];
    const propose = (from: string) => says({ from, uid, method: 'COUNTER', partstat: 'TENTATIVE', of: '20260811T090000', more });
    const refused = await propose(BO);
    expect(refused.answerable).toBe(true);
    await maren.post('/decisions', { incoming: [refused.id], to: 'answer', reply: 'no' });
    const [mail] = await sent();
    expect(mail).toMatchObject({ to: BO, method: 'DECLINECOUNTER' });
    expect(mail?.text).toMatch(/METHOD:DECLINECOUNTER[^]*RECURRENCE-ID;TZID=Europe\/Vienna:20260811T090000/);
    const agreed = await propose(INES);
    await maren.post('/decisions', { incoming: [agreed.id], to: 'answer', reply: 'yes' });
    const { entries } = (await maren.get<{ entries: { title: string; start: string }[] }>('/agenda?from=2026-08-10&days=7')).body;
    expect(entries.filter(({ title }) => title === 'Weir walk').map(({ start }) => start.slice(5, 16))).toEqual([
      ...['08-10T09:00', '08-11T14:00', '08-12T09:00', '08-13T09:00'],
    ]);
    const told = (await sent()).filter(({ method }) => method === 'REQUEST');
    expect(told.map(({ to }) => to).sort()).toEqual([BO, INES].sort());
    expect(told.every(({ text }) => text.includes('RECURRENCE-ID') && text.includes('20260811T140000'))).toBe(true);
    expect(await guests(id)).toEqual({ [BO]: 'NEEDS-ACTION', [INES]: 'NEEDS-ACTION' });
  });

  it('who is taken off a series is taken off its changed dates, and told; who comes is asked to them', async () => {
    const { id } = await make({ repeat: 'FREQ=DAILY;COUNT=4' });
    const date = '2026-08-11T09:00';
    await maren.patch(`/events/${id}`, { occurrence: date, scope: 'this', start: '2026-08-11T11:00', minutes: 60 });
    await maren.patch(`/events/${id}`, { occurrence: '2026-08-10T09:00', scope: 'all', guests: [INES, TOM], tell: '' });
    expect(Object.keys(await guests(id, date)).sort()).toEqual([INES, TOM].sort());
    const cancelled = (await sent()).filter(({ method }) => method === 'CANCEL');
    expect(cancelled.map(({ to }) => to)).toEqual([BO]);
  });

  it('an invitation goes out as whoever made the event has written it, with what is so now, and without its alarms', async () => {
    const { token } = (await maren.post<{ token: string }>('/tokens', { name: 'Telephone', may: 'calendars' })).body;
    const headers = { Authorization: `Basic ${Buffer.from(`${TO}:${token}`).toString('base64')}` };
    await maren.post('/calendars', { name: 'Fen' });
    const calendarId = (await maren.get<CalendarInfo[]>('/calendars')).body[0]?.id ?? '';
    const strange = [
      'X-GAUGE;X-BANK="a;b":14',
      'ATTACH:https://files.alderfen.example/plan.pdf',
      'PRIORITY:3',
      'CATEGORIES:Fen,North',
    ];
    const body = vevent(
      'from-a-program',
      ...[
        'DTSTART;TZID=Europe/Vienna:20260810T090030',
        'DURATION:PT1H',
        'SUMMARY:Ditch',
        `ORGANIZER;CN=Maren:mailto:${TO}`,
        ...strange,
      ],
      `ATTENDEE;ROLE=CHAIR;PARTSTAT=ACCEPTED:mailto:${BO}`,
      ...['BEGIN:VALARM', 'ACTION:DISPLAY', 'TRIGGER:-PT10M', 'END:VALARM'],
    );
    const url = `${server.url}/dav/home/cal-${calendarId}/from-a-program.ics`;
    expect((await fetch(url, { method: 'PUT', headers, body })).status).toBe(201);
    const [row] = await database(server).query<{ id: string }[]>('SELECT "id" FROM "event"');
    await maren.patch(`/events/${row?.id ?? ''}`, { title: 'North ditch', tell: '' });
    const [mail] = await sent();
    for (const line of ['METHOD:REQUEST', 'SUMMARY:North ditch', ...strange]) expect(mail?.text).toContain(`${line}\r\n`);
    expect(mail?.text).toContain(`ATTENDEE;ROLE=CHAIR;PARTSTAT=ACCEPTED;RSVP=TRUE:mailto:${BO}\r\n`);
    expect(mail?.text).toMatch(/BEGIN:VTIMEZONE[^]*TZID:Europe\/Vienna/);
    expect(mail?.text).not.toContain('VALARM');
  });

  it('a name in quotes is that name', async () => {
    const { id } = await make({
      guests: ['"Aalto, Ines" <ines@aalto-timber.example>', '"Bo \\"Reeds\\" Hale" <bo@hale-farm.example>'],
    });
    const { body } = await maren.get<EventFull>(`/events/${id}`);
    expect(body.guests.map(({ name }) => name)).toEqual(['Aalto, Ines', 'Bo "Reeds" Hale']);
  });
});

it('what was called off before it was heard of is off', async () => {
  const asked = async (method: string, sequence: number) => {
    number += 1;
    const lines = [
      ...[
        'BEGIN:VCALENDAR',
        'VERSION:2.0',
        `METHOD:${method}`,
        'BEGIN:VEVENT',
        'UID:overtaken',
        `DTSTAMP:20260803T0${sequence}0000Z`,
      ],
      ...[`SEQUENCE:${sequence}`, 'DTSTART:20260810T070000Z', 'DURATION:PT1H', 'SUMMARY:Overtaken', `ORGANIZER:mailto:${INES}`],
      ...[`ATTENDEE:mailto:${TO}`, 'END:VEVENT', 'END:VCALENDAR', ''],
    ].join('\r\n');
    const raw = `From: ${INES}\r\nTo: ${TO}\r\nSubject: Mail ${number}\r\nMessage-ID: <${number}@x.example>\r\nMIME-Version: 1.0\r\nContent-Type: text/calendar; method=${method}\r\n\r\n${lines}`;
    await sendMail(server.smtpPort, { to: TO, raw });
    return until(
      async () =>
        (await maren.get<Page>('/incoming?limit=200&order=newest')).body.items.find((one) => one.subject === `Mail ${number}`),
      'the message',
    );
  };
  const shown = async () =>
    (await maren.get<{ entries: { title: string; status: string }[] }>('/agenda?from=2026-08-10&days=7')).body.entries
      .filter(({ title }) => title === 'Overtaken')
      .map(({ status }) => status);
  await asked('CANCEL', 1);
  await asked('REQUEST', 0);
  expect(await shown()).toEqual(['CANCELLED']);
  await asked('REQUEST', 2);
  expect(await shown()).toEqual(['TENTATIVE']);
});
