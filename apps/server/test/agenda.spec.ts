import { newId } from '../src/base/ids';
import { blankEvent } from '../src/decisions/blanks';
import { Event } from '../src/events/event.entity';
import { database, type Caller, clear, startServer, type Running, firstAccount } from './harness';

interface Entry {
  id: string;
  kind: string;
  title: string;
  start: string;
  end: string;
  allDay: boolean;
  status: string;
  showAs: string;
  occurrence: string | null;
}

interface Day {
  day: string;
  working: { start: string; end: string }[];
  gaps: { start: string; end: string }[];
  load: { capacity: number; meetings: number; blocks: number; unplaced: number; left: number; over: number };
  unseen: { start: string; end: string }[];
  entries: Entry[];
}

const ZONE = 'Europe/Vienna';
let server: Running;
let maren: Caller;
let ownerId = '';
let calendarId = '';

beforeAll(async () => {
  server = await startServer('empty');
  maren = await firstAccount(server);
  await maren.post('/captures', { text: 'Meeting 1 September 10:00-11:00' });
  ownerId = (await maren.get<{ id: string }>('/me')).body.id;
  calendarId = (await maren.get<{ id: string }[]>('/calendars')).body[0]?.id ?? '';
});

afterAll(async () => {
  await server.stop();
  clear(server.data);
});

/** Puts an event into the calendar as a source would. */
async function event(start: string, end: string, more: Partial<Event> = {}): Promise<string> {
  const id = newId();
  const allDay = start.length === 10;
  await database(server)
    .getRepository(Event)
    .insert({
      ...blankEvent({ start, end, allDay, zone: allDay ? null : (more.zone ?? ZONE) }, ZONE, more.rrule ?? null),
      id,
      ownerId,
      version: 1,
      created: 0,
      changed: 0,
      calendarId,
      uid: `${id}@fen.example`,
      title: 'Event',
      ...more,
    });
  return id;
}

const day = async (from: string) => (await maren.get<{ days: Day[] }>(`/days?from=${from}&days=1`)).body.days[0] as Day;
const on = async (from: string, id: string) =>
  (await maren.get<{ entries: Entry[] }>(`/agenda?from=${from}`)).body.entries.filter((one) => one.id === id);

