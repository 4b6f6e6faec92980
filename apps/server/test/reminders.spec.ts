import type { CalendarInfo, DecisionAnswer, EventFull, OutboxInfo, ReminderInfo } from '@corvun/contract';
import { RemindService } from '../src/reminders/remind.service';
import { Caller, NOW, database, ownServer, startServer, until } from './harness';

const here = ownServer('test');

const MINUTE = 60_000;
const now = async () => Date.parse((await here.maren.get<{ now: string }>('/me')).body.now);
const iso = (at: number) => new Date(at).toISOString();
const trigger = (at: number) => `${iso(at).slice(0, 19).replace(/[-:]/g, '')}Z`;
const open = async () => (await here.maren.get<ReminderInfo[]>('/reminders')).body;
const due = (title: string) => until(async () => (await open()).find((one) => one.title === title), `the reminder of ${title}`);
const make = async (input: object): Promise<string> =>
  (await here.maren.post<DecisionAnswer>('/events', { minutes: 30, ...input })).body.made[0]?.id ?? '';
/** What has happened until now is counted. */
const counted = async () => {
  const service = here.server.app.get(RemindService);
  await until(() => Promise.resolve(service.isSettled || undefined), 'reminders');
};
/** The same folder, opened by a server whose clock says another time. */
async function at(time: number): Promise<void> {
  await here.server.stop();
  here.server = await startServer('empty', here.server.data, { CORVUN_NOW: iso(time) });
  here.maren = new Caller(here.server.url, here.maren.signedHeaders());
}

