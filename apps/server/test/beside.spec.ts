import type { AgendaEntry, DecisionAnswer, Done } from '@corvun/contract';
import { ownServer } from './harness';

const here = ownServer();

const made = async (path: string, input: object): Promise<string> =>
  (await here.maren.post<DecisionAnswer>(path, input)).body.made[0]?.id ?? '';
const breaks = async () =>
  (await here.maren.get<{ entries: AgendaEntry[] }>('/agenda?from=2026-08-03&days=30')).body.entries
    .filter(({ blockKind }) => blockKind === 'break')
    .map(({ title, start, beside }) => `${title} ${start?.slice(5, 16)}${beside ? ' with it' : ''}`);
const undo = () => here.maren.post('/decisions/undo');

describe('a break that was told to move with an event', () => {
  it('does so, and comes back with it; by itself it moves alone', async () => {
    const lunch = await made('/events', { title: 'Lunch with the mayor', start: '2026-08-04T12:00', minutes: 60 });
    const walk = await made('/blocks', { kind: 'break', title: 'Walk', start: '2026-08-04T13:00', minutes: 30 });
    await made('/blocks', { kind: 'break', title: 'Tea', start: '2026-08-04T13:30', minutes: 15 });
    const told = await here.maren.patch<Done>(`/blocks/${walk}`, { beside: lunch });
    expect(told.body.sentence).toBe('“Walk” moves with “Lunch with the mayor” from now on');
    const moved = await here.maren.patch<Done>(`/events/${lunch}`, { start: '2026-08-05T12:30' });
    expect(moved.body.sentence).toBe(
      '“Lunch with the mayor” is on Wed 5 Aug at 12:30, was Tue 4 Aug 12:00; its break moves, too',
    );
    expect(await breaks()).toEqual(['Tea 08-04T13:30', 'Walk 08-05T13:30 with it']);
    await undo();
    expect(await breaks()).toEqual(['Walk 08-04T13:00 with it', 'Tea 08-04T13:30']);
    await here.maren.patch(`/blocks/${walk}`, { start: '2026-08-04T11:30' });
    expect(await breaks()).toEqual(['Walk 08-04T11:30 with it', 'Tea 08-04T13:30']);
    // Moved together, it moves once.
    const entries = [
      { kind: 'event', id: lunch },
      { kind: 'block', id: walk },
    ];
    await here.maren.post('/agenda/change', { entries, by: 60 });
    expect((await breaks())[0]).toBe('Walk 08-04T12:30 with it');
    await here.maren.patch(`/blocks/${walk}`, { beside: null });
    await here.maren.patch(`/events/${lunch}`, { start: '2026-08-06T12:30' });
    expect((await breaks())[0]).toBe('Walk 08-04T12:30');
  });

  it('moves with the one date of a series that is moved, and stays where its event is taken away', async () => {
    const tea = await made('/events', { title: 'Team tea', start: '2026-08-12T15:00', minutes: 30, repeat: 'FREQ=WEEKLY' });
    for (const day of ['12', '19']) {
      const id = await made('/blocks', { kind: 'break', title: `Air ${day}`, start: `2026-08-${day}T15:30`, minutes: 15 });
      await here.maren.patch(`/blocks/${id}`, { beside: tea });
    }
    const air = async () => (await breaks()).filter((one) => one.startsWith('Air'));
    await here.maren.patch(`/events/${tea}`, { occurrence: '2026-08-19T15:00', scope: 'this', start: '2026-08-19T16:00' });
    expect(await air()).toEqual(['Air 12 08-12T15:30 with it', 'Air 19 08-19T16:30 with it']);
    await undo();
    expect(await air()).toEqual(['Air 12 08-12T15:30 with it', 'Air 19 08-19T15:30 with it']);
    await here.maren.patch(`/events/${tea}`, { scope: 'all', start: '2026-08-12T14:00' });
    expect(await air()).toEqual(['Air 12 08-12T14:30 with it', 'Air 19 08-19T14:30 with it']);
    await here.maren.remove(`/events/${tea}?scope=all`);
    expect(await air()).toEqual(['Air 12 08-12T14:30', 'Air 19 08-19T14:30']);
    await undo();
    expect(await air()).toEqual(['Air 12 08-12T14:30 with it', 'Air 19 08-19T14:30 with it']);
  });

  it('is a break or quiet time', async () => {
    const task = await here.maren.post<{ ids: string[] }>('/tasks', { lines: ['Count the posts 30 min'] });
    const work = await made('/blocks', { taskId: task.body.ids[0], start: '2026-08-20T09:00', minutes: 30 });
    const event = await made('/events', { title: 'Stand-up', start: '2026-08-20T10:00', minutes: 15 });
    expect((await here.maren.patch(`/blocks/${work}`, { beside: event })).status).toBe(422);
    expect((await here.maren.patch(`/blocks/${work}`, { beside: 'nothere' })).status).toBe(422);
    const quiet = await made('/blocks', { kind: 'quiet', start: '2026-08-20T11:00', minutes: 30 });
    expect((await here.maren.patch(`/blocks/${quiet}`, { beside: 'nothere' })).status).toBe(404);
  });
});
