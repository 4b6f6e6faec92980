import type { FindAnswer } from '@corvun/contract';
import { AccountsService } from '../src/accounts/accounts.service';
import { database, Caller, clear, sendMail, startServer, type Page, type Running, firstAccount } from './harness';

interface Hit {
  id: string;
  thing: string;
  title: string[];
  snippet: string[];
}

let server: Running;
let maren: Caller;

const find = async (text: string): Promise<Hit[]> =>
  (await maren.get<{ found: Hit[] }>(`/find?q=${encodeURIComponent(text)}`)).body.found;
const titles = async (text: string) => (await find(text)).map((one) => one.title.join(''));

beforeAll(async () => {
  server = await startServer('empty');
  maren = await firstAccount(server);
  await maren.post('/lists', { name: 'Permits' });
  const letters: [string, string, string][] = [
    ['Tomas Rieger <tomas@county-water.example>', 'Gauge 14: readings', 'Could you send the raw readings? Müller asks, too.'],
    ['Ines Aalto <ines@aalto-timber.example>', 'Quote for section C', 'The gauge of the boards is 28 mm.'],
    ['Karl Moos <karl@nordweg.example>', 'Gate', 'The gate at section B stands open.'],
  ];
  for (const [from, subject, text] of letters)
    await sendMail(server.smtpPort, { to: 'maren@capture.example', from, subject, text });
});
afterAll(async () => {
  await server.stop();
  clear(server.data);
});

describe('find', () => {
  it('ranks a hit in the title before one in the text, and marks it', async () => {
    const hits = await find('gauge');
    expect(hits.map((one) => one.title.join(''))).toEqual(['Gauge 14: readings', 'Quote for section C']);
    expect(hits[0]?.title).toEqual(['', 'Gauge', ' 14: readings']);
    expect(hits[1]?.snippet).toContain('gauge');
  });

  it('takes the beginning of a word, letters without their marks, and phrases as they stand', async () => {
    expect(await titles('read')).toEqual(['Gauge 14: readings']);
    expect(await titles('muller')).toEqual(['Gauge 14: readings']);
    expect(await titles('"section C"')).toEqual(['Quote for section C']);
    expect(await titles('section C open')).toEqual([]);
  });

  it('narrows by sender, kind, list, tag and time', async () => {
    expect(await titles('@Ines gauge')).toEqual(['Quote for section C']);
    await maren.post('/captures', { text: 'Gauge keys to the county tomorrow >Permits #call' });
    expect(await titles('gauge +task')).toEqual(['Gauge keys to the county']);
    expect(await titles('>Permits')).toEqual(['Gauge keys to the county']);
    expect(await titles('#call gauge')).toEqual(['Gauge keys to the county']);
    expect(await titles('gauge +mail until 1 June')).toEqual([]);
    expect(await titles('+file')).toEqual([]);
  });

  it('follows what changes, is undone and goes', async () => {
    const { body } = await maren.get<{ id: string; title: string }[]>('/tasks');
    await maren.patch(`/tasks/${body[0]?.id}`, { title: 'Keys of the weir' });
    expect(await titles('weir')).toEqual(['Keys of the weir']);
    await maren.post('/decisions/undo');
    expect(await titles('weir')).toEqual([]);
    await maren.post('/decisions/undo');
    expect(await titles('+task gauge')).toEqual([]);
  });

  it('finds files by name and by what stands in them, with what they lie with', async () => {
    const { body: made } = await maren.post<{ ids: string[] }>('/tasks', { lines: ['Count the reeds'], after: null });
    const form = new FormData();
    form.append('files', new Blob(['plot;count\nheron meadow;17'], { type: 'text/csv' }), 'plots-2026.csv');
    form.append('files', new Blob(['%PDF heron'], { type: 'application/pdf' }), 'map.pdf');
    await maren.post(`/tasks/${made.ids[0]}/files`, form);
    const files = async (text: string) =>
      (await maren.get<FindAnswer>(`/find?q=${encodeURIComponent(text)}`)).body.found.map(({ title, thing, of }) => [
        title.join(''),
        thing,
        of?.title,
      ]);
    expect(await files('heron')).toEqual([['plots-2026.csv', 'file', 'Count the reeds']]);
    expect(await files('map +file')).toEqual([['map.pdf', 'file', 'Count the reeds']]);
    const mail = {
      to: 'maren@capture.example',
      subject: 'Levels',
      text: 'As promised.',
      attachments: [{ filename: 'levels.txt', content: 'Sluice three stood at 1.2 m' }],
    };
    await sendMail(server.smtpPort, mail);
    expect(await files('sluice')).toEqual([['levels.txt', 'file', 'Levels']]);
    await maren.post('/decisions/undo');
    expect(await files('heron')).toEqual([]);
  });

  it('finds people by what is noted of them', async () => {
    await maren.post('/people', { name: 'Anna Reiter', address: 'anna@bridge-works.example', note: 'Knows the lock keeper' });
    const hits = await find('"lock keeper" +person');
    expect(hits.map(({ thing, title }) => [thing, title.join('')])).toEqual([['person', 'Anna Reiter']]);
    expect(await titles('bridge-works.example')).toEqual(['Anna Reiter']);
  });

  it('shows nobody what belongs to another, and takes any text', async () => {
    const other = { name: 'Pia Keller', email: 'pia@alderfen.example', password: 'minibus-and-tents' };
    await server.app.get(AccountsService).create(other);
    const pia = new Caller(server.url);
    await pia.post('/session', { email: other.email, password: other.password });
    const { body } = await pia.get<{ found: Hit[] }>('/find?q=gauge');
    expect(body.found).toEqual([]);
    for (const text of ['"', '* OR 1=1', 'title : x', 'NEAR(', '((', '@" "', `'; DROP TABLE incoming; --`])
      expect((await maren.get(`/find?q=${encodeURIComponent(text)}`)).status).toBe(200);
  });

  it('the index holds exactly what is there', async () => {
    const { body } = await maren.get<Page>('/incoming?limit=100');
    const [docs] = await database(server).query<{ count: number }[]>(
      `SELECT COUNT(*) AS count FROM search_doc d JOIN incoming i ON i.id = d.id JOIN search_fts f ON f.rowid = d.doc`,
    );
    expect(docs?.count).toBe(body.total);
  });
});
