import { type Caller, clear, sendMail, startServer, type Line, type Page, type Running, firstAccount } from './harness';

let server: Running;
let maren: Caller;
let number = 0;

beforeAll(async () => {
  server = await startServer('empty');
  maren = await firstAccount(server);
  for (const name of ['Permits', 'Reading']) await maren.post('/lists', { name });
});

afterAll(async () => {
  await server.stop();
  clear(server.data);
});

/** Sends a mail from an address and gives back its line in the inbox. */
async function arrive(from: string, text: string): Promise<Line> {
  number += 1;
  const subject = `Letter ${number}`;
  await sendMail(server.smtpPort, { to: 'maren@capture.example', from, subject, text });
  const { body } = await maren.get<Page>('/incoming?limit=500');
  const line = body.items.find((one) => one.subject === subject);
  if (!line) throw new Error('the mail did not arrive');
  return line;
}

const decide = (line: Line, to: string, more: object = {}) => maren.post('/decisions', { incoming: [line.id], to, ...more });

describe('proposals', () => {
  it('begin after three decisions alike, say how many, and forget what was undone', async () => {
    const from = 'county@water.example';
    for (let at = 0; at < 2; at += 1)
      await decide(await arrive(from, 'Could you send the readings?'), 'list', { list: 'Permits' });
    expect((await arrive(from, 'Could you send more readings?')).suggestion?.list).toBeNull();
    await decide(await arrive(from, 'Could you send the last readings?'), 'list', { list: 'Permits' });
    const known = await arrive(from, 'Could you send the very last readings?');
    expect(known.suggestion).toMatchObject({ to: 'list', list: 'Permits' });
    expect((known.suggestion as unknown as { reasons: string[] }).reasons).toContain('3 of 3 from this address went to Permits');
    await maren.post('/decisions/undo');
    const { body } = await maren.get<Line>(`/incoming/${known.id}`);
    expect(body.suggestion?.list).toBeNull();
  });

  it('follow the commoner habit of a sender, and know each sender apart', async () => {
    const from = 'letter@fen.example';
    for (let at = 0; at < 4; at += 1) await decide(await arrive(from, 'It rained again.'), 'drop');
    await decide(await arrive(from, 'It rained a lot.'), 'list', { list: 'Reading' });
    expect((await arrive(from, 'It rained today.')).suggestion?.to).toBe('drop');
    expect((await arrive('other@mire.example', 'It rained today.')).suggestion).toMatchObject({ to: 'list', list: null });
  });

  it('propose the day, where like things were put on one, but no weekend and nothing after the deadline', async () => {
    const from = 'crew@fen.example';
    for (const day of ['2026-08-05', '2026-08-05', '2026-08-08'])
      await decide(await arrive(from, 'Could you bring the tarp?'), 'day', { list: 'Reading', day });
    const next = await arrive(from, 'Could you bring the rope?');
    expect(next.suggestion).toMatchObject({ to: 'day', list: 'Reading', day: '2026-08-05' });
    expect((next.suggestion as unknown as { reasons: string[] }).reasons).toContain(
      'things like this usually wait 2 days (median of 3)',
    );
    const { body } = await maren.post<{ sentence: string }>('/decisions', { incoming: [next.id], to: 'day' });
    expect(body.sentence).toMatch(/is on Wed 5 Aug, Reading$/);
    for (const day of ['2026-08-08', '2026-08-08', '2026-08-08'])
      await decide(await arrive(from, 'Could you bring the saw?'), 'day', { list: 'Reading', day });
    expect((await arrive(from, 'Could you bring the axe?')).suggestion).toMatchObject({ day: '2026-08-10' });
    expect((await arrive(from, 'Could you bring the axe by Thursday?')).suggestion).toMatchObject({ day: '2026-08-06' });
  });

  it('are taken over by a decision that says nothing else, and give way to one that does', async () => {
    const line = await arrive('ruth@fund.example', 'Could you send the outline by Friday? It takes two hours.');
    expect(line.suggestion).toMatchObject({ title: 'Send the outline', deadline: '2026-08-07' });
    const taken = await maren.post<{ made: { id: string }[] }>('/decisions', {
      incoming: [line.id],
      to: 'list',
      list: 'Reading',
    });
    expect((await maren.get(`/tasks/${taken.body.made[0]?.id}`)).body).toMatchObject({
      title: 'Send the outline',
      deadline: '2026-08-07',
      estimate: 120,
    });
    await maren.post('/decisions/undo');
    const own = await maren.post<{ made: { id: string }[] }>('/decisions', {
      incoming: [line.id],
      to: 'day',
      day: '2026-08-05',
      title: 'Outline',
      deadline: null,
      minutes: 30,
      list: null,
    });
    expect((await maren.get(`/tasks/${own.body.made[0]?.id}`)).body).toMatchObject({
      title: 'Outline',
      deadline: null,
      estimate: 30,
      listId: null,
      plannedDay: '2026-08-05',
    });
  });

  it('find a person again by address', async () => {
    const first = await maren.post<{ made: { id: string }[] }>('/decisions', {
      incoming: [(await arrive('Ines Aalto <ines@aalto.example>', 'Hello.')).id],
      to: 'person',
    });
    const second = await maren.post<{ made: { id: string }[]; sentence: string }>('/decisions', {
      incoming: [(await arrive('I. Aalto <ines@aalto.example>', 'Hello again.')).id],
      to: 'person',
    });
    expect(second.body.made[0]?.id).toBe(first.body.made[0]?.id);
    expect(second.body.sentence).toContain('known already');
  });
});

