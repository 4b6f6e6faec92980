import type { AgendaEntry, DecisionAnswer, Done, TaskFull } from '@corvun/contract';
import { ownServer } from './harness';

interface Failure {
  error: { code: string; message: string; fields?: Record<string, string> };
}

const here = ownServer();

const entries = async (title: string, from = '2026-08-03', days = 40) =>
  (await here.maren.get<{ entries: AgendaEntry[] }>(`/agenda?from=${from}&days=${days}`)).body.entries.filter(
    (one) => one.title === title,
  );

const starts = async (title: string) => (await entries(title)).map((one) => one.start?.slice(0, 16));
const make = async (input: object): Promise<string> =>
  (await here.maren.post<DecisionAnswer>('/events', input)).body.made[0]?.id ?? '';

describe('entries of the days', () => {
  it('several entries move, get a category and go together', async () => {
    const series = await make({ title: 'Tray', start: '2026-08-03T13:00', minutes: 30, repeat: 'FREQ=DAILY;COUNT=2' });
    const days = await make({ title: 'Away', start: '2026-08-04', allDay: true });
    const task = (await here.maren.post<{ ids: string[] }>('/tasks', { lines: ['Oil the gate on 5 August'] })).body.ids[0] ?? '';
    const block = (await here.maren.post<DecisionAnswer>('/blocks', { kind: 'quiet', start: '2026-08-04T08:00', minutes: 60 }))
      .body.made[0];
    const all = [
      { kind: 'event', id: series, occurrence: '2026-08-04T13:00' },
      { kind: 'event', id: days },
      { kind: 'block', id: block?.id ?? '' },
      { kind: 'task', id: task },
    ];
    const moved = await here.maren.post<Done>('/agenda/change', { entries: all, by: 1440 });
    expect(moved.body.sentence).toBe('4 entries moved by 1 day');
    expect(await starts('Tray')).toEqual(['2026-08-03T13:00', '2026-08-05T13:00']);
    expect([await starts('Away'), await starts('Quiet time'), await starts('Oil the gate')]).toEqual([
      ['2026-08-05'],
      ['2026-08-05T08:00'],
      ['2026-08-06'],
    ]);
    const named = await here.maren.post<Done>('/agenda/change', { entries: all.slice(0, 3), category: 'field' });
    expect(named.body.sentence).toBe('2 entries have the category field; 1 other cannot be');
    await here.maren.post('/agenda/change', { entries: all, remove: true });
    expect([await starts('Tray'), await starts('Away'), await starts('Quiet time'), await starts('Oil the gate')]).toEqual([
      ['2026-08-03T13:00'],
      [],
      [],
      [],
    ]);
    await here.maren.post('/decisions/undo');
    expect(await starts('Away')).toEqual(['2026-08-05']);
    const nothing = await here.maren.post<Failure>('/agenda/change', { entries: all });
    expect(nothing.status).toBe(422);
  });
});

describe('the order of a day', () => {
  it('is kept, and what comes from another day is on it then', async () => {
    const lines = ['Sweep the hut on 18 August', 'Air the hut on 18 August', 'Lock the hut on 19 August'];
    const { ids } = (await here.maren.post<{ ids: string[] }>('/tasks', { lines })).body;
    const order = async () =>
      (await here.maren.get<{ entries: AgendaEntry[] }>('/agenda?from=2026-08-18&days=1')).body.entries.map((one) => one.title);
    expect(await order()).toEqual(['Sweep the hut', 'Air the hut']);
    const { body } = await here.maren.post<Done>('/agenda/order', { day: '2026-08-18', tasks: [ids[2], ids[1], ids[0]] });
    expect(body.sentence).toBe('“Lock the hut” is on Tue 18 Aug');
    expect(await order()).toEqual(['Lock the hut', 'Air the hut', 'Sweep the hut']);
    await here.maren.post('/decisions/undo');
    expect(await order()).toEqual(['Sweep the hut', 'Air the hut']);
  });
});