describe('the agenda', () => {
  it('keeps a repeating event at its wall-clock time when the clocks change', async () => {
    const id = await event('2026-10-19T09:00', '2026-10-19T10:00', { rrule: 'FREQ=WEEKLY;COUNT=2' });
    expect((await on('2026-10-19', id))[0]?.start).toBe('2026-10-19T09:00:00+02:00');
    expect((await on('2026-10-26', id))[0]?.start).toBe('2026-10-26T09:00:00+01:00');
    expect(await on('2026-10-20', id)).toEqual([]);
  });

  it('leaves excluded occurrences out and shows cancelled ones as such', async () => {
    const id = await event('2026-11-02T09:00', '2026-11-02T10:00', {
      rrule: 'FREQ=DAILY;COUNT=4',
      exdates: ['2026-11-03T09:00'],
    });
    expect(await on('2026-11-03', id)).toEqual([]);
    expect(await on('2026-11-04', id)).toHaveLength(1);
    const cancelled = await event('2026-11-09T09:00', '2026-11-09T17:00', { status: 'CANCELLED' });
    expect((await on('2026-11-09', cancelled))[0]?.status).toBe('CANCELLED');
    expect((await day('2026-11-09')).load.meetings).toBe(0);
  });

  it('shows an event over several days on each of them, and one over midnight on both', async () => {
    const camp = await event('2026-11-16', '2026-11-19');
    for (const [name, there] of [
      ['2026-11-15', 0],
      ['2026-11-16', 1],
      ['2026-11-18', 1],
      ['2026-11-19', 0],
    ] as const)
      expect([name, (await on(name, camp)).length]).toEqual([name, there]);
    const night = await event('2026-11-20T22:00', '2026-11-21T02:00');
    expect([
      (await on('2026-11-20', night)).length,
      (await on('2026-11-21', night)).length,
      (await on('2026-11-22', night)).length,
    ]).toEqual([1, 1, 0]);
  });

  it('counts an all-day event that is busy as the whole working day', async () => {
    await event('2026-12-01', '2026-12-02');
    expect(await day('2026-12-01')).toMatchObject({ gaps: [], load: { capacity: 510, meetings: 510, left: 0 } });
  });

  it('leaves time free that an event only marks', async () => {
    const id = await event('2026-12-02T09:00', '2026-12-02T12:00', { transparent: true });
    const { gaps, load, entries } = await day('2026-12-02');
    expect([gaps.length, load.meetings, entries.find((one) => one.id === id)?.showAs]).toEqual([1, 0, 'free']);
    const tentative = await event('2026-12-03T09:00', '2026-12-03T12:00', { status: 'TENTATIVE' });
    expect((await day('2026-12-03')).entries.find((one) => one.id === tentative)?.showAs).toBe('tentative');
  });

  it('offers nothing that is over, and no working time at the weekend', async () => {
    const { gaps } = await day('2026-08-03');
    expect(gaps[0]?.start).toMatch(/^2026-08-03T10:5/);
    expect((await day('2026-08-02')).gaps).toEqual([]);
    expect(await day('2026-08-08')).toMatchObject({ working: [], gaps: [], load: { capacity: 0 } });
  });

  it('counts tasks without a time once, and not beside their own block', async () => {
    await maren.post('/captures', { text: 'Read 7 December for 2h' });
    expect((await day('2026-12-07')).load).toMatchObject({ unplaced: 120, blocks: 0, left: 390 });
    const { body } = await maren.post<{ made: { kind: string; id: string }[] }>('/captures', {
      text: 'Write 8 December 9:00 for 2h',
    });
    expect((await day('2026-12-08')).load).toMatchObject({ unplaced: 0, blocks: 120 });
    const task = body.made.find((thing) => thing.kind === 'task')?.id;
    expect((await day('2026-12-08')).entries.filter((one) => one.kind === 'task' && one.id === task)).toEqual([]);
  });

  it('says by how much a day is over-promised', async () => {
    await event('2026-12-10T09:00', '2026-12-10T16:00');
    await maren.post('/captures', { text: 'Too much 10 December for 3h' });
    expect((await day('2026-12-10')).load).toMatchObject({ meetings: 420, unplaced: 180, left: 0, over: 90 });
  });
});

describe('what is hidden', () => {
  it('takes its time all the same, unless its calendar does not count', async () => {
    await event('2026-12-14T09:00', '2026-12-14T11:00');
    const set = (patch: object) => maren.patch(`/calendars/${calendarId}`, patch);
    const seen = async () => {
      const { entries, load, unseen } = await day('2026-12-14');
      return [entries.length, load.meetings, unseen.map(({ start }) => start.slice(11, 16))];
    };
    expect(await seen()).toEqual([1, 120, []]);
    await set({ shown: false });
    expect(await seen()).toEqual([0, 120, ['09:00']]);
    await set({ busy: false });
    expect(await seen()).toEqual([0, 0, []]);
    await set({ shown: true });
    expect(await seen()).toEqual([1, 0, []]);
    await set({ busy: true });
  });
});

