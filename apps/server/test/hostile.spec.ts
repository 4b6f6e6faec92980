import { type Caller, clear, firstAccount, multipart, sendMail, startServer, until, type Page, type Running } from './harness';

const TO = 'maren@alderfen.example';
interface Full {
  kind: string;
  note: string;
  text: string;
  html: string | null;
  problems: string[];
  invitation: { start: string; repeats: boolean } | null;
}

let server: Running;
let maren: Caller;
beforeAll(async () => {
  server = await startServer('empty');
  maren = await firstAccount(server);
});
afterAll(async () => {
  await server.stop();
  clear(server.data);
});

const mail = (subject: string, type: string, body: string, more: string[] = []): string =>
  [
    'From: Ines Aalto <ines@aalto-timber.example>',
    `To: ${TO}`,
    `Subject: ${subject}`,
    'Date: Mon, 3 Aug 2026 08:00:00 +0200',
    `Message-ID: <${subject.replace(/\W/g, '-')}@aalto-timber.example>`,
    'MIME-Version: 1.0',
    `Content-Type: ${type}`,
    ...more,
    '',
    body,
  ].join('\r\n');
const calendar = (...lines: string[]) =>
  [
    'BEGIN:VCALENDAR',
    'VERSION:2.0',
    'METHOD:REQUEST',
    'BEGIN:VEVENT',
    `UID:${lines.join('').length}-${lines[0]}@aalto-timber.example`,
    'DTSTAMP:20260801T000000Z',
    'ORGANIZER:mailto:ines@aalto-timber.example',
    `ATTENDEE:mailto:${TO}`,
    'SUMMARY:Site walk',
    'DURATION:PT1H',
    ...lines,
    'END:VEVENT',
    'END:VCALENDAR',
  ].join('\r\n');
const invitation = (subject: string, ...lines: string[]) => mail(subject, 'text/calendar; method=REQUEST', calendar(...lines));

const kept = async (subject: string): Promise<Full> => {
  const line = await until(
    async () => (await maren.get<Page>('/incoming?limit=200')).body.items.find((one) => one.subject === subject),
    subject,
  );
  return (await maren.get<Full>(`/incoming/${line.id}`)).body;
};
const send = async (raw: string) => expect(await sendMail(server.smtpPort, { to: TO, raw })).toMatch(/^250/);

describe('what would fill the memory or stop the clock', () => {
  it.each<[string, string]>([
    ['a cell that spans 30,000 columns and rows', '<table><tr><td colspan=30000 rowspan=30000>Gauge</td></tr></table>'],
    ['tables in tables', `${'<table><tr><td>'.repeat(100_000)}Gauge`],
    ['one element in the other', `${'<b>'.repeat(400_000)}Gauge`],
  ])('%s: the message is there with its words', async (subject, html) => {
    await send(mail(subject, 'text/html; charset=utf-8', html));
    const { text, problems } = await kept(subject);
    expect(text).toContain('Gauge');
    expect(problems.every((one) => /too (?:deeply nested|long|large) to clean/.test(one))).toBe(true);
  });

  it('a message that takes longer than it is given is kept with its headers, and says so', async () => {
    const slow = await startServer('empty', undefined, { CORVUN_READ_TIME: '1' });
    const noor = await firstAccount(slow);
    const raw = mail('Longer than its time', 'text/plain', 'The level of the fen');
    expect(await sendMail(slow.smtpPort, { to: TO, raw })).toMatch(/^250/);
    const line = await until(async () => (await noor.get<Page>('/incoming')).body.items[0], 'the message');
    const { body } = await noor.get<Full & { sender: { address: string } }>(`/incoming/${line.id}`);
    expect([line.subject, line.suggestion]).toEqual(['Longer than its time', null]);
    expect([body.note, body.sender.address, body.text]).toEqual(['could not be read', 'ines@aalto-timber.example', '']);
    expect(body.problems).toEqual([
      'This message could not be read. It takes too long to read. What it was sent with is kept unchanged.',
    ]);
    const original = await noor.call<string>('GET', `/api/incoming/${line.id}/original`);
    expect(original.body).toContain('The level of the fen');
    await slow.stop();
    clear(slow.data);
    process.env['CORVUN_READ_TIME'] = '';
  });
});

