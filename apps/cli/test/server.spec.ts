import { spawn } from 'node:child_process';
import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { ServerProcess, clear, demoFolder } from '../../../testing/server';

const root = join(__dirname, '../../..');
const data = demoFolder();
let server: ServerProcess;
let url = '';

beforeAll(async () => {
  server = await ServerProcess.start(data, { CORVUN_DEMO: '1' });
  ({ url } = server);
});

afterAll(async () => {
  await server.kill();
  clear(data);
});

interface Ended {
  code: number | null;
  out: string;
  err: string;
}

/** Runs the command with the demo's own token, found in its data folder. */
async function corvun(...args: string[]): Promise<Ended> {
  const child = spawn(process.execPath, [join(root, 'apps/cli/dist/main.js'), ...args, '--json'], {
    env: { ...process.env, CORVUN_DATA: data, CORVUN_URL: url, CORVUN_TOKEN: '' },
  });
  let [out, err] = ['', ''];
  child.stdout.on('data', (text: Buffer) => (out += text.toString()));
  child.stderr.on('data', (text: Buffer) => (err += text.toString()));
  const code = await new Promise<number | null>((resolve) => child.on('close', resolve));
  return { code, out, err };
}

async function json<T>(...args: string[]): Promise<T> {
  const { code, out, err } = await corvun(...args);
  if (code !== 0) throw new Error(err);
  return JSON.parse(out) as T;
}

interface Inbox {
  total: number;
  items: {
    id: string;
    source: string;
    kind: string;
    sender: { address: string };
    subject: string;
    received: string;
    suggestion: { to: string } | null;
  }[];
}

