import type { PersonFull, PersonLine, PersonOpen, TaskFull } from '@corvun/contract';
import { clear, firstAccount, sendMail, startServer, until, type Caller, type Page, type Running } from './harness';

interface Refused {
  error: { message: string; fields?: Record<string, string> };
}

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

const add = async (fields: object) => (await maren.post<{ id: string }>('/people', fields)).body.id;
const full = async (id: string) => (await maren.get<PersonFull>(`/people/${id}`)).body;
const inNumbers = async () => (await maren.get<PersonOpen[]>('/people/open')).body;
const letter = (from: string, subject: string, text: string) =>
  sendMail(server.smtpPort, { from, to: 'maren@capture.example', subject, text });

describe('people', () => {
  it('are found again by any of their addresses, with what they ask', async () => {
    const id = await add({ name: 'Tomas Rieger', address: 'Tomas@County-Water.example', addresses: ['tomas@home.example'] });
    await letter('T. Rieger <tomas@home.example>', 'Raw readings', 'Could you send us the raw readings by Friday?');
    await until(async () => (await full(id)).asking.length > 0, 'the letter is there');
    const person = await full(id);
    expect(person).toMatchObject({ address: 'tomas@county-water.example', addresses: ['tomas@home.example'] });
    expect(person.asking).toMatchObject([{ subject: 'Raw readings', asks: ['Could you send us the raw readings by Friday?'] }]);
    expect(person.past).toMatchObject([{ way: 'from', title: 'Raw readings' }]);
    expect(await inNumbers()).toEqual([{ id, asking: 1, waiting: 0, tasks: 0 }]);
    const incoming = person.asking[0]?.id ?? '';
    const open = await maren.get<{ person: { id: string; messages: number } }>(`/incoming/${incoming}`);
    expect(open.body.person).toMatchObject({ id, messages: 1 });
  });

  it('know what came of their messages, and what waits on them', async () => {
    const { items } = (await maren.get<Page>('/incoming?limit=10')).body;
    const incoming = items[0]?.id;
    await maren.post('/decisions', { incoming: [incoming], to: 'day', day: '2026-08-05', title: 'Send the raw readings' });
    const { ids } = (await maren.post<{ ids: string[] }>('/tasks', { lines: ['Levels of July'] })).body;
    await maren.patch(`/tasks/${ids[0]}`, { waitingOn: 'Tomas Rieger', waitingUntil: '2026-08-07' });
    const [line] = (await maren.get<PersonLine[]>('/people')).body;
    const person = await full(line?.id ?? '');
    expect(person.asking).toEqual([]);
    expect(person.tasks.map(({ title }) => title)).toEqual(['Send the raw readings']);
    expect(person.waiting).toMatchObject([{ title: 'Levels of July', until: '2026-08-07' }]);
    expect(await inNumbers()).toEqual([{ id: person.id, asking: 0, waiting: 1, tasks: 1 }]);
    await maren.patch(`/people/${person.id}`, { name: 'Tomas R.', version: person.version });
    expect((await maren.get<TaskFull>(`/tasks/${ids[0]}`)).body.waitingOn).toBe('Tomas R.');
    await maren.post('/decisions/undo');
    expect((await maren.get<TaskFull>(`/tasks/${ids[0]}`)).body.waitingOn).toBe('Tomas Rieger');
  });

  it('are written to, and the mail stands among what was', async () => {
    const [line] = (await maren.get<PersonLine[]>('/people')).body;
    const sent = await maren.post<{ sentence: string }>(`/people/${line?.id}/mail`, {
      subject: 'Levels',
      text: 'Here they are.',
    });
    expect(sent.body.sentence).toBe('The mail to Tomas Rieger is on its way');
    expect((await full(line?.id ?? '')).past[0]).toMatchObject({ way: 'to', title: 'Mail to Tomas Rieger: Levels' });
    const refused = await maren.post<Refused>(`/people/${line?.id}/mail`, { subject: 'x', text: 'x', to: 'else@county.example' });
    expect([refused.status, refused.body.error.fields]).toEqual([422, { to: 'Tomas Rieger has no such mail address.' }]);
  });

  it('become one, with everything that waits on either, and two again', async () => {
    const other = await add({ name: 'T. Rieger', address: 'rieger@county-water.example', phone: '+43 1 555 0142' });
    const [line] = (await maren.get<PersonLine[]>('/people')).body.filter(({ name }) => name === 'Tomas Rieger');
    const id = line?.id ?? '';
    const merged = await maren.post<{ sentence: string }>(`/people/${id}/merge`, { other });
    expect(merged.body.sentence).toBe('T. Rieger and Tomas Rieger are one now');
    expect(await full(id)).toMatchObject({
      phone: '+43 1 555 0142',
      address: 'tomas@county-water.example',
      addresses: ['tomas@home.example', 'rieger@county-water.example'],
    });
    expect((await maren.get(`/people/${other}`)).status).toBe(404);
    await maren.post('/decisions/undo');
    expect((await full(other)).name).toBe('T. Rieger');
    expect((await maren.post(`/people/${id}/merge`, { other: id })).status).toBe(422);
  });

  it('go out as a card, and take an address once', async () => {
    const [line] = (await maren.get<PersonLine[]>('/people')).body.filter(({ name }) => name === 'Tomas Rieger');
    const { body } = await maren.get<string>(`/people/${line?.id}/card`);
    expect(body).toContain('FN:Tomas Rieger');
    expect(body).toContain('EMAIL:tomas@home.example');
    const twice = await maren.post<Refused>('/people', { name: 'Tom', address: 'tomas@home.example' });
    expect([twice.status, twice.body.error.fields?.['address']]).toEqual([
      422,
      'Tomas Rieger has the address tomas@home.example. Make one of the two there.',
    ]);
    expect((await maren.post('/people', { name: ' ' })).status).toBe(400);
    expect((await maren.post('/people', { name: 'Tom', address: 'no address' })).status).toBe(400);
  });
});
