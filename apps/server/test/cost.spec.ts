import type { AgendaEntry, DecisionAnswer, YesCost } from '@corvun/contract';
import { sendMail, ownServer, until, type Page } from './harness';

const TO = 'maren@alderfen.example';
const here = ownServer('test');
let number = 0;

/** Invites Maren by mail; gives the incoming and the event it became. */
async function invite(title: string, ...lines: string[]): Promise<{ incoming: string; event: string }> {
  number += 1;
  const calendar = [
    ...['BEGIN:VCALENDAR', 'VERSION:2.0', 'METHOD:REQUEST', 'BEGIN:VEVENT', `UID:${number}@aalto-timber.example`],
    ...['DTSTAMP:20260801T000000Z', 'SEQUENCE:0', 'ORGANIZER:mailto:ines@aalto-timber.example'],
    ...[`ATTENDEE;PARTSTAT=NEEDS-ACTION:mailto:${TO}`, `SUMMARY:${title}`, ...lines, 'END:VEVENT', 'END:VCALENDAR', ''],
  ].join('\r\n');
  const raw = `From: Ines Aalto <ines@aalto-timber.example>\r\nTo: ${TO}\r\nSubject: ${title}\r\nMessage-ID: <${number}@x.example>\r\nMIME-Version: 1.0\r\nContent-Type: text/calendar; method=REQUEST\r\n\r\n${calendar}`;
  await sendMail(here.server.smtpPort, { to: TO, raw });
  const line = await until(
    async () => (await here.maren.get<Page>('/incoming?limit=50')).body.items.find((one) => one.subject === title),
    title,
  );
  const { body } = await here.maren.get<{ invitation: { eventId: string } }>(`/incoming/${line.id}`);
  return { incoming: line.id, event: body.invitation.eventId };
}
const wednesday = ['DTSTART;TZID=Europe/Vienna:20260805T140000', 'DTEND;TZID=Europe/Vienna:20260805T153000'];
const task = async (line: string) => (await here.maren.post<{ ids: string[] }>('/tasks', { lines: [line] })).body.ids[0] ?? '';
const block = async (taskId: string, start: string, minutes: number) =>
  (await here.maren.post<DecisionAnswer>('/blocks', { taskId, start, minutes })).body.made[0]?.id ?? '';
const cost = async (query: string) => (await here.maren.get<YesCost>(`/cost?${query}`)).body;
const at = async (title: string) =>
  (await here.maren.get<{ entries: AgendaEntry[] }>('/agenda?from=2026-08-03&days=14')).body.entries
    .filter((one) => one.title === title && one.kind !== 'task')
    .map(({ start, status }) => `${start?.slice(5, 16)} ${status}`);

it('a yes says what moves where, which deadline gets close and what is left; it is carried out and taken back as one', async () => {
  const quote = await task('Compare quotes by 6 August 12:00 10h');
  const own = await block(quote, '2026-08-05T13:30', 60);
  const later = await block(await task('Write the report'), '2026-08-05T15:00', 60);
  await here.maren.post('/events', { title: 'Site walk', start: '2026-08-05T14:30', minutes: 30 });
  const { incoming, event } = await invite('Gauge meeting', ...wednesday);
  const found = await cost(`event=${event}`);
  expect(found.overlaps.map(({ title, movable, moveTo }) => [title, movable, moveTo !== null])).toEqual([
    ['Compare quotes', true, true],
    ['Site walk', false, false],
    ['Write the report', true, true],
  ]);
  expect(found.minutes).toBe(120);
  expect(found.deadlines.map(({ title, lateMinutes, slackMinutes }) => [title, lateMinutes, slackMinutes > 0])).toEqual([]);
  expect(found.before.map(({ kind }) => kind)).toEqual(['own', 'event', 'own']);
  expect(found.after.filter(({ kind }) => kind === 'this')).toHaveLength(1);
  expect(found.instead.length).toBeGreaterThan(0);
  expect(found.working).toEqual([{ start: '2026-08-05T09:00:00+02:00', end: '2026-08-05T17:30:00+02:00' }]);

  const moves = found.overlaps.flatMap(({ id, moveTo }) => (moveTo ? [{ block: id, start: moveTo.start }] : []));
  const said = await here.maren.post<DecisionAnswer>('/decisions', { incoming: [incoming], to: 'answer', reply: 'yes', moves });
  expect(said.body.sentence).toBe('“Gauge meeting” is answered with yes; 2 blocks moved');
  expect(await at('Gauge meeting')).toEqual(['08-05T14:00 CONFIRMED']);
  const moved = [found.overlaps[0], found.overlaps[2]].map((one) => one?.moveTo?.start.slice(5, 16));
  expect([await at('Compare quotes'), await at('Write the report')].flat().map((one) => one.slice(0, 11))).toEqual(moved);
  await here.maren.post('/decisions/undo');
  expect(await at('Gauge meeting')).toEqual(['08-05T14:00 TENTATIVE']);
  expect((await at('Compare quotes')).map((one) => one.slice(0, 11))).toEqual(['08-05T13:30']);
  expect([own, later].every(Boolean)).toBe(true);
});