describe('own time', () => {
  it('is for quiet or a break, too, busy or free to others, and work on quiet time counts once', async () => {
    const { made } = (
      await here.maren.post<DecisionAnswer>('/blocks', {
        kind: 'quiet',
        title: 'Reading',
        start: '2026-08-20T09:00',
        minutes: 120,
      })
    ).body;
    const ids = (await here.maren.post<{ ids: string[] }>('/tasks', { lines: ['Read the survey for 1 h'] })).body.ids;
    await here.maren.post('/blocks', { taskId: ids[0], start: '2026-08-20T09:30', minutes: 60 });
    const day = async () =>
      (await here.maren.get<{ days: { load: { blocks: number } }[] }>('/days?from=2026-08-20&days=1')).body.days[0];
    expect((await day())?.load.blocks).toBe(120);
    expect((await entries('Reading'))[0]).toMatchObject({ blockKind: 'quiet', showAs: 'busy', taskId: null });
    const { body } = await here.maren.patch<Done>(`/blocks/${made[0]?.id}`, { busy: false });
    expect(body.sentence).toBe('“Reading” is shown as free to others');
    expect((await entries('Reading'))[0]?.showAs).toBe('free');
    await here.maren.patch(`/blocks/${made[0]?.id}`, { title: '', kind: 'break', minutes: 45 });
    expect(await entries('Break', '2026-08-20', 1)).toHaveLength(1);
    expect(
      (await here.maren.post<Failure>('/blocks', { kind: 'work', start: '2026-08-20T09:00', minutes: 30 })).body.error.message,
    ).toBe('Say for which task the time is.');
  });

  it('is for a new task, written as in the capture line; both are taken back as one', async () => {
    const line = 'Grease the winch #yard due Friday';
    const { body } = await here.maren.post<DecisionAnswer>('/blocks', { line, start: '2026-08-19T10:00', minutes: 45 });
    expect(body.sentence).toBe('“Grease the winch” has time on Wed 19 Aug at 10:00');
    const [entry] = await entries('Grease the winch');
    expect((await here.maren.get<TaskFull>(`/tasks/${entry?.taskId}`)).body).toMatchObject({
      tags: ['yard'],
      deadline: '2026-08-07',
      estimate: 45,
      plannedDay: '2026-08-19',
    });
    await here.maren.post('/decisions/undo');
    expect((await here.maren.get(`/tasks/${entry?.taskId}`)).status).toBe(404);
  });

  it('several blocks are set aside and taken back as one', async () => {
    const { ids } = (
      await here.maren.post<{ ids: string[] }>('/tasks', { lines: ['Sand the boat for 30 min', 'Paint the boat for 90 min'] })
    ).body;
    const { body } = await here.maren.post<DecisionAnswer>('/blocks/several', {
      blocks: [
        { taskId: ids[0], start: '2026-08-21T09:00', minutes: 30 },
        { taskId: ids[1], start: '2026-08-21T09:30', minutes: 90 },
      ],
    });
    expect(body.sentence).toBe('2 blocks have time, 2 h in all, from Fri 21 Aug at 9:00 on');
    await here.maren.post('/decisions/undo');
    expect([await entries('Sand the boat', '2026-08-21', 1), await entries('Paint the boat', '2026-08-21', 1)]).toEqual([[], []]);
  });

  it('a task that is done early gives back what it did not need', async () => {
    const { ids } = (await here.maren.post<{ ids: string[] }>('/tasks', { lines: ['Check the pump for 2 h'] })).body;
    const task = ids[0] ?? '';
    const now = new Date((await here.maren.get<{ now: string }>('/me')).body.now).getTime();
    const iso = (minutes: number) => new Date(now + minutes * 60_000).toISOString();
    await here.maren.post('/blocks', { taskId: task, start: iso(-20), minutes: 60 });
    await here.maren.post('/blocks', { taskId: task, start: iso(600), minutes: 60 });
    const placed = (await here.maren.get<TaskFull>(`/tasks/${task}`)).body;
    expect([placed.placed, placed.blocks.length]).toEqual([120, 2]);
    const { body } = await here.maren.patch<Done>(`/tasks/${task}`, { status: 'COMPLETED' });
    expect(body.sentence).toMatch(/; 1 h (?:39|40) of your time is free again$/);
    const after = (await here.maren.get<TaskFull>(`/tasks/${task}`)).body;
    expect([after.allBlocks.length, [80, 81].includes(after.placed)]).toEqual([2, true]);
    const { days } = (
      await here.maren.get<{ days: { load: { blocks: number } }[] }>(`/days?from=${iso(600).slice(0, 10)}&days=1`)
    ).body;
    expect(days[0]?.load.blocks).toBeLessThan(60);
    await here.maren.post('/decisions/undo');
    expect((await here.maren.get<TaskFull>(`/tasks/${task}`)).body.placed).toBe(120);
  });
});
