import type { AgendaEntry, DecisionAnswer, Done, EventFull } from '@corvun/contract';
import { readItip } from '@corvun/formats';
import { database, multipart, ownServer } from './harness';

const ZONE = 'Europe/Vienna';
const INES = 'Ines Aalto <ines@aalto-timber.example>';

interface Failure {
  error: { code: string; message: string; fields?: Record<string, string> };
}

const here = ownServer();

const make = async (input: object): Promise<string> => {
  const { status, body } = await here.maren.post<DecisionAnswer>('/events', input);
  expect([status, body.made?.length]).toEqual([201, 1]);
  return body.made[0]?.id ?? '';
};
const full = async (id: string, occurrence = '') =>
  (await here.maren.get<EventFull>(`/events/${id}${occurrence ? `?occurrence=${occurrence}` : ''}`)).body;
const entries = async (title: string, from = '2026-08-03', days = 40) =>
  (await here.maren.get<{ entries: AgendaEntry[] }>(`/agenda?from=${from}&days=${days}`)).body.entries.filter(
    (one) => one.title === title,
  );
const starts = async (title: string) => (await entries(title)).map((one) => one.start?.slice(0, 16));

/** What waits to go out, oldest first, each with the invitation it carries. */
async function outgoing() {
  const rows = await database(here.server).query<{ payload: string }[]>(`SELECT "payload" FROM "outbox" ORDER BY rowid`);
  return rows.map(({ payload }) => {
    const mail = JSON.parse(payload) as { to: { address: string }[]; subject: string; text: string; calendar: { text: string } };
    const itip = readItip(mail.calendar.text, ZONE);
    return { to: mail.to[0]?.address, subject: mail.subject, text: mail.text, itip, ics: mail.calendar.text };
  });
}
const forget = () => database(here.server).query('DELETE FROM "outbox"');

describe('an event that is made', () => {
  it('goes into the main calendar with all that was said, and is read back', async () => {
    const id = await make({
      title: '  Reed survey ',
      start: '2026-08-06T14:00',
      minutes: 90,
      location: 'Gate 3, https://meet.fen.example/reed',
      description: '**Boots**',
      category: 'field',
      showAs: 'tentative',
      private: true,
      endZone: 'Europe/London',
    });
    expect(await full(id)).toMatchObject({
      title: 'Reed survey',
      start: '2026-08-06T14:00:00+02:00',
      end: '2026-08-06T15:30:00+02:00',
      zone: ZONE,
      endZone: 'Europe/London',
      meetingLink: 'https://meet.fen.example/reed',
      category: 'field',
      showAs: 'tentative',
      private: true,
      repeat: null,
      occurrence: null,
      fixed: null,
      history: [{ by: 'you' }],
    });
    expect((await here.maren.post<{ sentence: string }>('/decisions/undo')).status).toBe(200);
    expect((await here.maren.get(`/events/${id}`)).status).toBe(404);
  });

  it('takes whole days, another zone, and an end instead of a length', async () => {
    const days = await make({ title: 'Fen fair', start: '2026-08-08', end: '2026-08-10', allDay: true });
    expect(await full(days)).toMatchObject({ start: '2026-08-08', end: '2026-08-10', allDay: true, zone: null, minutes: 2880 });
    const there = await make({
      title: 'Call the yard',
      start: '2026-08-06T09:00',
      end: '2026-08-06T10:00',
      zone: 'Europe/Helsinki',
    });
    expect(await full(there)).toMatchObject({ start: '2026-08-06T08:00:00+02:00', minutes: 60, zone: 'Europe/Helsinki' });
    const over = await make({
      title: 'Night ferry',
      start: '2026-08-06T22:00',
      end: '2026-08-07T07:00',
      endZone: 'Europe/Helsinki',
    });
    expect(await full(over)).toMatchObject({ minutes: 480, endZone: 'Europe/Helsinki' });
  });

  it.each<[object, string]>([
    [{ start: '2026-08-06T14:00', end: '2026-08-06T13:00' }, 'It would end before it begins.'],
    [{ start: '2026-08-06', end: '2026-08-06', allDay: true }, 'It would end before it begins.'],
    [{ start: '2026-08-06T14:00', zone: 'Fen/North' }, 'Fen/North is not a time zone that is known.'],
    [{ start: '2026-08-06T14:00', repeat: 'FREQ=SECONDLY' }, 'A calendar cannot show what repeats every second or minute.'],
    [{ start: '2026-08-06T14:00', guests: ['Ines <ines@>'] }, '“Ines <ines@>” is not a mail address.'],
    [{ start: '2026-08-06T14:00', calendarId: 'nowhere' }, 'There is no such calendar.'],
    [
      { start: '2026-08-06T14:00', guests: ['Jonas Brandl'], tell: '' },
      'Write the mail address of Jonas Brandl, or leave them out, to tell the guests.',
    ],
  ])('is refused with a sentence: %j', async (more, sentence) => {
    const { status, body } = await here.maren.post<Failure>('/events', { title: 'Refused', ...more });
    expect([status, body.error.message]).toEqual([422, sentence]);
    expect(await entries('Refused')).toEqual([]);
  });

  it('takes no guest that breaks the line', async () => {
    const guests = ['ines@aalto-timber.example\r\nBcc: eve@alderfen.example'];
    const { status, body } = await here.maren.post<Failure>('/events', { title: 'Refused', start: '2026-08-06T14:00', guests });
    expect([status, body.error.fields?.['guests']]).toEqual([400, 'A guest is written in one line.']);
  });
});

