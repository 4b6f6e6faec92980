import type { Added, CalendarInfo, Done, OthersInfo } from '@corvun/contract';
import { firstAccount, startServer, type Caller, type Running } from './harness';

interface Seen {
  title: string;
  calendarId: string;
}

let server: Running;
let maren: Caller;
const calendars = async () => (await maren.get<CalendarInfo[]>('/calendars')).body;
const named = async (name: string) => (await calendars()).find((one) => one.name === name);
const events = async () =>
  (await maren.get<{ entries: Seen[] }>('/agenda?from=2026-08-03&days=18')).body.entries.map(({ title, calendarId }) => [
    title,
    calendarId,
  ]);
const undo = () => maren.post('/decisions/undo');

beforeAll(async () => {
  server = await startServer('empty');
  maren = await firstAccount(server);
  await maren.post('/calendars', { name: 'Own' });
  const { id } = (await maren.post<Added>('/calendars', { name: 'Choir' })).body;
  await maren.post('/events', {
    calendarId: id,
    title: 'Rehearsal',
    start: '2026-08-04T18:00',
    minutes: 90,
    repeat: 'FREQ=WEEKLY',
  });
  await maren.post('/events', { calendarId: id, title: 'Concert', start: '2026-08-15T19:00', minutes: 120 });
  await maren.post('/shares', { calendarId: id, shows: 'all' });
});
afterAll(() => server.stop());

describe('taking a calendar of one’s own away', () => {
  it('its events go into another one, and all of it is one doing', async () => {
    const [choir, main] = [await named('Choir'), (await calendars()).find((one) => one.main)];
    const { body } = await maren.remove<Done>(`/calendars/${choir?.id}?events=${main?.id}`);
    expect(body.sentence).toBe(`The calendar “Choir” is taken away, 2 events now in “${main?.name}”`);
    expect(await named('Choir')).toBeUndefined();
    expect(new Set((await events()).map(([, id]) => id))).toEqual(new Set([main?.id]));
    expect((await events()).length).toBe(4);
    expect((await maren.get<OthersInfo>('/others')).body.shares).toEqual([]);
    await undo();
    expect((await named('Choir'))?.id).toBe(choir?.id);
    expect(new Set((await events()).map(([, id]) => id))).toEqual(new Set([choir?.id]));
    expect((await maren.get<OthersInfo>('/others')).body.shares).toHaveLength(1);
  });

  it('its events go with it, and come back with it', async () => {
    const choir = await named('Choir');
    expect((await maren.remove<Done>(`/calendars/${choir?.id}?events=drop`)).body.sentence).toBe(
      'The calendar “Choir” is taken away, 2 events with it',
    );
    expect(await events()).toEqual([]);
    await undo();
    expect((await events()).length).toBe(4);
  });

  it('is refused for the main one, for one that cannot take them, and for what is not there', async () => {
    const [choir, main] = [await named('Choir'), (await calendars()).find((one) => one.main)];
    const status = async (path: string) => (await maren.remove(path)).status;
    expect(await status(`/calendars/${main?.id}?events=drop`)).toBe(409);
    expect(await status(`/calendars/${choir?.id}?events=${choir?.id}`)).toBe(422);
    expect(await status(`/calendars/${choir?.id}?events=nothere`)).toBe(404);
    expect(await status('/calendars/nothere')).toBe(404);
    expect((await events()).length).toBe(4);
  });
});
