import {
  database,
  type Outside,
  clear,
  sendMail,
  until,
  withOutside,
  type Caller,
  type Line,
  type Page,
  type Running,
} from './harness';

interface Full extends Line {
  note: string;
  kind: string;
  state: string;
  joinedTo: string | null;
  made: { kind: string; id: string }[];
  invitation: {
    method: string;
    eventId: string | null;
    changes: string[];
    answerable: boolean;
    overlaps: string[];
    start: string;
  } | null;
}
interface Entry {
  id: string;
  title: string;
  start: string;
  status: string;
  occurrence: string | null;
}
interface Mailed {
  received: { subject: string; to: string; method: string; calendar: string; text: string }[];
}
type Fields = Record<string, string>;

let server: Running;
let outside: Outside;
let maren: Caller;

const INES = 'Ines Aalto <ines@aalto-timber.example>';
const base: Fields = {
  method: 'REQUEST',
  from: INES,
  to: 'maren.holt@alderfen.example',
  uid: 'handrail@aalto-timber.example',
  title: 'Choose the handrail',
  day: '2026-08-11',
  start: '10:00',
  end: '11:00',
  rrule: '',
  sequence: '0',
};
const invite = (more: Fields = {}) => outside.act('/mail/invite', { ...base, ...more });
const inbox = async () => (await maren.get<Page>('/incoming?limit=100')).body.items as Full[];
const full = async (id: string) => (await maren.get<Full>(`/incoming/${id}`)).body;
const entries = async (title: string, days = 40) =>
  (await maren.get<{ entries: Entry[] }>(`/agenda?from=2026-08-03&days=${days}`)).body.entries.filter(
    (one) => one.title === title,
  );
const latest = async (count: number) =>
  until(
    async () => ((await maren.get<{ total: number }>('/incoming')).body.total === count ? (await inbox()).at(-1) : null),
    `${count} in the inbox`,
  );
const decide = (incoming: string | undefined, more: object) =>
  maren.post<{ sentence: string; error?: { message: string } }>('/decisions', { incoming: [incoming], to: 'answer', ...more });
/** What waits to be mailed goes now: undo would hold it back for 20 seconds. */
const hurry = () => database(server).query('UPDATE outbox SET nextTry = 0');
const mailed = async (count: number) => {
  await hurry();
  return until(async () => {
    const { received } = await outside.state<Mailed>('mail');
    return received.length === count ? received : null;
  }, `${count} mails out`);
};

beforeAll(async () => {
  ({ server, outside, maren } = await withOutside());
});

afterAll(async () => {
  await server.stop();
  outside.stop();
  clear(server.data);
});

