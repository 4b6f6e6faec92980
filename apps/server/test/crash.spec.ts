import { mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { createServer, connect, type Server } from 'node:net';
import { join } from 'node:path';
import { Caller, Outside, ServerProcess, clear, tempFolder, until, type Line, type Page } from './harness';

/** A line through which everything to a stand-in goes; at a chosen moment it kills the server without warning. */
class Wire {
  port = 0;
  private server: Server | undefined;
  /** Looks at what passes; true kills, before or after it is passed on. */
  wanted: ((text: string, way: 'out' | 'in') => 'before' | 'after' | null) | null = null;
  kill: () => void = () => undefined;

  async open(target: number): Promise<this> {
    this.server = createServer((near) => {
      const far = connect(target, '127.0.0.1');
      const pass = (from: typeof near, to: typeof near, way: 'out' | 'in') => {
        from.on('error', () => undefined);
        from.on('close', () => to.destroy());
        from.on('data', (bytes: Buffer) => {
          const when = this.wanted?.(bytes.toString('latin1'), way) ?? null;
          if (when) this.wanted = null;
          if (when !== 'before') to.write(bytes);
          if (when) this.kill();
        });
      };
      pass(near, far, 'out');
      pass(far, near, 'in');
    });
    await new Promise<void>((resolve) => this.server?.listen(0, '127.0.0.1', resolve));
    const address = this.server.address();
    this.port = typeof address === 'object' && address ? address.port : 0;
    return this;
  }

  close(): void {
    this.server?.close();
  }
}

const data = tempFolder();
const outside = new Outside();
const [http, imap, smtp] = [new Wire(), new Wire(), new Wire()];
let server: ServerProcess;
let maren: Caller;

/** Starts the server, the second time and later at the same addresses. */
async function start(same: Record<string, string> = {}): Promise<void> {
  server = await ServerProcess.start(data, { CORVUN_MAIL_OUT: `smtp://127.0.0.1:${smtp.port}`, ...same });
  for (const line of [http, imap, smtp]) line.kill = () => void server.kill();
}

async function startAgain(): Promise<void> {
  await server.ended;
  await start(server.samePorts);
}

/** The server dies at the moment that `line` waits for, and is started again. */
async function dieAt(line: Wire, wanted: NonNullable<Wire['wanted']>, doing: () => Promise<unknown>): Promise<void> {
  line.wanted = wanted;
  await doing().catch(() => undefined);
  await startAgain();
}

const inbox = async () =>
  (await maren.get<Page>('/incoming?limit=500')).body.items as (Line & { source: string; note: string })[];
const of = async (id: string) => (await inbox()).filter((one) => one.source === id);
const add = async (input: object) => (await maren.post<{ id: string }>('/sources', input)).body.id;
/** The id of a source even when the server died before it answered. */
const known = async (name: string) =>
  (await maren.get<{ id: string; name: string }[]>('/sources')).body.find((one) => one.name === name)?.id ?? '';
const settled = (id: string) =>
  until(
    async () => {
      const { body } = await maren.get<{ lastSuccess: string | null; progress: unknown; outbox: { waiting: number } }>(
        `/sources/${id}`,
      );
      return body.lastSuccess && !body.progress && body.outbox.waiting === 0;
    },
    'a whole look and an empty outbox',
    20_000,
  );
/** What failed is tried again now instead of after its pause. */
const hurry = async (id: string) => {
  await maren.post(`/sources/${id}/run`);
  for (const entry of (await maren.get<{ id: string; state: string }[]>('/outbox')).body)
    if (entry.state === 'waiting') await maren.post(`/outbox/${entry.id}/now`);
};

beforeAll(async () => {
  await outside.start(data, { OUTSIDE_CARDS: '600' });
  await http.open(Number(new URL(outside.url).port));
  await imap.open(outside.imapPort);
  await smtp.open(Number(new URL(outside.mailOut).port));
  await start();
  await outside.sendTo(server.smtpPort);
  maren = new Caller(server.url);
  await maren.post('/account', { name: 'Maren Holt', email: 'maren.holt@alderfen.example', password: 'ten letters at least' });
});

afterAll(() => {
  void server.kill();
  outside.stop();
  for (const line of [http, imap, smtp]) line.close();
  clear(data);
});

describe('killed in the middle, nothing is lost and nothing doubled', () => {
  const url = () => `http://127.0.0.1:${http.port}`;

  it('tracker: between fetch and write, in the middle of many pages; between write and send, and between send and its answer', async () => {
    const board = { id: 'boardwalk', name: 'Boardwalk board', ready: ['ready', 'idea'], done: 'built', reopen: 'ready' };
    let pages = 0;
    await dieAt(
      http,
      (text, way) => (way === 'in' && text.includes('"cards":') && ++pages === 2 ? 'after' : null),
      () =>
        add({ kind: 'tracker', name: 'Tracker', address: `${url()}/tracker`, settings: { boards: [board], writeTime: true } }),
    );
    const id = await known('Tracker');
    await settled(id);
    const { cards } = await outside.state<{ cards: { id: string; title: string; status: string; assignee: string }[] }>(
      'tracker',
    );
    const wanted = cards.filter(
      (one) =>
        one.assignee === 'maren' &&
        ['ready', 'idea'].includes(one.status) &&
        (one.id.startsWith('BW') || one.id.startsWith('L-')),
    );
    const first = await maren.get<Page>('/incoming?limit=500');
    expect(first.body.items.map((one) => one.subject).sort()).toEqual(wanted.map((one) => one.title).sort());

    const decking = first.body.items.find((one) => one.subject.startsWith('Order larch'));
    await dieAt(
      http,
      (text, way) => (way === 'out' && text.startsWith('PATCH') ? 'before' : null),
      () => maren.post('/decisions', { incoming: [decking?.id], to: 'done', minutes: 25 }),
    );
    await hurry(id);
    const status = async (card: string) =>
      (await outside.state<{ cards: { id: string; status: string }[] }>('tracker')).cards.find((one) => one.id === card)?.status;
    await until(async () => (await status('BW-12')) === 'built', 'done there');

    const fence = first.body.items.find((one) => one.subject.startsWith('Close section'));
    await dieAt(
      http,
      (text, way) => (way === 'out' && text.startsWith('PUT /tracker/api/cards/BW-14/time') ? 'after' : null),
      () => maren.post('/decisions', { incoming: [fence?.id], to: 'done', minutes: 15 }),
    );
    await hurry(id);
    await settled(id);
    const { time } = await outside.state<{ time: { card: string; minutes: number }[] }>('tracker');
    expect(time.map((one) => `${one.card} ${one.minutes}`).sort()).toEqual(['BW-12 25', 'BW-14 15']);
    expect(await status('BW-14')).toBe('built');
  });

  it('chat: between fetch and write, and between a reply and its answer', async () => {
    await dieAt(
      http,
      (text, way) => (way === 'in' && text.includes('"messages":') ? 'after' : null),
      () => add({ kind: 'chat', name: 'Chat', address: `${url()}/chat` }),
    );
    const id = await known('Chat');
    await settled(id);
    const lines = await of(id);
    expect(lines).toHaveLength(3);
    await dieAt(
      http,
      (text, way) => (way === 'out' && text.includes('/replies') ? 'after' : null),
      () => maren.post(`/incoming/${lines[0]?.id}/reply`, { text: 'Once only' }),
    );
    await hurry(id);
    await settled(id);
    const { messages } = await outside.state<{ messages: { text: string }[] }>('chat');
    expect(messages.filter((one) => one.text === 'Once only')).toHaveLength(1);
  });

  it('calendar feed: between fetch and write', async () => {
    await dieAt(
      http,
      (text, way) => (way === 'in' && text.includes('BEGIN:VEVENT') ? 'after' : null),
      () => add({ kind: 'feed', name: 'Hearings', address: `${url()}/calendars/county-hearings.ics` }),
    );
    const id = await known('Hearings');
    await settled(id);
    const { body } = await maren.get<{ held: { events: number } }>(`/sources/${id}`);
    expect(body.held.events).toBe(3);
  });

  it('mailbox: while messages are fetched, and while a decided one is moved', async () => {
    await dieAt(
      imap,
      (text, way) => (way === 'in' && text.includes('BODY[]') ? 'after' : null),
      () =>
        add({
          kind: 'mailbox',
          name: 'Box',
          address: `imap://127.0.0.1:${imap.port}`,
          account: 'maren',
          secret: 'fen-water',
          settings: { moveTo: 'Decided' },
        }),
    );
    const id = await known('Box');
    await hurry(id);
    await settled(id);
    const lines = await of(id);
    expect(lines.map((one) => one.subject).sort()).toEqual(['Ditch again', 'Nets for the pond day']);
    await dieAt(
      imap,
      (text, way) => (way === 'out' && text.includes('UID MOVE') ? 'after' : null),
      () => maren.post('/decisions', { incoming: [lines[0]?.id], to: 'drop' }),
    );
    await hurry(id);
    await settled(id);
    const { folders } = await outside.state<{ folders: Record<string, { subject: string }[]> }>('mail');
    expect(folders['Decided']?.map((one) => one.subject)).toEqual([lines[0]?.subject]);
  });

  it('mail out: the answer to an invitation goes out once', async () => {
    await outside.act('/mail/invite', {
      method: 'REQUEST',
      from: 'Ines Aalto <ines@aalto-timber.example>',
      to: 'maren.holt@alderfen.example',
      uid: 'x@aalto-timber.example',
      title: 'Screws',
      day: '2026-08-11',
      start: '10:00',
      end: '11:00',
      rrule: '',
      sequence: '0',
    });
    const line = await until(
      async () => (await inbox()).find((one) => one.subject.includes('Screws') && one.source === 'mail'),
      'the invitation',
    );
    await maren.post('/decisions', { incoming: [line.id], to: 'answer', reply: 'yes' });
    await dieAt(
      smtp,
      (text, way) => (way === 'in' && text.startsWith('354') ? 'after' : null),
      () => hurry(''),
    );
    const received = () =>
      outside.state<{ received: { subject: string }[] }>('mail').then((state) => state.received.map((one) => one.subject));
    await until(async () => {
      await hurry('');
      return (await received()).length > 0;
    }, 'the mail');
    await until(
      async () => (await maren.get<{ state: string }[]>('/outbox')).body.every((one) => one.state !== 'waiting'),
      'an empty outbox',
    );
    expect(await received()).toEqual(['Accepted: Screws']);
  });

  it('notes folder: killed again and again while it is read and written', async () => {
    const root = join(data, 'own-notes');
    mkdirSync(root);
    const lines = Array.from({ length: 120 }, (_, at) => `- [ ] Line ${at}`);
    for (let file = 0; file < 12; file += 1)
      writeFileSync(join(root, `${file}.md`), `${lines.slice(file * 10, file * 10 + 10).join('\n')}\n`);
    const whole = () => Array.from({ length: 12 }, (_, file) => readFileSync(join(root, `${file}.md`), 'utf8')).join('');
    await add({ kind: 'notes', name: 'Notes', address: root });
    const id = await known('Notes');
    for (const pause of [15, 60, 120]) {
      await new Promise((resolve) => setTimeout(resolve, pause));
      await server.kill();
      expect(whole().replace(/ <!--corvun:[a-z0-9]+-->/g, '')).toBe(`${lines.join('\n')}\n`);
      await startAgain();
      await maren.post(`/sources/${id}/run`);
    }
    await settled(id);
    const tasks = (await maren.get<{ id: string; title: string }[]>('/tasks')).body.filter((one) =>
      one.title.startsWith('Line '),
    );
    expect(tasks.map((one) => one.title).sort()).toEqual(lines.map((one) => one.slice(6)).sort());
    for (const task of tasks.slice(0, 20)) await maren.patch(`/tasks/${task.id}`, { status: 'COMPLETED' });
    await server.kill();
    await startAgain();
    await settled(id);
    expect(whole().match(/- \[x\]/g)).toHaveLength(20);
  });
});