describe('one odd invitation', () => {
  it.each<[string, string[], RegExp]>([
    ['every second', ['DTSTART;TZID=Europe/Vienna:20260805T090000', 'RRULE:FREQ=SECONDLY'], /repeats every second/],
    ['a zone nobody knows', ['DTSTART;TZID=Fen Time:20260805T090000'], /time zone “Fen Time” is not known/],
  ])('with %s is a mail with a note', async (subject, lines, said) => {
    await send(invitation(subject, ...lines));
    const { kind, note, problems, invitation: kept_ } = await kept(subject);
    expect([kind, note, kept_]).toEqual(['mail', 'its invitation could not be kept', null]);
    expect(problems.join(' ')).toMatch(said);
  });

  it.each(['FREQ=HOURLY;INTERVAL=24;BYHOUR=5', 'FREQ=DAILY;BYMONTH=2;BYMONTHDAY=30'])(
    '%s is kept as a single event and says so',
    async (rule) => {
      await send(invitation(rule, 'DTSTART;TZID=Europe/Vienna:20260805T090000', `RRULE:${rule}`));
      const { kind, problems, invitation: asked } = await kept(rule);
      expect([kind, asked?.start, asked?.repeats]).toEqual(['invitation', '2026-08-05T09:00:00+02:00', false]);
      expect(problems).toEqual(['Its repeat rule never gives another date, so it is kept as a single event.']);
      const { body } = await maren.get<{ entries: { title: string; day: string }[] }>('/agenda?from=2026-08-01&days=30');
      expect(body.entries.some((one) => one.title === 'Site walk' && one.day === '2026-08-05')).toBe(true);
    },
  );

  it('in an mbox does not end the import, nor take its neighbours with it', async () => {
    const bad = invitation('Bad in the box', 'DTSTART;TZID=Europe/Vienna:20260806T090000', 'RRULE:FREQ=SECONDLY');
    const all = Array.from({ length: 90 }, (_, at) => (at === 41 ? bad : mail(`Box ${at}`, 'text/plain', `Text ${at}`)));
    const box = all.map((one) => `From x Mon Aug  3 09:00:00 2026\r\n${one}\r\n`).join('\r\n');
    const { body } = await maren.post<{ taken: number; refused: unknown[] }>('/import', multipart('box.mbox', box));
    expect(body).toMatchObject({ taken: 90, refused: [] });
    expect((await kept('Bad in the box')).note).toBe('its invitation could not be kept');
  });

  it('with a name Windows gives its zone, or a path around it, stands at the right hour', async () => {
    for (const [subject, zone] of [
      ['Windows', 'Eastern Standard Time'],
      ['Path', '/calendars.example/20260101_1/America/New_York'],
    ] as const) {
      await send(invitation(subject, `DTSTART;TZID=${zone}:20260805T090000`));
      expect((await kept(subject)).invitation?.start).toBe('2026-08-05T15:00:00+02:00');
    }
  });
});

describe('one Message-ID', () => {
  it('with two different texts is two messages, and says so; each of them again is known', async () => {
    const first = mail('Same id', 'text/plain', 'The first text');
    const second = first.replace('The first text', 'Another text altogether');
    for (const raw of [first, second, first, second]) await send(raw);
    const { body } = await maren.get<Page>('/incoming?limit=200');
    const lines = body.items.filter((one) => one.subject === 'Same id');
    const all = await Promise.all(lines.map(async (one) => (await maren.get<Full>(`/incoming/${one.id}`)).body));
    expect(all.map((one) => one.text).sort()).toEqual(['Another text altogether', 'The first text']);
    expect(all.find((one) => one.text.startsWith('Another'))?.problems.join()).toMatch(/same Message-ID/);
    const again = await maren.post('/import', multipart('second.eml', second));
    expect(again.body).toMatchObject({ taken: 0, known: 1 });
  });
});