describe('reminders', () => {
  it('tells of an event by its own alarm, of a block when it begins, and of a task when it asks', async () => {
    const soon = (await now()) + 2000;
    const event = await make({
      ...{ title: 'Weir walk', start: '2026-08-20T10:00', location: 'Gate 3', meetingLink: 'https://meet.example/weir' },
      alarms: [{ trigger: trigger(soon) }],
    });
    await here.maren.post('/blocks', { kind: 'quiet', title: 'Count reeds', start: iso(soon), minutes: 30 });
    expect(await due('Weir walk')).toMatchObject({
      ...{ kind: 'event', thing: event, why: 'event', start: '2026-08-20T10:00:00+02:00', location: 'Gate 3', shown: false },
      ...{ meetingLink: 'https://meet.example/weir', occurrence: null },
    });
    expect(await due('Count reeds')).toMatchObject({ kind: 'block', why: 'block', taskId: null });
  });

  it('is told once by one window, put off, and done with everywhere', async () => {
    await make({ title: 'Weir walk', start: '2026-08-20T10:00', alarms: [{ trigger: trigger((await now()) + 1000) }] });
    const { id } = await due('Weir walk');
    const claims = await Promise.all([1, 2, 3].map(() => here.maren.post<{ first: boolean }>(`/reminders/${id}/shown`)));
    expect(claims.filter(({ body }) => body.first)).toHaveLength(1);
    expect((await here.maren.post(`/reminders/${id}/snooze`, { minutes: 5 })).status).toBe(204);
    expect(await open()).toEqual([]);
    await at((await now()) + 6 * MINUTE);
    expect(await due('Weir walk')).toMatchObject({ id, shown: false });
    await here.maren.post('/reminders/done', { ids: [id, 'nothing'] });
    await at((await now()) + MINUTE);
    await counted();
    expect(await open()).toEqual([]);
  });

  it('what was missed while the server was away is told once when it is back, and what is over is not told', async () => {
    const start = Date.parse(NOW) + 120 * MINUTE;
    await make({ title: 'Weir walk', start: iso(start) });
    await make({ title: 'Daily', start: iso(start + 5 * MINUTE), repeat: 'FREQ=DAILY;COUNT=40' });
    await at(start + 24 * 60 * MINUTE + 10 * MINUTE);
    await due('Weir walk');
    expect((await open()).map(({ title, occurrence }) => `${title} ${occurrence?.slice(0, 10) ?? ''}`)).toEqual([
      'Weir walk ',
      'Daily 2026-08-03',
      'Daily 2026-08-04',
    ]);
    await at((await now()) + MINUTE);
    await counted();
    expect(await open()).toHaveLength(3);
    expect(await database(here.server).query('SELECT COUNT(*) AS "n" FROM "reminder"')).toEqual([{ n: 3 }]);
  });

  it('goes with its event: moved, taken away, or of a hidden calendar', async () => {
    const start = Date.parse(NOW) + 15 * MINUTE;
    const moved = await make({ title: 'Moved', start: iso(start) });
    const gone = await make({ title: 'Gone', start: iso(start) });
    await at(start - 9 * MINUTE);
    await Promise.all([due('Moved'), due('Gone')]);
    await here.maren.patch(`/events/${moved}`, { start: iso(start + 60 * MINUTE), minutes: 30 });
    await here.maren.remove(`/events/${gone}`);
    await until(async () => (await open()).length === 0 || undefined, 'both to go');
    await at(start + 51 * MINUTE);
    await due('Moved');
    const calendars = (await here.maren.get<CalendarInfo[]>('/calendars')).body;
    const main = calendars.find((one) => one.main);
    await here.maren.patch(`/calendars/${main?.id}`, { shown: false });
    await until(async () => (await open()).length === 0 || undefined, 'it to go with its calendar');
  });

  it('is not that of a task that is done, nor of time for it', async () => {
    const soon = (await now()) + 2500;
    const ids = (await here.maren.post<{ ids: string[] }>('/tasks', { lines: ['Oil the gate', 'Count reeds'] })).body.ids;
    for (const taskId of ids) await here.maren.post('/blocks', { taskId, start: iso(soon), minutes: 30 });
    await here.maren.patch(`/tasks/${ids[0]}`, { status: 'COMPLETED' });
    expect(await due('Count reeds')).toMatchObject({ kind: 'block', why: 'block', taskId: ids[1] });
    expect((await open()).map(({ title }) => title)).toEqual(['Count reeds']);
    await here.maren.patch(`/tasks/${ids[1]}`, { status: 'COMPLETED' });
    await until(async () => (await open()).length === 0 || undefined, 'it to go with its task');
  });

  it('of a copy is counted from its own start; one at a fixed moment stays with the original', async () => {
    const alarms = [{ trigger: '-PT1H' }, { trigger: trigger((await now()) + 60_000) }];
    const id = await make({ title: 'Weir walk', start: '2026-08-20T10:00', alarms });
    const copies = (await here.maren.post<DecisionAnswer>(`/events/${id}/copies`, { days: ['2026-08-21'] })).body.made;
    const copy = (await here.maren.get<EventFull>(`/events/${copies[0]?.id}`)).body;
    expect(copy.alarms?.map((one) => one.trigger)).toEqual(['-PT1H']);
  });

  it('keeps what an event says of itself: other alarms, none, or what is so for all', async () => {
    const id = await make({ title: 'Weir walk', start: '2026-08-20T10:00', alarms: [{ trigger: '-PT1H' }] });
    const alarms = async () => (await here.maren.get<EventFull>(`/events/${id}`)).body.alarms;
    expect(await alarms()).toEqual([{ action: 'DISPLAY', trigger: '-PT1H', related: 'START' }]);
    await here.maren.patch(`/events/${id}`, { alarms: [] });
    expect(await alarms()).toEqual([]);
    await here.maren.patch(`/events/${id}`, { alarms: null });
    expect(await alarms()).toBeNull();
    const wrong = await here.maren.patch<{ error: { message: string } }>(`/events/${id}`, { alarms: [{ trigger: 'soon' }] });
    expect(wrong.status).toBe(400);
    expect(wrong.body.error.message).toContain('-PT15M');
  });

  it('goes out by mail where that is wanted, and by an alarm that says so', async () => {
    const soon = (await now()) + 1000;
    await make({ title: 'Weir walk', start: '2026-08-20T10:00', alarms: [{ trigger: trigger(soon), action: 'EMAIL' }] });
    await make({ title: 'Quiet one', start: '2026-08-20T10:00', alarms: [{ trigger: trigger(soon) }] });
    await Promise.all([due('Weir walk'), due('Quiet one')]);
    const sent = async () => (await here.maren.get<OutboxInfo[]>('/outbox')).body.map(({ what }) => what);
    expect(await sent()).toEqual(['Reminder of “Weir walk”']);
    await here.maren.patch('/settings', { remind: { before: 10, blocks: true, system: false, mail: true } });
    await make({ title: 'Gauges', start: '2026-08-20T10:00', alarms: [{ trigger: trigger((await now()) + 1000) }] });
    await due('Gauges');
    expect(await sent()).toContain('Reminder of “Gauges”');
  });
});