it('a deadline that would be missed is named with how much of its work finds no place', async () => {
  await task('Interim report by 5 August 17:30 25h');
  const { event } = await invite('Gauge meeting', ...wednesday);
  const [first] = (await cost(`event=${event}`)).deadlines;
  expect(first).toMatchObject({ title: 'Interim report', lastSafeStart: null });
  expect(first?.lateMinutes).toBeGreaterThan(0);
});

it('a time without an event is counted, too; of a series the next date; whole days move nothing', async () => {
  await here.maren.post('/events', { title: 'Site walk', start: '2026-08-04T10:00', minutes: 60 });
  await here.maren.post('/events', { title: 'Open day', start: '2026-08-07', allDay: true, showAs: 'busy' });
  expect((await cost('start=2026-08-07T10:30')).overlaps.map(({ title, allDay }) => [title, allDay])).toEqual([
    ['Open day', true],
  ]);
  expect((await cost('start=2026-08-04T10:30&minutes=30')).overlaps.map(({ title }) => title)).toEqual(['Site walk']);
  expect((await cost('start=2027-08-04T10:30')).overlaps).toEqual([]);
  const daily = await invite(
    'Stand-up',
    'DTSTART;TZID=Europe/Vienna:20260801T100000',
    'DURATION:PT30M',
    'RRULE:FREQ=DAILY;COUNT=9',
  );
  expect((await cost(`event=${daily.event}`)).occurrence).toBe('2026-08-04T10:00');
  expect((await cost(`event=${daily.event}&occurrence=2026-08-04T10:00`)).overlaps.map(({ title }) => title)).toEqual([
    'Site walk',
  ]);
  await block(await task('Write'), '2026-08-06T09:00', 60);
  const away = await invite('Away day', 'DTSTART;VALUE=DATE:20260806', 'DTEND;VALUE=DATE:20260807');
  expect(await cost(`event=${away.event}`)).toMatchObject({ allDay: true, overlaps: [], minutes: 0 });
});

it('says what is wrong with a question, and refuses to move what is not there', async () => {
  expect((await here.maren.get('/cost')).status).toBe(422);
  expect((await here.maren.get('/cost?event=nothing')).status).toBe(404);
  expect((await here.maren.get('/cost?start=2026-08-04T10:00&minutes=soon')).status).toBe(400);
  const { incoming } = await invite('Gauge meeting', ...wednesday);
  const moves = [{ block: 'nothing', start: '2026-08-06T10:00' }];
  const refused = await here.maren.post('/decisions', { incoming: [incoming], to: 'answer', reply: 'yes', moves });
  expect(refused.status).toBe(404);
  expect(await at('Gauge meeting')).toEqual(['08-05T14:00 TENTATIVE']);
});