describe('corvun against a server', () => {
  it('lists the inbox, as much as is asked for and from where', async () => {
    const { total, items } = await json<Inbox>('inbox', '--limit', '3');
    expect([total, items.length]).toEqual([38, 3]);
    expect(Object.keys(items[0] ?? {})).toEqual(['id', 'source', 'kind', 'sender', 'subject', 'received', 'suggestion']);
    expect((await json<Inbox>('inbox', '--limit', '1000')).items).toHaveLength(38);
    expect((await json<Inbox>('inbox', '--source', 'typed')).total).toBe(4);
  });

  it('makes tokens, and one that may only read', async () => {
    const call = async (token: string, method: string, path: string) =>
      (
        await fetch(`${url}/api${path}`, {
          method,
          headers: { Authorization: `Bearer ${token}`, 'Content-Type': 'application/json' },
          ...(method === 'POST' ? { body: '{"lines":["Count the buoys"]}' } : {}),
        })
      ).status;
    const writes = await json<{ token: string; name: string; may: string }>('token', 'Telephone');
    const reads = await json<{ token: string; name: string; may: string }>('token', 'Wall display', '--read');
    expect(Object.keys(writes)).toEqual(['token', 'name', 'may']);
    expect([writes.name, writes.may, reads.name, reads.may]).toEqual(['Telephone', 'write', 'Wall display', 'read']);
    expect([await call(writes.token, 'POST', '/tasks'), await call(reads.token, 'POST', '/tasks')]).toEqual([201, 403]);
    expect(await call(reads.token, 'GET', '/me')).toBe(200);
  });

  it('shows one whole, with facts, attachments and thread', async () => {
    const { items } = await json<Inbox>('inbox');
    const gauge = items.find((one) => one.subject.startsWith('Gauge 14'));
    const shown = await json<{
      text: string;
      facts: { asks: unknown[] };
      attachments: { name: string }[];
      thread: unknown[];
      made: unknown[];
    }>('show', gauge?.id ?? '');
    expect(shown.text).toContain('raw readings');
    expect([shown.facts.asks.length, shown.attachments[0]?.name, shown.made, shown.thread]).toEqual([
      2,
      'gauge-14-form.pdf',
      [],
      [],
    ]);
  });

  it('captures, decides, shows the agenda, takes back and does again', async () => {
    expect(await json('capture', 'Walk', 'tomorrow', '8:00')).toMatchObject({ kind: 'block', title: 'Walk' });
    const { items } = await json<Inbox>('inbox');
    const made = await json<{ decision: string; made: { kind: string; id: string }[] }>(
      'decide',
      items[0]?.id ?? '',
      '--to',
      'time',
      '--start',
      '2026-08-04T17:00',
      '--minutes',
      '20',
      '--title',
      'Look at the gate',
      '--list',
      'Permits',
      '--tag',
      'site',
      'call',
      '--deadline',
      '2026-08-12',
      '--fixed',
      '--priority',
      'high',
    );
    expect(made.made.map((thing) => thing.kind)).toEqual(['task', 'block']);
    const { entries } = await json<{
      entries: {
        kind: string;
        title: string;
        start: string;
        end: string;
        status: string;
        showAs: string;
        allDay: boolean;
        calendar: string | null;
      }[];
    }>('agenda', '2026-08-04');
    expect(entries.find((one) => one.title === 'Look at the gate')).toEqual({
      kind: 'block',
      id: made.made[1]?.id,
      title: 'Look at the gate',
      start: '2026-08-04T17:00:00+02:00',
      end: '2026-08-04T17:20:00+02:00',
      allDay: false,
      calendar: null,
      status: 'NEEDS-ACTION',
      showAs: 'busy',
    });
    expect(await json('undo')).toEqual({ decision: made.decision, undone: true });
    expect((await json<Inbox>('inbox')).items[0]?.id).toBe(items[0]?.id);
    expect(await json('redo')).toMatchObject({ decision: made.decision });
    await json('undo');
    await json('undo');
  });

  it('puts notes, steps and a repeat with a task, and a reference into a note', async () => {
    const { items } = await json<Inbox>('inbox');
    const [first, second] = items.map((one) => one.id);
    const task = await json<{ made: { kind: string }[] }>(
      'decide',
      first ?? '',
      '--to',
      'shelf',
      '--notes',
      'Ask Lea first.',
      '--step',
      'Read the logger',
      'Send the table',
      '--repeat',
      'FREQ=MONTHLY',
    );
    expect(task.made.map((thing) => thing.kind)).toEqual(['task']);
    const kept = await json<{ made: { kind: string }[] }>('decide', second ?? '', '--to', 'reference', '--note', 'Gauges');
    expect(kept.made.map((thing) => thing.kind)).toEqual(['reference', 'note']);
    expect((await json<{ made: { kind: string; title: string }[] }>('show', second ?? '')).made).toMatchObject([
      { kind: 'note', title: 'Gauges' },
    ]);
    const { code, err } = await corvun('decide', items[2]?.id ?? '', '--to', 'shelf', '--repeat', 'weekly');
    expect([code, err]).toEqual([1, expect.stringContaining('A repeat rule begins with FREQ=.') as string]);
    await json('undo');
    await json('undo');
    expect((await json<Inbox>('inbox')).items.slice(0, 2).map((one) => one.id)).toEqual([first, second]);
  });

  it('spans several days on request', async () => {
    const one = await json<{ entries: unknown[] }>('agenda', '2026-08-03');
    const five = await json<{ entries: unknown[] }>('agenda', '2026-08-03', '--days', '5');
    expect(five.entries.length).toBeGreaterThan(one.entries.length);
  });

  it('brings files in and reports of each', async () => {
    const message = (id: string) => `From: a@b.example\nMessage-ID: <${id}@b.example>\nSubject: ${id}\n\nCould you call?\n`;
    const file = (name: string, text: string) => {
      writeFileSync(join(data, name), text);
      return join(data, name);
    };
    const paths = [
      file('one.eml', message('one')),
      file('two.mbox', `From x\n${message('two')}\nFrom y\n${message('one')}\n`),
      file('empty.eml', ''),
      join(data, 'none.eml'),
    ];
    const report = await json<{ taken: number; updated: number; known: number; refused: { file: string; reason: string }[] }>(
      'import',
      ...paths,
    );
    expect(report).toMatchObject({ taken: 2, updated: 0, known: 1 });
    expect(report.refused.map((one) => one.reason)).toEqual([
      'The file is empty: there is no message in it.',
      'There is no such file.',
    ]);
    const { code, err } = await corvun('import', join(data, 'empty.eml'));
    expect([code, err]).toEqual([1, expect.stringContaining('Nothing could be taken in.') as string]);
  });

  it.each<[string[], string]>([
    [['show', 'nosuchthing'], 'There is no incoming thing with this id here.'],
    [['decide', 'nosuchthing', '--to', 'drop'], 'There is no incoming thing with this id here.'],
    [['capture', '#tag'], 'The line says when or where, but not what.'],
    [['agenda', '2026-02-30'], '2026-02-30 is not a day in the calendar'],
    [['inbox', '--token', 'wrong'], 'The token is not valid.'],
  ])('refuses %j with the server’s sentence and exit code 1', async (args, sentence) => {
    const { code, out, err } = await corvun(...args);
    expect([code, out]).toEqual([1, '']);
    expect(err).toContain(sentence);
  });

  it('says what would be planned for a week', async () => {
    const { from, to, blocks, without } = await json<{
      from: string;
      to: string;
      blocks: { title: string; start: string }[];
      without: object[];
    }>(...['plan', '--week', '2026-W32']);
    expect([from, to]).toEqual(['2026-08-03', '2026-08-09']);
    expect(blocks.length + without.length).toBeGreaterThan(3);
    expect((await corvun('plan', '--week', '2026-W02')).err).toBe('These days are over; nothing can be planned for them.\n');
  });

  it('says a day in words', async () => {
    const outline = await json<{ day: string; lines: { part: string }[]; text: string }>('today');
    expect(outline.day).toBe('2026-08-03');
    expect(outline.lines[0]?.part).toBe('load');
    expect(outline.text).toContain('In order\n- 9:00 – 9:30  Stand-up at the hut (Hut)');
    expect((await json<{ text: string }>('today', '2026-08-08')).text).toMatch(/^Sat 8 Aug\nNo working time/);
    expect(await corvun('today', 'someday')).toMatchObject({ code: 1, out: '' });
  });
});