describe('threads', () => {
  it('hold together what refers to one another', async () => {
    const raw = (id: string, refers: string) =>
      `From: a@b.example\r\nMessage-ID: <${id}@b.example>\r\n${refers ? `References: <${refers}@b.example>\r\n` : ''}Subject: Thread ${id}\r\n\r\nWords.\r\n`;
    for (const [id, refers] of [
      ['t1', ''],
      ['t2', 't1'],
      ['t3', 't1'],
    ] as const)
      await sendMail(server.smtpPort, { to: 'maren@capture.example', raw: raw(id, refers) });
    const { body } = await maren.get<Page>('/incoming?limit=500');
    const second = body.items.find((line) => line.subject === 'Thread t2');
    const first = body.items.find((line) => line.subject === 'Thread t1');
    await decide(first as Line, 'drop');
    const { body: shown } = await maren.get<{ thread: { subject: string; state: string }[] }>(`/incoming/${second?.id}`);
    expect(shown.thread.map((one) => [one.subject, one.state])).toEqual([
      ['Thread t3', 'waiting'],
      ['Thread t1', 'decided'],
    ]);
  });
});

describe('what was kept', () => {
  it('is found again under what became of it, newest first', async () => {
    const one = await arrive('x@y.example', 'Keep me.');
    await decide(one, 'reference');
    const { body } = await maren.get<Page>('/incoming?state=decided&outcome=reference&order=newest');
    expect(body.items.map((line) => line.id)).toEqual([one.id]);
    const dropped = await maren.get<Page>('/incoming?state=decided&outcome=drop');
    expect(dropped.body.items.every((line) => line.subject.startsWith('Letter') || line.subject.startsWith('Thread'))).toBe(true);
    expect(dropped.body.total).toBe(5);
  });

  it('keeps what windows ask for by id, in any state, with the number that waits', async () => {
    const { body } = await maren.get<Page>('/incoming?limit=500');
    const kept = (await maren.get<Page>('/incoming?state=decided&outcome=reference')).body.items[0];
    const some = await maren.get<Page>(`/incoming?ids=${body.items[0]?.id},${kept?.id},nosuchthing`);
    expect(new Set(some.body.items.map((line) => line.id))).toEqual(new Set([body.items[0]?.id, kept?.id]));
    expect(some.body.total).toBe(body.total);
  });
});