describe('invitations (RFC 5546)', () => {
  let first: Full;

  it('becomes a tentative event and an incoming that can be answered', async () => {
    await maren.post('/captures', { text: 'Seed order 2026-08-11 10:30 - 11:30' });
    await invite();
    first = await latest(1);
    expect(first).toMatchObject({ kind: 'invitation', suggestion: { to: 'answer' } });
    expect((await full(first.id)).invitation).toMatchObject({
      method: 'REQUEST',
      answerable: true,
      start: '2026-08-11T10:00:00+02:00',
      overlaps: [expect.stringContaining('Seed order')],
    });
    expect(await entries('Choose the handrail')).toMatchObject([{ status: 'TENTATIVE', start: '2026-08-11T10:00:00+02:00' }]);
  });

  it('an update says what changed, and stands in place of the first', async () => {
    await invite({ sequence: '1', day: '2026-08-12', start: '14:00', end: '15:00' });
    const update = await until(async () => (await inbox()).find((one) => one.note !== ''), 'the update');
    expect(update.note).toBe('moved from Tue 11 Aug 10:00 to Wed 12 Aug 14:00');
    expect(await inbox()).toHaveLength(1);
    expect((await full(first.id)).joinedTo).toBe(update.id);
    expect(await entries('Choose the handrail')).toMatchObject([{ start: '2026-08-12T14:00:00+02:00' }]);
  });

  it('an old SEQUENCE never overwrites a newer one', async () => {
    await invite({ sequence: '0', day: '2026-08-20' });
    await until(async () => (await maren.get<Page>('/incoming?state=decided')).body.total === 2, 'the old one, joined');
    expect(await entries('Choose the handrail')).toMatchObject([{ start: '2026-08-12T14:00:00+02:00' }]);
    expect(await inbox()).toHaveLength(1);
  });

  it('is answered with a correct REPLY after a pause in which undo still holds it back', async () => {
    const [line] = await inbox();
    expect((await decide(line?.id, {})).body.error?.message).toContain('Say yes, maybe or no');
    const { body } = await decide(line?.id, { reply: 'yes', notes: 'Gladly.' });
    expect(body.sentence).toContain('is answered with yes');
    expect((await entries('Choose the handrail'))[0]?.status).toBe('CONFIRMED');
    await maren.post('/decisions/undo');
    expect((await entries('Choose the handrail'))[0]?.status).toBe('TENTATIVE');
    expect((await maren.get<unknown[]>('/outbox')).body).toEqual([]);

    await decide(line?.id, { reply: 'yes', notes: 'Gladly.' });
    const [mail] = await mailed(1);
    expect(mail).toMatchObject({ method: 'REPLY', to: 'ines@aalto-timber.example' });
    for (const text of ['UID:handrail@aalto-timber.example', 'SEQUENCE:1', 'PARTSTAT=ACCEPTED', 'COMMENT:Gladly.'])
      expect(mail?.calendar.replace(/\r?\n /g, '')).toContain(text);
    expect(mail?.calendar.match(/ATTENDEE/g)).toHaveLength(1);
  });

  it('a cancellation from the organizer cancels; from somebody else it changes nothing', async () => {
    await invite({ method: 'CANCEL', sequence: '2', from: 'Somebody <somebody@elsewhere.example>', organizer: INES });
    const forged = await latest(1);
    expect(forged.note).toMatch(/not from the organizer/);
    expect((await entries('Choose the handrail'))[0]?.status).toBe('CONFIRMED');
    await invite({ method: 'CANCEL', sequence: '3' });
    const real = await until(async () => (await inbox()).find((one) => /is cancelled/.test(one.note)), 'the cancellation');
    expect((await entries('Choose the handrail'))[0]?.status).toBe('CANCELLED');
    expect((await decide(real.id, { reply: 'yes' })).body.error?.message).toContain('no invitation that can be answered');
    await maren.post('/decisions', { incoming: (await inbox()).map((one) => one.id), to: 'drop' });
  });

  it('a repeating one: a single changed occurrence, and a single cancelled one', async () => {
    const weekly = { uid: 'tools@alderfen.example', title: 'Care of tools', day: '2026-08-10', rrule: 'FREQ=WEEKLY;COUNT=4' };
    await invite(weekly);
    await latest(1);
    expect(await entries('Care of tools')).toHaveLength(4);
    await invite({
      ...weekly,
      rrule: '',
      sequence: '1',
      recurrenceId: '2026-08-17T10:00',
      day: '2026-08-18',
      start: '09:00',
      end: '10:00',
    });
    const moved = await until(async () => (await inbox()).find((one) => one.note.includes('moved')), 'the changed occurrence');
    expect(moved.note).toBe('Mon 17 Aug 10:00: moved from Mon 17 Aug 10:00 to Tue 18 Aug 9:00');
    await invite({ ...weekly, rrule: '', sequence: '1', method: 'CANCEL', recurrenceId: '2026-08-24T10:00', day: '2026-08-24' });
    await until(async () => (await inbox()).find((one) => one.note.includes('the others stay')), 'the cancelled occurrence');
    expect((await entries('Care of tools')).map((one) => one.start.slice(5, 16))).toEqual([
      '08-10T10:00',
      '08-18T09:00',
      '08-31T10:00',
    ]);
  });

  it('another time goes back as a COUNTER', async () => {
    await invite({ uid: 'counter@aalto-timber.example', title: 'Screws', sequence: '0' });
    const line = await until(async () => (await inbox()).find((one) => one.subject.includes('Screws')), 'the invitation');
    const { body } = await decide(line.id, { start: '2026-08-13T09:00', minutes: 45, notes: 'Earlier is better.' });
    expect(body.sentence).toContain('goes back with Thu 13 Aug at 9:00 proposed');
    const [mail] = await mailed(2);
    expect(mail).toMatchObject({ method: 'COUNTER' });
    expect(mail?.calendar).toMatch(/DTSTART;TZID=Yard time:20260813T090000/);
    expect(mail?.calendar).toMatch(/DTEND;TZID=Yard time:20260813T094500/);
  });

  it('the same invitation in two mailboxes is one', async () => {
    const calendar = [
      'BEGIN:VCALENDAR',
      'VERSION:2.0',
      'METHOD:REQUEST',
      'BEGIN:VEVENT',
      'UID:twice@alderfen.example',
      'DTSTAMP:20260801T100000Z',
      'DTSTART:20260814T080000Z',
      'DTEND:20260814T090000Z',
      'SUMMARY:Twice',
      `ORGANIZER:mailto:oda@alderfen.example`,
      'ATTENDEE:mailto:maren.holt@alderfen.example',
      'END:VEVENT',
      'END:VCALENDAR',
      '',
    ].join('\r\n');
    const raw = (id: string) =>
      [
        `Message-ID: <${id}@alderfen.example>`,
        'From: Oda <oda@alderfen.example>',
        'To: maren.holt@alderfen.example',
        'Subject: Twice',
        'Date: Sat, 01 Aug 2026 12:00:00 +0200',
        'MIME-Version: 1.0',
        'Content-Type: text/calendar; method=REQUEST; charset=utf-8',
        '',
        calendar,
      ].join('\r\n');
    const before = (await inbox()).length;
    for (const id of ['a', 'b']) await sendMail(server.smtpPort, { to: 'maren.holt@alderfen.example', raw: raw(id) });
    expect(await inbox()).toHaveLength(before + 1);
    expect(await entries('Twice')).toHaveLength(1);
    const twice = (await inbox()).find((one) => one.subject === 'Twice');
    expect((await maren.get<{ joined: object[] }>(`/incoming/${twice?.id}`)).body.joined).toHaveLength(1);
  });

  it('a guest’s answer is noted, and a guest’s proposal can be taken: the event moves and all guests are told', async () => {
    await maren.post('/captures', { text: 'Hut meeting 2026-08-19 15:00 - 16:00 @jonas.brandl@alderfen.example' });
    const source = database(server);
    const [event] = await source.query<{ uid: string }[]>("SELECT uid FROM event WHERE title = 'Hut meeting'");
    const guest = {
      uid: event?.uid ?? '',
      title: 'Hut meeting',
      from: 'Jonas Brandl <jonas.brandl@alderfen.example>',
      day: '2026-08-19',
      start: '15:00',
      end: '16:00',
    };
    await invite({ ...guest, method: 'REPLY', partstat: 'ACCEPTED' });
    await until(async () => (await inbox()).find((one) => one.note === 'Jonas Brandl says yes'), 'the answer');
    await invite({ ...guest, method: 'COUNTER', day: '2026-08-20' });
    const proposal = await until(async () => (await inbox()).find((one) => one.note.includes('proposes')), 'the proposal');
    expect(proposal.note).toBe('Jonas Brandl proposes Thu 20 Aug 15:00 instead of Wed 19 Aug 15:00');
    await decide(proposal.id, { reply: 'yes' });
    expect(await entries('Hut meeting')).toMatchObject([{ start: '2026-08-20T15:00:00+02:00' }]);
    const [mail] = await mailed(3);
    expect(mail).toMatchObject({ method: 'REQUEST', to: 'jonas.brandl@alderfen.example' });
    expect(mail?.calendar).toContain('SEQUENCE:1');
  });

  it('a guest of an event made from a mail is invited when the user says so, with a cover note', async () => {
    await sendMail(server.smtpPort, {
      to: 'maren.holt@capture.example',
      subject: 'Handrail profile',
      text: 'Shall we look at it together?',
    });
    const line = await until(async () => (await inbox()).find((one) => one.subject === 'Handrail profile'), 'the mail');
    const before = (await maren.get<unknown[]>('/outbox')).body.length;
    const event = { incoming: [line.id], to: 'event', title: 'Handrail profile', start: '2026-08-21T10:00', minutes: 45 };
    expect((await maren.post('/decisions', { ...event, with: 'Ines', invite: 'Come along' })).status).toBe(422);
    const { body } = await maren.post<{ sentence: string }>('/decisions', {
      ...event,
      with: 'Ines Aalto <ines@aalto-timber.example>',
      invite: 'Let us look at it together.',
    });
    expect(body.sentence).toMatch(/is an event on Fri 21 Aug at 10:00; Ines Aalto is invited$/);
    const [entry, ...others] = (await maren.get<{ id: string; what: string }[]>('/outbox')).body;
    expect(others).toHaveLength(before);
    expect(entry?.what).toBe('Mail to Ines Aalto: Invitation: Handrail profile');
    const [sent] = await mailed(4);
    if (!sent) throw new Error('nothing went out');
    expect(sent).toMatchObject({ method: 'REQUEST', to: 'ines@aalto-timber.example' });
    expect(sent.text).toContain('Let us look at it together.');
    expect(sent.calendar.replace(/\r?\n[ \t]/g, '')).toMatch(
      /ATTENDEE;CN="Ines Aalto";PARTSTAT=NEEDS-ACTION;RSVP=TRUE:mailto:ines@aalto-timber.example/,
    );
  });

  it('several guests are each invited, and one without an address is asked for', async () => {
    await sendMail(server.smtpPort, { to: 'maren.holt@capture.example', subject: 'Two guests', text: 'Shall we?' });
    const line = await until(async () => (await inbox()).find((one) => one.subject === 'Two guests'), 'the mail');
    const event = { incoming: [line.id], to: 'event', start: '2026-08-24T10:00', invite: '' };
    const refused = await maren.post<{ error: { fields: object } }>('/decisions', {
      ...event,
      with: 'ines@aalto-timber.example, Jonas Brandl',
    });
    expect(refused.body.error.fields).toEqual({ with: 'Write the mail address of Jonas Brandl.' });
    const before = (await maren.get<unknown[]>('/outbox')).body.length;
    const { body } = await maren.post<{ sentence: string }>('/decisions', {
      ...event,
      with: 'Ines Aalto <ines@aalto-timber.example>; jonas.brandl@alderfen.example',
    });
    expect(body.sentence).toMatch(/Ines Aalto and jonas\.brandl@alderfen\.example are invited$/);
    expect((await maren.get<unknown[]>('/outbox')).body).toHaveLength(before + 2);
    await maren.post('/decisions/undo');
    expect((await maren.get<unknown[]>('/outbox')).body).toHaveLength(before);
  });
});
