import type { AgendaEntry, Added, DayInfo, DecisionAnswer, MirrorInfo } from '@corvun/contract';
import fc from 'fast-check';
import { Event } from '../src/events/event.entity';
import { database, ownServer } from './harness';

const here = ownServer('test');
const calendar = async (name: string) => (await here.maren.post<Added>('/calendars', { name })).body.id;
const main = () => calendar('Mine');
const mirror = (from: string, to: string, more: object = {}) => here.maren.post<Added>('/mirrors', { from, to, ...more });
const event = async (calendarId: string, title: string, start: string, more: object = {}) =>
  (await here.maren.post<DecisionAnswer>('/events', { calendarId, title, start, minutes: 60, ...more })).body.made[0]?.id ?? '';
/** What stands in a calendar, copies too. */
const rows = async (calendarId: string) =>
  (await database(here.server).getRepository(Event).findBy({ calendarId }))
    .map(
      ({ start, title, recurrenceId, status }) =>
        `${start} ${title}${recurrenceId ? ` for ${recurrenceId}` : ''}${status === 'CONFIRMED' ? '' : ` ${status}`}`,
    )
    .sort();
const day = async (from: string) => (await here.maren.get<{ days: DayInfo[] }>(`/days?from=${from}&days=1`)).body.days[0];

it('a calendar stands in another as busy, one copy each, through changes, changed dates and cancellations', async () => {
  const [own, house] = [await main(), await calendar('House')];
  const walk = await event(house, 'Laundry van', '2026-08-04T10:00', { location: 'Yard', repeat: 'FREQ=DAILY;COUNT=3' });
  await event(house, 'Over', '2026-08-01T10:00');
  await event(house, 'Only marked', '2026-08-04T12:00', { showAs: 'free' });
  const made = await mirror(house, own);
  expect(made.body.sentence).toBe('1 entry of “House” stands in “Mine”, too, and whatever comes');
  expect(await rows(own)).toEqual(['2026-08-04T10:00 Busy']);
  await here.maren.patch(`/events/${walk}`, { occurrence: '2026-08-05T10:00', scope: 'this', start: '2026-08-05T15:00' });
  await here.maren.remove(`/events/${walk}?occurrence=2026-08-06T10:00&scope=this`);
  expect(await rows(own)).toEqual(['2026-08-04T10:00 Busy', '2026-08-05T15:00 Busy for 2026-08-05T10:00']);
  await here.maren.post('/decisions/undo');
  await here.maren.post('/decisions/undo');
  expect(await rows(own)).toEqual(['2026-08-04T10:00 Busy']);
  await here.maren.remove(`/events/${walk}`);
  expect(await rows(own)).toEqual([]);
});

it('a copy is not shown or counted beside what it is a copy of, is changed there only, and counts where that does not', async () => {
  const [own, house] = [await main(), await calendar('House')];
  await event(house, 'Laundry van', '2026-08-04T10:00');
  await mirror(house, own, { title: '', private: false });
  const titles = async () => (await day('2026-08-04'))?.entries.map(({ title, mirrored }: AgendaEntry) => [title, mirrored]);
  expect(await titles()).toEqual([['Laundry van', false]]);
  expect((await day('2026-08-04'))?.load.meetings).toBe(60);
  await here.maren.patch(`/calendars/${house}`, { busy: false, shown: false });
  expect(await titles()).toEqual([['Laundry van', true]]);
  expect((await day('2026-08-04'))?.load.meetings).toBe(60);
  const [copy] = await database(here.server).getRepository(Event).findBy({ calendarId: own });
  const refused = await here.maren.patch<{ error: { message: string } }>(`/events/${copy?.id}`, { title: 'Mine now' });
  expect([refused.status, refused.body.error.message]).toEqual([
    403,
    expect.stringMatching(/is a copy of what stands in another/),
  ]);
});

