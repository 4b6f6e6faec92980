import { READER_VERSION } from '@corvun/core';
import { Rereading } from '../src/incoming/rereading';
import { database, until, type Caller, clear, sendMail, startServer, type Page, type Running, firstAccount } from './harness';

interface Task {
  id: string;
  title: string;
  listId: string | null;
  plannedDay: string | null;
  incomingId: string;
  status: string;
  spent: number;
}
interface Entry {
  id: string;
  what: string;
}
interface Decided {
  sentence: string;
  made: { kind: string; id: string; title: string }[];
  error?: { message: string };
}

let server: Running;
let maren: Caller;
let permits: string;

const HANNA = 'Hanna Vogt <hanna@lower-fen.example>';
const arrive = async (subject: string, text = 'It rained.', from = HANNA): Promise<string> => {
  await sendMail(server.smtpPort, { to: 'maren@capture.example', from, subject, text });
  const { body } = await maren.get<Page>('/incoming?limit=500');
  return body.items.find((line) => line.subject === subject)?.id ?? '';
};
const waiting = async () => (await maren.get<Page>('/incoming?limit=500')).body.total;
const tasks = async () => (await maren.get<Task[]>('/tasks')).body;
const outbox = async () => (await maren.get<Entry[]>('/outbox')).body;
const payload = async () => {
  const [row] = await database(server).query<{ payload: string }[]>('SELECT payload FROM outbox ORDER BY created DESC LIMIT 1');
  return JSON.parse(row?.payload ?? '{}') as {
    subject: string;
    text: string;
    to: { address: string }[];
    inReplyTo?: string;
    attachments: { name: string }[];
  };
};
const decide = (incoming: string | string[], more: object) =>
  maren.post<Decided>('/decisions', { incoming: [incoming].flat(), ...more });

beforeAll(async () => {
  server = await startServer('empty');
  maren = await firstAccount(server);
  permits = (await maren.post<{ id: string }>('/lists', { name: 'Permits' })).body.id;
});
afterAll(async () => {
  await server.stop();
  clear(server.data);
});

describe('many at once', () => {
  it('are one decision that one undo takes back, each under its own title', async () => {
    const ids = [await arrive('Ditch'), await arrive('Gate'), await arrive('Crane')];
    const before = await waiting();
    const { body } = await decide(ids, { to: 'list', list: 'Permits', title: 'not for many' });
    expect(body.sentence).toBe('3 things: each is on Permits');
    expect(body.made.map((one) => one.title)).toEqual(['Ditch', 'Gate', 'Crane']);
    expect(await waiting()).toBe(before - 3);
    await maren.post('/decisions/undo');
    expect(await waiting()).toBe(before);
    expect((await tasks()).some((task) => ids.includes(task.incomingId))).toBe(false);
  });

  it('are all left alone when one of them was decided already', async () => {
    const [first, second] = [await arrive('Heron'), await arrive('Otter')];
    await decide(first, { to: 'drop' });
    const before = await waiting();
    expect((await decide([second, first], { to: 'drop' })).status).toBe(409);
    expect(await waiting()).toBe(before);
  });
});

describe('several asks in one message', () => {
  it('become several tasks of the same original, each where it was said or where the first goes', async () => {
    const id = await arrive('Boards', 'Could you order the boards? Please also tell me who has the key.');
    const also = [
      { title: 'Say who has the key' },
      { title: 'Ask Ines for a price', list: 'Permits' },
      { title: 'Call the ferry', day: '2026-08-06' },
    ];
    const { body } = await decide(id, { to: 'day', day: '2026-08-05', also });
    expect(body.sentence).toMatch(/is on Wed 5 Aug, with 3 more tasks from it$/);
    const made = (await tasks()).filter((task) => task.incomingId === id);
    const by = (title: string) => made.find((task) => task.title === title);
    expect(made).toHaveLength(4);
    expect(by('Say who has the key')).toMatchObject({ plannedDay: '2026-08-05', listId: null });
    expect(by('Ask Ines for a price')).toMatchObject({ plannedDay: null, listId: permits });
    expect(by('Call the ferry')).toMatchObject({ plannedDay: '2026-08-06' });
    await maren.post('/decisions/undo');
    expect((await tasks()).filter((task) => task.incomingId === id)).toHaveLength(0);
  });

  it('come only with a task, and only to a list that there is', async () => {
    const id = await arrive('Reeds');
    expect((await decide(id, { to: 'drop', also: [{ title: 'Cut them' }] })).body.error?.message).toMatch(
      /“Drop” takes no field called “also”/,
    );
    expect((await decide(id, { to: 'shelf', also: [{ title: 'Cut them', list: 'Nowhere' }] })).body.error?.message).toMatch(
      /no list “Nowhere”/,
    );
    expect((await decide(id, { to: 'shelf', also: [{ title: 'Cut them', colour: 'red' }] })).status).toBe(400);
    expect((await maren.get<{ state: string }>(`/incoming/${id}`)).body.state).toBe('waiting');
  });
});