describe('a repeating event', () => {
  it('says how many dates a change reaches, and parts where all after a date are meant', async () => {
    const id = await make({ title: 'Stand-up', start: '2026-08-03T09:00', minutes: 15, repeat: 'FREQ=WEEKLY;COUNT=6' });
    await here.maren.patch(`/events/${id}`, { occurrence: '2026-08-17T09:00', scope: 'this', title: 'Stand-up outside' });
    const shown = await full(id, '2026-08-10T09:00');
    expect(shown.reach).toEqual({ following: { dates: 5, byHand: 1 }, all: { dates: 6, byHand: 1 } });
    expect(shown.nextDates).toEqual([
      '2026-08-10T09:00',
      '2026-08-17T09:00',
      '2026-08-24T09:00',
      '2026-08-31T09:00',
      '2026-09-07T09:00',
    ]);
    const { body } = await here.maren.patch<Done>(`/events/${id}`, {
      occurrence: '2026-08-24T09:00',
      scope: 'following',
      start: '2026-08-25T10:00',
      minutes: 30,
    });
    expect(body.sentence).toBe('“Stand-up” is on Tue 25 Aug at 10:00, and all after it');
    expect(await starts('Stand-up')).toEqual([
      '2026-08-03T09:00',
      '2026-08-10T09:00',
      '2026-08-25T10:00',
      '2026-09-01T10:00',
      '2026-09-08T10:00',
    ]);
    expect(await starts('Stand-up outside')).toEqual(['2026-08-17T09:00']);
    await here.maren.post('/decisions/undo');
    expect(await starts('Stand-up')).toHaveLength(5);
    expect((await full(id)).repeat).toBe('FREQ=WEEKLY;COUNT=6');
  });

  it('repeats otherwise: dates changed by hand that it does not have any more go', async () => {
    const id = await make({ title: 'Count', start: '2026-08-03T09:00', minutes: 30, repeat: 'FREQ=DAILY;COUNT=5' });
    await here.maren.patch(`/events/${id}`, { occurrence: '2026-08-05T09:00', start: '2026-08-05T15:00' });
    await here.maren.patch(`/events/${id}`, { occurrence: '2026-08-06T09:00', start: '2026-08-06T16:00' });
    await here.maren.patch(`/events/${id}`, { scope: 'all', repeat: 'FREQ=WEEKLY;BYDAY=MO,WE;COUNT=4' });
    expect(await starts('Count')).toEqual(['2026-08-03T09:00', '2026-08-05T15:00', '2026-08-10T09:00', '2026-08-12T09:00']);
    const { status } = await here.maren.patch(`/events/${id}`, { occurrence: '2026-08-10T09:00', repeat: 'FREQ=DAILY' });
    expect(status).toBe(422);
    await here.maren.patch(`/events/${id}`, { occurrence: '2026-08-10T09:00', scope: 'all', repeat: null });
    expect(await starts('Count')).toEqual(['2026-08-10T09:00']);
    for (let back = 0; back < 2; back += 1) await here.maren.post('/decisions/undo');
    expect(await starts('Count')).toHaveLength(5);
  });

  it('becomes one of whole days, and of times again, with its left-out dates', async () => {
    const id = await make({
      title: 'Watch',
      start: '2026-08-03T09:00',
      minutes: 60,
      repeat: 'FREQ=DAILY;UNTIL=20260806T070000Z',
    });
    await here.maren.remove(`/events/${id}?scope=this&occurrence=2026-08-04T09:00`);
    await here.maren.patch(`/events/${id}`, { scope: 'all', occurrence: '2026-08-05T09:00', allDay: true, start: '2026-08-05' });
    expect(await starts('Watch')).toEqual(['2026-08-03', '2026-08-05', '2026-08-06']);
    await here.maren.patch(`/events/${id}`, {
      scope: 'all',
      occurrence: '2026-08-05',
      allDay: false,
      start: '2026-08-06T18:00',
      minutes: 45,
    });
    expect(await starts('Watch')).toEqual(['2026-08-04T18:00', '2026-08-06T18:00', '2026-08-07T18:00']);
    expect((await full(id)).minutes).toBe(45);
  });

  it('stays at its hour in the zone it is put in', async () => {
    const id = await make({ title: 'Tide', start: '2026-10-23T09:00', minutes: 60, repeat: 'FREQ=DAILY;COUNT=4' });
    await here.maren.patch(`/events/${id}`, {
      scope: 'all',
      occurrence: '2026-10-23T09:00',
      start: '2026-10-23T09:00',
      zone: 'Europe/London',
    });
    const all = await entries('Tide', '2026-10-20', 10);
    expect(all.map((one) => one.start)).toEqual([
      '2026-10-23T10:00:00+02:00',
      '2026-10-24T10:00:00+02:00',
      '2026-10-25T10:00:00+01:00',
      '2026-10-26T10:00:00+01:00',
    ]);
  });
});