it('nothing comes back in a circle, also over three calendars; none twice, and none into itself', async () => {
  const [a, b, c] = [await main(), await calendar('House'), await calendar('Choir')];
  await event(a, 'Site walk', '2026-08-04T10:00');
  await event(b, 'Laundry van', '2026-08-05T10:00');
  for (const [from, to] of [
    [a, b],
    [b, c],
    [c, a],
    [b, a],
  ] as const)
    expect((await mirror(from, to)).status).toBe(201);
  expect(await rows(a)).toEqual(['2026-08-04T10:00 Site walk', '2026-08-05T10:00 Busy']);
  expect(await rows(b)).toEqual(['2026-08-04T10:00 Busy', '2026-08-05T10:00 Laundry van']);
  expect(await rows(c)).toEqual(['2026-08-05T10:00 Busy']);
  expect((await mirror(a, a)).status).toBe(422);
  expect((await mirror(a, b)).status).toBe(422);
});

it('ends as it is said: copies to come go, or all stay as events of their own', async () => {
  const [own, house] = [await main(), await calendar('House')];
  await event(house, 'Laundry van', '2026-08-04T10:00');
  const end = async (how: string) => {
    await mirror(house, own);
    const [one] = (await here.maren.get<MirrorInfo[]>('/mirrors')).body;
    expect(one).toMatchObject({ from: house, to: own, title: 'Busy', private: true, copies: 1 });
    return (await here.maren.remove<{ sentence: string }>(`/mirrors/${one?.id}?copies=${how}`)).body.sentence;
  };
  expect(await end('remove')).toBe('The mirror is ended: 1 copy to come is gone');
  expect(await rows(own)).toEqual([]);
  await here.maren.post('/decisions/undo');
  expect(await rows(own)).toEqual(['2026-08-04T10:00 Busy']);
  await here.maren.post('/decisions/redo');
  expect(await end('keep')).toBe('The mirror is ended: 1 copy stays');
  expect((await day('2026-08-04'))?.entries.map(({ title, fixed }) => [title, fixed])).toEqual([
    ['Laundry van', null],
    ['Busy', null],
  ]);
});

it('whatever is done, there is exactly one copy of what takes time', async () => {
  const [own, house] = [await main(), await calendar('House')];
  await mirror(house, own);
  const ids: string[] = [];
  const deed = fc.oneof(
    fc.record({ do: fc.constant('add' as const), hour: fc.integer({ min: 8, max: 17 }) }),
    fc.record({ do: fc.constant('move' as const), which: fc.nat(), hour: fc.integer({ min: 8, max: 17 }) }),
    fc.record({ do: fc.constant('free' as const), which: fc.nat() }),
    fc.record({ do: fc.constant('remove' as const), which: fc.nat() }),
    fc.record({ do: fc.constant('undo' as const) }),
  );
  const at = (hour: number) => `2026-08-05T${String(hour).padStart(2, '0')}:00`;
  await fc.assert(
    fc.asyncProperty(fc.array(deed, { maxLength: 8 }), async (deeds) => {
      let done = 0;
      for (const one of deeds) {
        const id = 'which' in one ? ids[one.which % Math.max(1, ids.length)] : undefined;
        if (one.do === 'add') ids.push(await event(house, 'Van', at(one.hour)));
        else if (one.do === 'undo') await (done > 0 && here.maren.post('/decisions/undo'));
        // What is gone, or stands there already, is no doing.
        const said =
          id && one.do === 'move'
            ? await here.maren.patch<{ decision?: string }>(`/events/${id}`, { start: at(one.hour) })
            : id && one.do === 'free'
              ? await here.maren.patch<{ decision?: string }>(`/events/${id}`, { showAs: 'free' })
              : id && one.do === 'remove'
                ? await here.maren.remove<{ decision?: string }>(`/events/${id}`)
                : null;
        done += one.do === 'add' || said?.body.decision ? 1 : one.do === 'undo' && done > 0 ? -1 : 0;
      }
      const events = await database(here.server).getRepository(Event).find();
      const starts = (calendarId: string) =>
        events
          .filter((row) => row.calendarId === calendarId && !row.transparent)
          .map(({ start }) => start)
          .sort();
      expect(starts(own)).toEqual(starts(house));
    }),
    { numRuns: 12 },
  );
});
