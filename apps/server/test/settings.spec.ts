import type { DayInfo, Done, Me, TaskInfo } from '@corvun/contract';
import type { Settings } from '@corvun/core';
import { Caller, clear, firstAccount, startServer, type Running } from './harness';

interface Refused {
  error: { fields?: Record<string, string> };
}

const MONDAY = '2026-08-03';

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

const read = async () => (await maren.get<Settings>('/settings')).body;
const change = (body: object) => maren.patch<{ sentence: string }>('/settings', body);
const dayOf = async (day: string) => (await maren.get<{ days: DayInfo[] }>(`/days?from=${day}&days=1`)).body.days[0];

describe('settings', () => {
  it('that consist of several are chosen one by one: what is left out stays', async () => {
    await change({ planning: { limit: 60 }, lengths: { deep: 90 } });
    await change({ planning: { deep: ['13:00-15:00'], parts: { from: 60, least: 30 } }, lengths: { light: 15 } });
    const { planning, lengths, remind } = await read();
    expect(planning).toMatchObject({ limit: 60, deep: ['13:00-15:00'], parts: { from: 60, least: 30 }, places: [] });
    expect(lengths).toEqual({ deep: 90, medium: 30, light: 15 });
    await change({ planning: { limit: null }, remind: { before: null } });
    expect(await read()).toMatchObject({
      planning: { limit: null, deep: ['13:00-15:00'] },
      remind: { ...remind, before: null },
    });
    for (let back = 0; back < 3; back++) await maren.post('/decisions/undo');
    expect((await read()).planning).toMatchObject({ limit: null, deep: ['09:00-12:00'] });
  });

  it('are what everybody begins with, and say so', async () => {
    const settings = await read();
    expect(settings).toMatchObject({
      weekStart: 1,
      snap: 15,
      zones: [],
      daysOff: [],
      keys: {},
      begun: false,
      zone: 'Europe/Vienna',
    });
    expect((await maren.get<Me>('/me')).body.settings).toEqual(settings);
  });

  it('change hours with pauses at once where days are counted, and give them back with undo', async () => {
    const { status, body } = await change({ hours: { 1: ['09:00-12:00', '12:45-17:30'] } });
    expect([status, body.sentence]).toEqual([200, 'The working hours were changed']);
    const day = await dayOf(MONDAY);
    expect(day?.working).toEqual([
      { start: '2026-08-03T09:00:00+02:00', end: '2026-08-03T12:00:00+02:00' },
      { start: '2026-08-03T12:45:00+02:00', end: '2026-08-03T17:30:00+02:00' },
    ]);
    expect((await dayOf('2026-08-04'))?.working).toEqual([]);
    expect((await maren.post('/decisions/undo')).status).toBe(200);
    expect((await dayOf('2026-08-04'))?.working).toHaveLength(1);
    expect((await dayOf(MONDAY))?.working).toHaveLength(1);
  });

  it('of clock and dates are gone by in what is told, at once and for this account only', async () => {
    await change({ clock: 12, dates: 'month-day' });
    const { body } = await maren.post<{ ids: string[] }>('/tasks', { lines: ['Order planks'], after: null });
    const placed = await maren.post<Done>('/blocks', { taskId: body.ids[0], start: '2026-08-04T14:30', minutes: 30 });
    expect(placed.body.sentence).toContain('Tue Aug 4 at 2:30 pm');
    await change({ typed: 'en' });
    const read = await maren.post<{ ids: string[] }>('/tasks', { lines: ['Read the leaflet Freitag'], after: null });
    expect((await maren.get<TaskInfo>(`/tasks/${read.body.ids[0]}`)).body.title).toBe('Read the leaflet Freitag');
    await change({ clock: 24, dates: 'day-month', typed: 'any' });
    const again = await maren.post<Done>('/blocks', { taskId: body.ids[0], start: '2026-08-05T14:30', minutes: 30 });
    expect(again.body.sentence).toContain('Wed 5 Aug at 14:30');
    expect((await change({ clock: 13 })).status).toBe(400);
  });

  it('that two windows choose both count', async () => {
    await Promise.all([change({ snap: 5 }), change({ weekStart: 7 }), change({ zones: ['America/Halifax'] })]);
    expect(await read()).toMatchObject({ snap: 5, weekStart: 7, zones: ['America/Halifax'] });
  });

  it('take nobody’s work on a day off, and are read from a calendar, each day once', async () => {
    const ics = [
      'BEGIN:VCALENDAR',
      'VERSION:2.0',
      'PRODID:-//Alder Fen Trust//Holidays//EN',
      ...['BEGIN:VEVENT', 'UID:a@alderfen.example', 'DTSTAMP:20260101T000000Z', 'DTSTART;VALUE=DATE:20260804'],
      ...['DTEND;VALUE=DATE:20260806', 'SUMMARY:Fen days', 'END:VEVENT'],
      ...['BEGIN:VEVENT', 'UID:b@alderfen.example', 'DTSTAMP:20260101T000000Z', 'DTSTART;VALUE=DATE:20261225'],
      ...['RRULE:FREQ=YEARLY', 'SUMMARY:Christmas Day', 'END:VEVENT'],
      'END:VCALENDAR',
      '',
    ].join('\r\n');
    const added = await maren.post<{ sentence: string }>('/settings/days-off', { ics });
    expect(added.body.sentence).toBe('5 days off are added');
    expect((await read()).daysOff.map(({ day }) => day)).toEqual([
      '2026-08-04',
      '2026-08-05',
      '2026-12-25',
      '2027-12-25',
      '2028-12-25',
    ]);
    expect((await maren.post('/settings/days-off', { ics })).body).toMatchObject({ sentence: 'These days off were known' });
    expect(await dayOf('2026-08-04')).toMatchObject({ off: 'Fen days', working: [], load: { capacity: 0 } });
    expect((await maren.post('/settings/days-off', { ics: 'no calendar' })).status).toBe(422);
  });

  it.each<[object, string]>([
    [{ hours: { 1: ['17:00-09:00'] } }, 'hours'],
    [{ hours: { 1: ['09:00-12:00', '11:00-13:00'] } }, 'hours'],
    [{ hours: { 8: ['09:00-12:00'] } }, 'hours'],
    [{ zone: 'Fen/Alder' }, 'zone'],
    [{ zones: ['Fen/Alder'] }, 'zones'],
    [{ name: '   ' }, 'name'],
    [{ addresses: ['not an address'] }, 'addresses'],
    [{ daysOff: [{ day: '2026-02-30', name: '' }] }, 'daysOff'],
    [{ lengths: { deep: 0, medium: 30, light: 15 } }, 'lengths'],
    [{ keys: { 'sort drop': 'k' } }, 'keys'],
    [{ weekStart: 3 }, 'weekStart'],
  ])('are refused with a sentence at their field, and nothing is lost: %j', async (body, field) => {
    const before = await read();
    const { status, body: answer } = await maren.patch<Refused>('/settings', body);
    expect(status).toBe(400);
    expect(Object.keys(answer.error.fields ?? {}).map((name) => name.split('.')[0])).toContain(field);
    expect(await read()).toEqual(before);
  });

  it('say how long work takes where a line does not; nothing said is refused', async () => {
    expect((await change({})).status).toBe(422);
    await change({ lengths: { deep: 120, medium: 45, light: 10 } });
    const { body } = await maren.post<{ id: string }>('/captures', { text: 'Call Ines on Friday 10:00' });
    const day = await dayOf('2026-08-07');
    const block = day?.entries.find((entry) => entry.id === body.id);
    expect([block?.start, block?.end]).toEqual(['2026-08-07T10:00:00+02:00', '2026-08-07T10:45:00+02:00']);
  });

  it('list sessions and end one of them', async () => {
    const second = new Caller(server.url);
    await second.post('/session', { email: 'maren@alderfen.example', password: 'reed-bed-and-bittern' });
    const { body } = await maren.get<{ id: string; present: boolean }[]>('/sessions');
    expect(body.map(({ present }) => present)).toEqual([true, false]);
    expect((await maren.remove(`/sessions/${body[1]?.id}`)).status).toBe(204);
    expect((await second.get('/me')).status).toBe(401);
    expect((await maren.get('/me')).status).toBe(200);
    expect((await maren.remove('/sessions/nobody')).status).toBe(404);
  });

  it('go into an export with everything that was chosen', async () => {
    const { body } = await maren.get<string>('/data/export');
    const settings = await read();
    expect(settings.weekStart).toBe(7);
    for (const { day } of settings.daysOff) expect(body).toContain(day);
  });

  it('count other addresses as one’s own, and keep what was chosen over a restart of the page', async () => {
    await change({ name: ' Maren H. ', addresses: ['Maren@Reedlark.example', 'maren@reedlark.example'] });
    expect(await read()).toMatchObject({ name: 'Maren H.', addresses: ['maren@reedlark.example'], snap: 5 });
    expect((await maren.get<Me>('/me')).body.name).toBe('Maren H.');
  });

  it('say that a test mail went nowhere where its server does not answer', async () => {
    const { status, body } = await maren.post<{ error: { message: string } }>('/settings/test-mail');
    expect([status, body.error.message]).toEqual([502, expect.stringContaining('does not answer')]);
    expect((await maren.get('/outbox')).body).toEqual([]);
  });
});