describe('moving events', () => {
  it('keeps the zone of an event that was made in another one', async () => {
    const id = await event('2027-01-05T09:00', '2027-01-05T10:00', { zone: 'America/Halifax' });
    expect((await on('2027-01-05', id))[0]?.start).toBe('2027-01-05T14:00:00+01:00');
    expect((await maren.patch(`/events/${id}`, { start: '2027-01-06T16:00', minutes: 90 })).status).toBe(200);
    const row = await database(server).getRepository(Event).findOneByOrFail({ id });
    expect(row).toMatchObject({ zone: 'America/Halifax', start: '2027-01-06T11:00', end: '2027-01-06T12:30', sequence: 1 });
    expect((await on('2027-01-06', id))[0]?.start).toBe('2027-01-06T16:00:00+01:00');
  });

  it('leaves a meeting to whoever called it', async () => {
    const id = await event('2027-01-07T09:00', '2027-01-07T10:00', { organizer: 'ines@aalto-timber.example' });
    const moved = await maren.patch<{ error: { message: string } }>(`/events/${id}`, { start: '2027-01-08T09:00', minutes: 60 });
    expect([moved.status, moved.body.error.message]).toEqual([403, expect.stringContaining('ines@aalto-timber.example')]);
    expect((await database(server).getRepository(Event).findOneByOrFail({ id })).sequence).toBe(0);
    expect((await maren.patch(`/events/${id}`, { showAs: 'free' })).status).toBe(200);
  });

  it('says that guests were not told', async () => {
    const guest = { name: 'Ines Aalto', address: 'ines@aalto-timber.example', partstat: 'ACCEPTED' as const };
    const id = await event('2027-01-07T15:00', '2027-01-07T16:00', { attendees: [guest] });
    const { body } = await maren.patch<{ sentence: string }>(`/events/${id}`, { start: '2027-01-08T15:00' });
    expect(body.sentence).toContain('its guests were not told');
  });

  it('from one date on parts a series in two, and one undo makes it whole again', async () => {
    const id = await event('2027-04-05T09:00', '2027-04-05T10:00', { rrule: 'FREQ=WEEKLY;COUNT=4' });
    const starts = async () => {
      const { entries } = (await maren.get<{ entries: Entry[] }>('/agenda?from=2027-04-05&days=28')).body;
      return entries.map((one) => `${one.start.slice(5, 16)} ${one.title}`);
    };
    const before = await starts();
    const change = { start: '2027-04-20T10:00', title: 'Later', occurrence: '2027-04-19T09:00', scope: 'following' };
    expect((await maren.patch(`/events/${id}`, change)).status).toBe(200);
    expect(await starts()).toEqual(['04-05T09:00 Event', '04-12T09:00 Event', '04-20T10:00 Later', '04-27T10:00 Later']);
    await maren.post('/decisions/undo');
    expect(await starts()).toEqual(before);
    expect((await maren.call('DELETE', `/api/events/${id}?occurrence=2027-04-12T09:00&scope=this`)).status).toBe(200);
    expect(await starts()).toEqual(before.filter((one) => !one.startsWith('04-12')));
    expect((await maren.call('DELETE', `/api/events/${id}?scope=some`)).status).toBe(400);
  });

  it('moves an all-day event by days and keeps its length', async () => {
    const id = await event('2027-01-11', '2027-01-13');
    expect((await maren.patch(`/events/${id}`, { start: '2027-01-14', minutes: 2880 })).status).toBe(200);
    expect((await on('2027-01-11', id)).length).toBe(0);
    expect((await on('2027-01-15', id))[0]).toMatchObject({ start: '2027-01-14', end: '2027-01-16', allDay: true });
  });

  it('needs to know which occurrence is meant, and refuses one that is not there', async () => {
    const id = await event('2027-02-01T09:00', '2027-02-01T10:00', { rrule: 'FREQ=WEEKLY;COUNT=4' });
    const times = { start: '2027-02-09T11:00', minutes: 60 };
    expect((await maren.patch(`/events/${id}`, times)).status).toBe(422);
    expect((await maren.patch(`/events/${id}`, { ...times, occurrence: '2027-02-09T09:00' })).status).toBe(404);
    expect((await maren.patch(`/events/${id}`, { ...times, occurrence: '2027-02-08T09:00' })).status).toBe(200);
    expect((await on('2027-02-08', id)).length).toBe(0);
    expect((await on('2027-02-15', id)).length).toBe(1);
  });

  it('taken out takes its changed occurrences along, and undo brings all back', async () => {
    const id = await event('2027-03-01T09:00', '2027-03-01T10:00', { rrule: 'FREQ=WEEKLY;COUNT=3' });
    await maren.patch(`/events/${id}`, { start: '2027-03-09T11:00', minutes: 60, occurrence: '2027-03-08T09:00' });
    const titles = async (from: string) => (await maren.get<{ entries: Entry[] }>(`/agenda?from=${from}`)).body.entries.length;
    expect([await titles('2027-03-01'), await titles('2027-03-09')]).toEqual([1, 1]);
    await maren.call('DELETE', `/api/events/${id}`);
    expect([await titles('2027-03-01'), await titles('2027-03-09')]).toEqual([0, 0]);
    await maren.post('/decisions/undo');
    expect([await titles('2027-03-01'), await titles('2027-03-09')]).toEqual([1, 1]);
  });
});