describe('guests', () => {
  beforeEach(forget);

  it('hear of a new event, of what changes, and of what is no more', async () => {
    const id = await make({ title: 'Walk', start: '2026-08-12T10:00', minutes: 60, guests: [INES], tell: 'Boots, please.' });
    const moved = await here.maren.patch<Done>(`/events/${id}`, { start: '2026-08-12T11:00', tell: '' });
    expect(moved.body.sentence).toBe('“Walk” is on Wed 12 Aug at 11:00, was Wed 12 Aug 10:00; Ines Aalto is told');
    const quiet = await here.maren.patch<Done>(`/events/${id}`, { location: 'Gate 3' });
    expect(quiet.body.sentence).toBe('“Walk”: at Gate 3; its guests were not told');
    await here.maren.patch(`/events/${id}`, { guests: [INES, 'jonas.brandl@alderfen.example'], tell: '' });
    await here.maren.patch(`/events/${id}`, { guests: ['jonas.brandl@alderfen.example'], tell: '' });
    await here.maren.remove(`/events/${id}?tell=Too%20wet`);
    const sent = await outgoing();
    expect(sent.map(({ to, subject, itip }) => [to?.split('@')[0], subject, itip?.method, itip?.events[0]?.sequence])).toEqual([
      ['ines', 'Invitation: Walk', 'REQUEST', 0],
      ['ines', 'Changed: Walk', 'REQUEST', 1],
      ['ines', 'Changed: Walk', 'REQUEST', 1],
      ['jonas.brandl', 'Invitation: Walk', 'REQUEST', 1],
      ['jonas.brandl', 'Changed: Walk', 'REQUEST', 1],
      ['ines', 'Cancelled: Walk', 'CANCEL', 1],
      ['jonas.brandl', 'Cancelled: Walk', 'CANCEL', 1],
    ]);
    expect(sent[0]?.text).toBe('Boots, please.\n\nInvitation: Walk, Wed 12 Aug 10:00 (Europe/Vienna)');
    expect(sent[0]?.itip?.events[0]).toMatchObject({
      start: '2026-08-12T10:00',
      zone: ZONE,
      organizer: { address: 'maren@alderfen.example' },
    });
    await here.maren.post('/decisions/undo');
    expect(await outgoing()).toHaveLength(6);
    expect(await starts('Walk')).toEqual(['2026-08-12T11:00']);
  });

  it('hear of one date of a series, and of the two series it is parted into', async () => {
    const id = await make({
      title: 'Round',
      start: '2026-08-03T09:00',
      minutes: 30,
      repeat: 'FREQ=WEEKLY;COUNT=5',
      guests: [INES],
      tell: '',
    });
    await forget();
    await here.maren.patch(`/events/${id}`, { occurrence: '2026-08-10T09:00', start: '2026-08-11T09:00', tell: '' });
    await here.maren.remove(`/events/${id}?scope=this&occurrence=2026-08-17T09:00&tell=`);
    await here.maren.patch(`/events/${id}`, {
      occurrence: '2026-08-24T09:00',
      scope: 'following',
      start: '2026-08-24T14:00',
      tell: '',
    });
    const sent = await outgoing();
    expect(sent.map(({ itip }) => [itip?.method, itip?.events.map((one) => [one.recurrenceId, one.start, one.rrule])])).toEqual([
      ['REQUEST', [['2026-08-10T09:00', '2026-08-11T09:00', null]]],
      ['CANCEL', [['2026-08-17T09:00', '2026-08-17T09:00', null]]],
      ['REQUEST', [[null, '2026-08-03T09:00', 'FREQ=WEEKLY;COUNT=3']]],
      ['REQUEST', [[null, '2026-08-24T14:00', 'FREQ=WEEKLY;COUNT=2']]],
    ]);
    expect(new Set(sent.map(({ itip }) => itip?.events[0]?.uid)).size).toBe(2);
  });
});

