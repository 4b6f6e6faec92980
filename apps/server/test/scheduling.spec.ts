import {
  database,
  clear,
  firstAccount,
  multipart,
  sendMail,
  startServer,
  until,
  type Caller,
  type Page,
  type Running,
} from './harness';

const TO = 'maren@alderfen.example';
interface Entry {
  title: string;
  day: string;
  start: string;
  end: string;
  status: string;
  allDay: boolean;
}

let server: Running;
let maren: Caller;
let number = 0;
beforeAll(async () => {
  server = await startServer('empty');
  maren = await firstAccount(server);
});
afterAll(async () => {
  await server.stop();
  clear(server.data);
});

const event = (uid: string, sequence: number, ...lines: string[]) => [
  'BEGIN:VEVENT',
  `UID:${uid}`,
  `DTSTAMP:202608010${sequence}0000Z`,
  `SEQUENCE:${sequence}`,
  'ORGANIZER:mailto:ines@aalto-timber.example',
  `ATTENDEE;PARTSTAT=NEEDS-ACTION:mailto:${TO}`,
  `SUMMARY:${uid}`,
  ...lines,
  'END:VEVENT',
];
const calendar = (method: string, ...lines: string[]) =>
  ['BEGIN:VCALENDAR', 'VERSION:2.0', ...(method ? [`METHOD:${method}`] : []), ...lines, 'END:VCALENDAR', ''].join('\r\n');
/** Sends a scheduling mail and gives its line. */
async function send(type: string, body: Buffer | string) {
  number += 1;
  const subject = `Mail ${number}`;
  const head = `From: Ines Aalto <ines@aalto-timber.example>\r\nTo: ${TO}\r\nDate: Mon, 3 Aug 2026 09:00:00 +0200\r\nSubject: ${subject}\r\nMessage-ID: <${number}@aalto-timber.example>\r\nMIME-Version: 1.0\r\nContent-Type: ${type}\r\nContent-Transfer-Encoding: base64\r\n\r\n`;
  const raw = head + Buffer.from(body).toString('base64').replace(/.{76}/g, '$&\r\n');
  expect(await sendMail(server.smtpPort, { to: TO, raw })).toMatch(/^250/);
  return until(
    async () => (await maren.get<Page>('/incoming?limit=200&order=newest')).body.items.find((one) => one.subject === subject),
    subject,
  );
}
const request = (...lines: string[]) => send('text/calendar; method=REQUEST', calendar('REQUEST', ...lines));
const cancel = (...lines: string[]) => send('text/calendar; method=CANCEL', calendar('CANCEL', ...lines));
const entries = async (title: string) =>
  (await maren.get<{ entries: Entry[] }>('/agenda?from=2026-08-03&days=40')).body.entries.filter((one) => one.title === title);
const shown = async (title: string) => (await entries(title)).map((one) => `${one.start.slice(5, 16)} ${one.status}`);

const daily = (uid: string, sequence = 0, clock = '0900') =>
  event(uid, sequence, `DTSTART;TZID=Europe/Vienna:20260810T${clock}00`, 'DURATION:PT1H', 'RRULE:FREQ=DAILY;COUNT=4');
const changed = (uid: string, sequence = 0) =>
  event(uid, sequence, 'RECURRENCE-ID:20260811T070000Z', 'DTSTART:20260811T130000Z', 'DURATION:PT1H');

describe('a series and its changed dates, by mail', () => {
  it('a date changed in UTC stands once, and a yes to the series answers it, too', async () => {
    const line = await request(...daily('yes'), ...changed('yes'));
    expect(await shown('yes')).toEqual([
      '08-10T09:00 TENTATIVE',
      '08-11T15:00 TENTATIVE',
      '08-12T09:00 TENTATIVE',
      '08-13T09:00 TENTATIVE',
    ]);
    const { status } = await maren.post('/decisions', { incoming: [line.id], to: 'answer', reply: 'yes' });
    expect(status).toBe(200);
    expect(await shown('yes')).toEqual([
      '08-10T09:00 CONFIRMED',
      '08-11T15:00 CONFIRMED',
      '08-12T09:00 CONFIRMED',
      '08-13T09:00 CONFIRMED',
    ]);
    await maren.post('/decisions/undo');
    expect(await shown('yes')).toContain('08-11T15:00 TENTATIVE');
  });

  it('a new request for the whole series leaves no ghost of an older change', async () => {
    await request(...daily('ghost'));
    await request(...changed('ghost', 1));
    expect(await shown('ghost')).toContain('08-11T15:00 TENTATIVE');
    await request(...daily('ghost', 2, '1100'));
    expect((await shown('ghost')).map((one) => one.slice(0, 11))).toEqual([
      '08-10T11:00',
      '08-11T11:00',
      '08-12T11:00',
      '08-13T11:00',
    ]);
  });

  it('the end of the series is the end of its changed dates; of a date and all after it, of those', async () => {
    await request(...daily('ended'), ...changed('ended'));
    await cancel(...event('ended', 1, 'DTSTART;TZID=Europe/Vienna:20260810T090000'));
    expect((await entries('ended')).every((one) => one.status === 'CANCELLED')).toBe(true);
    await request(
      ...daily('rest'),
      ...event(
        'rest',
        0,
        'RECURRENCE-ID;TZID=Europe/Vienna:20260813T090000',
        'DTSTART;TZID=Europe/Vienna:20260813T160000',
        'DURATION:PT1H',
      ),
    );
    await cancel(
      ...event(
        'rest',
        1,
        'RECURRENCE-ID;RANGE=THISANDFUTURE;TZID=Europe/Vienna:20260812T090000',
        'DTSTART;TZID=Europe/Vienna:20260812T090000',
      ),
    );
    expect((await shown('rest')).filter((one) => !one.endsWith('CANCELLED'))).toEqual([
      '08-10T09:00 TENTATIVE',
      '08-11T09:00 TENTATIVE',
    ]);
  });

  it('a change with RANGE=THISANDFUTURE moves that date and all after it', async () => {
    await request(
      ...daily('range'),
      ...event(
        'range',
        0,
        'RECURRENCE-ID;RANGE=THISANDFUTURE;TZID=Europe/Vienna:20260812T090000',
        'DTSTART;TZID=Europe/Vienna:20260812T140000',
        'DURATION:PT2H',
      ),
    );
    expect((await entries('range')).map((one) => `${one.start.slice(8, 16)}-${one.end.slice(11, 16)}`)).toEqual([
      '10T09:00-10:00',
      '11T09:00-10:00',
      '12T14:00-16:00',
      '13T14:00-16:00',
    ]);
  });
});