describe('two minutes', () => {
  it('a reply is done with its minutes, quotes what was asked, and undo holds it back', async () => {
    const id = await arrive('Re: Question', 'When do you come?\n> earlier words');
    const { body } = await decide(id, { to: 'done', minutes: 2, mail: { kind: 'reply', text: 'On Thursday.' } });
    expect(body.sentence).toMatch(/is answered, 2 min$/);
    expect((await tasks()).find((task) => task.incomingId === id)).toMatchObject({ status: 'COMPLETED', spent: 2 });
    expect(await payload()).toMatchObject({
      subject: 'Re: Question',
      to: [{ address: 'hanna@lower-fen.example' }],
      text: expect.stringMatching(/^On Thursday\.\n\nHanna Vogt wrote:\n> When do you come\?\n>> earlier words/) as string,
    });
    expect((await payload()).inReplyTo).toContain('@');
    await maren.post('/decisions/undo');
    expect(await outbox()).toEqual([]);
  });

  it('a forward needs somebody to go to, and says who wrote it', async () => {
    const id = await arrive('Invoice', 'Please see below.');
    expect((await decide(id, { to: 'done', mail: { kind: 'forward', text: '' } })).status).toBe(422);
    expect((await decide(id, { to: 'done', mail: { kind: 'forward', text: '', to: 'nobody' } })).status).toBe(400);
    expect((await decide(id, { to: 'done', mail: { kind: 'reply', text: '  ' } })).status).toBe(422);
    expect(await outbox()).toEqual([]);
    await decide(id, { to: 'done', mail: { kind: 'forward', text: 'For you', to: 'oda@alderfen.example' } });
    expect(await payload()).toMatchObject({
      subject: 'Fwd: Invoice',
      to: [{ address: 'oda@alderfen.example' }],
      attachments: [],
    });
    expect((await payload()).text).toMatch(
      /^For you\n\nFrom: Hanna Vogt <hanna@lower-fen.example>\nDate: .*\nSubject: Invoice\n\nPlease see below\./,
    );
  });
});

describe('gathered lines', () => {
  it('go into the inbox, whatever they say of days, times and lists, and keep their words', async () => {
    const before = await waiting();
    for (const text of ['Cake on Friday', 'Meeting tomorrow 10:00-11:00', 'Paint the sign >Permits', 'Only words']) {
      const { body } = await maren.post<{ kind: string; id: string }>('/captures', { text, inbox: true });
      expect(body.kind).toBe('incoming');
      expect((await maren.get<{ text: string }>(`/incoming/${body.id}`)).body.text).toBe(text);
    }
    expect(await waiting()).toBe(before + 4);
    expect((await maren.post('/captures', { text: '>Permits', inbox: true })).status).toBe(422);
  });
});

describe('facts that an older reader found', () => {
  it('are shown as they are read now, without writing; in the background they are read anew, once', async () => {
    const id = await arrive('Old reading', 'Please pay 480 € by Friday.');
    await database(server).query(
      `UPDATE incoming SET readerVersion = 1, facts = json_set(facts, '$.asks', json('[]')), readTitle = 'Old' WHERE id = ?`,
      [id],
    );
    const { body } = await maren.get<{ facts: { asks: object[]; money: { amount: number }[] }; suggestion: { title: string } }>(
      `/incoming/${id}`,
    );
    expect(body.facts.asks).toHaveLength(1);
    expect(body.facts.money).toMatchObject([{ amount: 480 }]);
    expect(body.suggestion.title).toBe('Pay 480 €');
    const kept = async () =>
      (
        await database(server).query<{ readerVersion: number; readTitle: string }[]>(
          'SELECT readerVersion, readTitle FROM incoming WHERE id = ?',
          [id],
        )
      )[0];
    expect(await kept()).toEqual({ readerVersion: 1, readTitle: 'Old' });
    await database(server).query(`UPDATE about SET value = '1' WHERE name = 'reread'`);
    await server.app.get(Rereading).onApplicationBootstrap();
    await until(async () => (await kept())?.readTitle === 'Pay 480 €', 'a message read anew');
    expect(await kept()).toEqual({ readerVersion: READER_VERSION, readTitle: 'Pay 480 €' });
  });
});

describe('lines sent from elsewhere', () => {
  it('are taken once by their key, and mean the time they were written', async () => {
    const line = { text: 'Call the weir tomorrow', key: 'line-of-yesterday', at: '2026-08-01T18:00:00+02:00' };
    const { body } = await maren.post<{ id: string }>('/captures', line);
    expect((await tasks()).find((task) => task.id === body.id)).toMatchObject({ plannedDay: '2026-08-02' });
    expect((await maren.post('/captures', line)).status).toBe(409);
    expect((await tasks()).filter((task) => task.title === 'Call the weir')).toHaveLength(1);
    expect((await maren.post('/captures', { ...line, key: 'no key!' })).status).toBe(400);
  });

  it('a refused line takes no key', async () => {
    expect((await maren.post('/captures', { text: '#tag', key: 'line-without-words' })).status).toBe(422);
    expect((await maren.post('/captures', { text: 'Now with words', key: 'line-without-words' })).status).toBe(201);
  });
});

describe('what was decided', () => {
  it('goes back into the inbox when it is to be decided anew, and what came of it stays', async () => {
    const id = await arrive('Nets', 'Could you mend the nets?');
    const { body } = await maren.post<Decided>('/decisions', { incoming: [id], to: 'day', day: '2026-08-04' });
    const again = await maren.post<{ sentence: string }>(`/incoming/${id}/reopen`);
    expect([again.status, again.body.sentence]).toEqual([200, '“Nets” waits again']);
    expect((await maren.get<{ state: string }>(`/incoming/${id}`)).body.state).toBe('waiting');
    expect((await maren.get(`/tasks/${body.made[0]?.id}`)).status).toBe(200);
    expect((await maren.post(`/incoming/${id}/reopen`)).status).toBe(409);
    await maren.post('/decisions/undo');
    expect((await maren.get<{ state: string }>(`/incoming/${id}`)).body.state).toBe('decided');
  });
});
