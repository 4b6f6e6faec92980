import type { Added, EventFull, NoteInfo, NoteLine } from '@corvun/contract';
import { ownServer } from './harness';

// It is Monday, 3 August 2026, 10:50 in Vienna.
const here = ownServer('test');

interface Failure {
  error: { code: string };
}

const event = async (input: object) =>
  (await here.maren.post<{ made: { id: string }[] }>('/events', { title: 'Crew meeting', minutes: 30, ...input })).body.made[0]
    ?.id ?? '';
const full = async (id: string, occurrence = '') =>
  (await here.maren.get<EventFull>(`/events/${id}${occurrence && `?occurrence=${occurrence}`}`)).body;
const write = (id: string, input: object) => here.maren.post<Added & Failure>(`/events/${id}/page`, input);
const note = async (id: string) => (await here.maren.get<NoteInfo>(`/notes/${id}`)).body;

it('a meeting has one page, which is begun with its name and written on', async () => {
  const id = await event({ start: '2026-08-04T09:00' });
  expect((await full(id)).page).toBeNull();
  const { body } = await write(id, { text: '- Bring the staff' });
  expect(body.sentence).toBe('The page “Crew meeting, Tue 4 Aug 2026” is there');
  const { page } = await full(id);
  expect(page).toEqual({ id: body.id, text: '- Bring the staff', version: 1 });
  expect((await note(body.id)).meeting).toEqual({
    ...{ id, occurrence: null, title: 'Crew meeting' },
    start: expect.stringMatching(/^2026-08-04T09:00/) as string,
  });
  const again = await write(id, { text: '- Bring the boat', version: 1 });
  expect([again.body.id, (await note(body.id)).text]).toEqual([body.id, '- Bring the boat']);
  // What was written meanwhile elsewhere is not lost.
  const late = await write(id, { text: 'mine', version: 1 });
  expect([late.status, late.body.error.code]).toEqual([409, 'changed-meanwhile']);
  await here.maren.post('/decisions/undo');
  expect((await full(id)).page?.text).toBe('- Bring the staff');
});

it('each date of a series has its own, also when it is moved', async () => {
  const id = await event({ start: '2026-08-05T09:00', repeat: 'FREQ=DAILY;COUNT=4' });
  const second = '2026-08-06T09:00';
  const { body } = await write(id, { text: 'Thursday', occurrence: second });
  expect((await full(id, second)).page?.text).toBe('Thursday');
  expect((await full(id, '2026-08-05T09:00')).page).toBeNull();
  await here.maren.patch(`/events/${id}`, { occurrence: second, scope: 'this', start: '2026-08-06T15:00' });
  const { meeting } = await note(body.id);
  expect(meeting).toMatchObject({ occurrence: second, start: expect.stringMatching(/^2026-08-06T15:00/) as string });
  expect((await full(meeting?.id ?? '', second)).page?.text).toBe('Thursday');
});

it('the page stays when the meeting goes, and is its again when it is back', async () => {
  const id = await event({ start: '2026-08-07T09:00', title: 'Talk' });
  const { body } = await write(id, { text: 'What was said' });
  await here.maren.remove(`/events/${id}`);
  expect(await note(body.id)).toMatchObject({ text: 'What was said', meeting: null });
  await here.maren.post('/decisions/undo');
  expect((await note(body.id)).meeting?.id).toBe(id);
  expect((await here.maren.get<NoteLine[]>('/notes')).body.some((one) => one.id === body.id)).toBe(true);
});

it('there is none of what is not there', async () => {
  expect((await write('nothing', { text: 'x' })).status).toBe(404);
  const id = await event({ start: '2026-08-05T11:00', repeat: 'FREQ=WEEKLY;COUNT=2' });
  expect((await write(id, { text: 'x', occurrence: '2026-08-06T11:00' })).status).toBe(404);
});
