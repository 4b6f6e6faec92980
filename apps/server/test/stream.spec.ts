import { IncomingService } from '../src/incoming/incoming.service';
import { StreamService } from '../src/stream/stream.service';
import { type Caller, clear, database, firstAccount, startServer, until, type Running } from './harness';

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

interface Heard {
  type: string;
  id: number | null;
  data: { kind: string; ids: string[] }[];
}

/** Listens to the stream as a window does. */
class Window {
  readonly heard: Heard[] = [];
  private readonly stop = new AbortController();

  async open(query = '', headers: Record<string, string> = {}): Promise<this> {
    const response = await fetch(`${server.url}/api/stream${query}`, {
      headers: { ...maren.signedHeaders(), ...headers },
      signal: this.stop.signal,
    });
    void this.read(response);
    return this;
  }

  private async read({ body }: Response): Promise<void> {
    let text = '';
    const decoder = new TextDecoder();
    try {
      for await (const bytes of body as unknown as AsyncIterable<Uint8Array>) {
        text += decoder.decode(bytes, { stream: true });
        const blocks = text.split('\n\n');
        text = blocks.pop() ?? '';
        for (const block of blocks) this.take(block);
      }
    } catch {
      // The window was closed.
    }
  }

  private take(block: string): void {
    const field = (name: string) => new RegExp(`^${name}: (.*)$`, 'm').exec(block)?.[1];
    const data = field('data');
    if (!data || field('event') === 'beat') return;
    const id = field('id');
    this.heard.push({
      type: field('event') ?? '',
      id: id && /^\d+$/.test(id) && field('event') ? Number(id) : null,
      data: JSON.parse(data) as Heard['data'],
    });
  }

  close(): void {
    this.stop.abort();
  }
}

const capture = async (text: string) =>
  (await maren.post<{ id: string; changed: { revisions: number[]; changes: Heard['data'] } }>('/captures', { text })).body;
const revision = async () => (await maren.get<{ revision: number }>('/me')).body.revision;

describe('the stream', () => {
  it('tells what happened since, each once and in order, and then what happens; answers carry the same', async () => {
    const since = await revision();
    const first = await capture('Count the buoys tomorrow');
    const window = await new Window().open(`?since=${since}`);
    const second = await capture('Oil the lock tomorrow');
    await until(() => Promise.resolve(window.heard.length >= 2), 'both captures');
    expect(window.heard).toMatchObject([
      { type: 'change', id: first.changed.revisions[0], data: first.changed.changes },
      { type: 'change', id: second.changed.revisions[0], data: second.changed.changes },
    ]);
    expect(second.changed.changes).toEqual([{ kind: 'task', ids: [second.id] }]);
    window.close();
  });

  it('goes on after a break from what was heard last; an undo is told like any change', async () => {
    const window = await new Window().open();
    const one = await capture('Mow the dam tomorrow');
    await until(() => Promise.resolve(window.heard.length >= 1), 'the capture');
    window.close();
    const undone = await maren.post<{ changed: { revisions: number[] } }>('/decisions/undo');
    const again = await new Window().open(`?since=1`, { 'Last-Event-ID': String(window.heard[0]?.id) });
    await until(() => Promise.resolve(again.heard.length >= 1), 'what was missed');
    expect(again.heard).toMatchObject([{ id: undone.body.changed.revisions[0], data: [{ kind: 'task', ids: [one.id] }] }]);
    again.close();
  });

  it('says so when too much happened, or when what was heard is not known any more', async () => {
    const last = await revision();
    const strange = await new Window().open(`?since=${last + 1000}`);
    await until(() => Promise.resolve(strange.heard.length >= 1), 'an answer');
    expect(strange.heard).toMatchObject([{ type: 'behind', id: last }]);
    strange.close();
    await database(server).query(
      `INSERT INTO "entry" ("id", "ownerId", "actor", "sentence", "at", "incomingIds", "changes", "shape", "state")
       SELECT 'many-' || value, (SELECT "id" FROM "user"), 'system', '', 0, '[]', '[]', 1, 'final'
       FROM (WITH RECURSIVE n(value) AS (SELECT 1 UNION ALL SELECT value + 1 FROM n WHERE value < 600) SELECT value FROM n)`,
    );
    const far = await new Window().open(`?since=${last}`);
    await until(() => Promise.resolve(far.heard.length >= 1), 'an answer');
    expect(far.heard).toMatchObject([{ type: 'behind', id: last + 600 }]);
    far.close();
  });

  it('tells one user nothing of another', async () => {
    const window = await new Window().open();
    const stream = server.app.get(StreamService);
    stream.tell('somebody-else', { revision: 1e9, changes: [{ kind: 'task', ids: ['x'] }] });
    await capture('Own thing tomorrow');
    await until(() => Promise.resolve(window.heard.length >= 1), 'the own one');
    expect(JSON.stringify(window.heard)).not.toContain('"x"');
    window.close();
  });

  it('those that changed count as they are shown, also where one is decided while that is asked', async () => {
    const typed = async (text: string) => (await maren.post<{ id: string }>('/captures', { text, inbox: true })).body.id;
    const ids = [await typed('A thought'), await typed('Another')];
    const { incoming } = server.app.get<{ incoming: { countBy: (where: object) => Promise<number> } }>(IncomingService);
    const usual = incoming.countBy.bind(incoming);
    incoming.countBy = async (where) => {
      incoming.countBy = usual;
      await maren.post('/decisions', { incoming: [ids[0]], to: 'drop' });
      return usual(where);
    };
    const { body } = await maren.get<{ total: number; items: { state: string }[] }>(`/incoming?ids=${ids[0]}`);
    expect(body).toMatchObject({ total: 2, items: [{ state: 'waiting' }] });
    expect((await maren.get(`/incoming?ids=${ids[0]}`)).body).toMatchObject({ total: 1, items: [{ state: 'decided' }] });
  });
});