describe('calendars', () => {
  it('an event goes into another one, a copy stays beside it, and what comes from outside is only copied', async () => {
    const outside =
      'BEGIN:VCALENDAR\r\nVERSION:2.0\r\nX-WR-CALNAME:Choir\r\nBEGIN:VEVENT\r\nUID:song@fen.example\r\nSUMMARY:Song\r\nDTSTART:20260806T160000Z\r\nDTEND:20260806T170000Z\r\nEND:VEVENT\r\nEND:VCALENDAR\r\n';
    await here.maren.call('POST', '/api/import', multipart('choir.ics', outside));
    const [main] = (await here.maren.get<{ id: string; name: string }[]>('/calendars')).body;
    const other = (await here.maren.get<{ id: string; name: string; origin: string }[]>('/calendars')).body.find(
      (one) => one.id !== main?.id,
    );
    const id = await make({ title: 'Moves over', start: '2026-08-06T08:00', minutes: 30 });
    if (other?.origin === 'own') {
      const { body } = await here.maren.patch<Done>(`/events/${id}`, { calendarId: other.id });
      expect(body.sentence).toBe(`“Moves over” is in ${other.name} now`);
      expect((await full(id)).calendarId).toBe(other.id);
    }
    const { body } = await here.maren.post<DecisionAnswer>(`/events/${id}/copies`, { days: ['2026-08-09', '2026-08-07'] });
    expect(body.sentence).toBe('“Moves over” is on 2 more days, too');
    expect(await starts('Moves over')).toEqual(['2026-08-06T08:00', '2026-08-07T08:00', '2026-08-09T08:00']);
    await here.maren.post('/decisions/undo');
    expect(await starts('Moves over')).toHaveLength(1);
  });
});
