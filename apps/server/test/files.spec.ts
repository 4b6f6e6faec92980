import type { DecisionAnswer, Done, EventFull, TaskFull } from '@corvun/contract';
import { ownServer } from './harness';

interface Refused {
  error: { code: string };
}

const here = ownServer();
const one = async (line: string) => (await here.maren.post<{ ids: string[] }>('/tasks', { lines: [line] })).body.ids[0] ?? '';
const open = async (id: string) => (await here.maren.get<TaskFull>(`/tasks/${id}`)).body;
const undo = () => here.maren.post('/decisions/undo');

const bring = (id: string, ...files: [name: string, text: string][]) => {
  const form = new FormData();
  for (const [name, text] of files) form.append('files', new Blob([text], { type: 'text/html' }), name);
  return here.maren.post(`/tasks/${id}/files`, form);
};

it('files are put to a task, called otherwise, taken away and put back, byte for byte', async () => {
  const id = await one('Paint the hut');
  await bring(id, ['Farbkarte Größe.html', '<script>1</script>'], ['list.csv', 'a,b']);
  const [file] = (await open(id)).attachmentList;
  expect(file).toMatchObject({ name: 'Farbkarte Größe.html', own: true, size: 18 });
  const kept = await here.maren.call<string>('GET', file?.url ?? '');
  expect(kept.body).toBe('<script>1</script>');
  // What a page of somebody else would do here it does nowhere: it is saved, and sandboxed besides.
  expect(kept.headers.get('content-disposition')).toMatch(/^attachment/);
  expect(kept.headers.get('content-security-policy')).toContain('sandbox');
  await here.maren.patch(`/files/${file?.id}`, { name: 'Colours.html' });
  expect((await open(id)).attachmentList.map((one) => one.name)).toEqual(['Colours.html', 'list.csv']);
  await here.maren.remove(`/files/${file?.id}`);
  expect((await here.maren.get(`/files/${file?.id}`)).status).toBe(404);
  await undo();
  expect((await here.maren.call<string>('GET', file?.url ?? '')).body).toBe('<script>1</script>');
  expect((await here.maren.post<Refused>(`/tasks/${id}/files`, new FormData())).body.error.code).toBe('no-file');
});

it('files are put to an event and stay with it: on all its dates, in another calendar, and when it is put back', async () => {
  const events = async () => (await here.maren.get<EventFull>(`/events/${id}?occurrence=2026-08-12T09:00`)).body.files;
  const input = { title: 'Pump round', start: '2026-08-05T09:00', minutes: 60, repeat: 'FREQ=WEEKLY' };
  const { made } = (await here.maren.post<DecisionAnswer>('/events', input)).body;
  const id = made[0]?.id ?? '';
  const form = new FormData();
  form.append('files', new Blob(['north, then south'], { type: 'text/plain' }), 'round.txt');
  expect((await here.maren.post<Done>(`/events/${id}/files`, form)).body.sentence).toBe('“round.txt” is with “Pump round”');
  const [file] = await events();
  expect(file).toMatchObject({ name: 'round.txt', size: 17 });
  expect((await here.maren.call<string>('GET', file?.url ?? '')).body).toBe('north, then south');
  await here.maren.patch(`/files/${file?.id}`, { name: 'rounds.txt' });
  await here.maren.remove(`/events/${id}`);
  await undo();
  expect((await events()).map(({ name }) => name)).toEqual(['rounds.txt']);
  await here.maren.remove(`/files/${file?.id}`);
  expect(await events()).toEqual([]);
  expect((await here.maren.get(file?.url.replace('/api', '') ?? '')).status).toBe(404);
  expect((await here.maren.post<Refused>(`/events/${id}/files`, new FormData())).body.error.code).toBe('no-file');
});

it('files go into an export', async () => {
  const id = await one('Keep this');
  await bring(id, ['kept.txt', 'kept for good']);
  const event = (await here.maren.post<DecisionAnswer>('/events', { title: 'Kept', start: '2026-08-05T09:00', minutes: 60 }))
    .body;
  const form = new FormData();
  form.append('files', new Blob(['with the event']), 'event.txt');
  await here.maren.post(`/events/${event.made[0]?.id}/files`, form);
  const answer = await fetch(`${here.server.url}/api/data/export`, { headers: here.maren.signedHeaders() });
  const tar = Buffer.from(await answer.arrayBuffer()).toString('latin1');
  expect(tar).toContain('data/task_files.json');
  expect(tar).toContain('kept for good');
  expect(tar).toContain('data/event_files.json');
  expect(tar).toContain('with the event');
});