describe('how an invitation is packed', () => {
  const plain = (uid: string) => event(uid, 0, 'DTSTART;TZID=Europe/Vienna:20260817T090000', 'DURATION:PT1H');
  it('its METHOD may stand in the header alone, after a byte order mark, in Latin-1', async () => {
    await send('text/calendar; method=REQUEST', calendar('', ...plain('header')));
    await send('text/calendar; method=REQUEST', `\uFEFF${calendar('REQUEST', ...plain('mark'))}`);
    await send(
      'text/calendar; method=REQUEST; charset=iso-8859-1',
      Buffer.from(calendar('REQUEST', ...plain('Übergang')), 'latin1'),
    );
    for (const title of ['header', 'mark', 'Übergang'])
      expect([title, await shown(title)]).toEqual([title, ['08-17T09:00 TENTATIVE']]);
  });

  it('one line that cannot be read is said, and the rest is kept', async () => {
    const line = await request(
      ...event('broken', 0, 'DTSTART;TZID=Europe/Vienna:20260817T090000', 'DTEND:whenever', 'DURATION:PT1H', 'LOCATION:Hut'),
    );
    const { body } = await maren.get<{ kind: string; problems: string[] }>(`/incoming/${line.id}`);
    expect([body.kind, body.problems.join()]).toEqual(['invitation', expect.stringContaining('DTEND') as string]);
    expect(await shown('broken')).toEqual(['08-17T09:00 TENTATIVE']);
  });
});

describe('calendars as files', () => {
  const take = async (...lines: string[]) =>
    (
      await maren.post<{ taken: number; known: number; updated: number; refused: { reason: string }[] }>(
        '/import',
        multipart('fen.ics', calendar('', ...lines)),
      )
    ).body;

  it('events without UID are known when they come again', async () => {
    const bare = ['BEGIN:VEVENT', 'DTSTART:20260820T070000Z', 'DTEND:20260820T080000Z', 'SUMMARY:Bare', 'END:VEVENT'];
    expect(await take(...bare, ...bare)).toMatchObject({ taken: 1, known: 1, refused: [] });
    expect(await take(...bare)).toMatchObject({ taken: 0, known: 1, refused: [] });
    expect(await entries('Bare')).toHaveLength(1);
  });

  it('what cannot be placed is in the report, with the reason; the rest is taken', async () => {
    const report = await take(
      ...event('placed', 0, 'DTSTART:20260820T070000Z'),
      ...event('lost', 0, 'DTSTART;TZID=Nowhere:20260820T070000'),
    );
    expect(report).toMatchObject({ taken: 1 });
    expect(report.refused.map((one) => one.reason).join()).toContain('time zone “Nowhere” is not known');
  });

  it('an all-day event stays on its day when its reader lives elsewhere', async () => {
    await take(...event('whole day', 0, 'DTSTART;VALUE=DATE:20260825', 'DTEND;VALUE=DATE:20260826'));
    for (const zone of ['Pacific/Kiritimati', 'Pacific/Pago_Pago', 'Europe/Vienna']) {
      await database(server).query('UPDATE "user" SET zone = ?', [zone]);
      const days = await maren.get<{ days: { day: string; entries: Entry[] }[] }>('/days?from=2026-08-24&days=3');
      const on = days.body.days.filter((day) => day.entries.some((one) => one.title === 'whole day')).map((day) => day.day);
      expect([zone, on, (await entries('whole day')).map((one) => [one.day, one.start, one.end])]).toEqual([
        zone,
        ['2026-08-25'],
        [['2026-08-25', '2026-08-25', '2026-08-26']],
      ]);
    }
  });
});
