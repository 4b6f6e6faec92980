import { mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { database, Caller, clear, until, withOutside, type Outside, type Page, type Running } from './harness';

interface Task {
  id: string;
  title: string;
  status: string;
}
interface Info {
  id: string;
  progress: unknown;
  lastSuccess: string | null;
}

let server: Running;
let outside: Outside;
let maren: Caller;
beforeAll(async () => {
  ({ server, outside, maren } = await withOutside());
});
afterAll(async () => {
  await server.stop();
  outside.stop();
  clear(server.data);
});

const tasks = async () => (await maren.get<Task[]>('/tasks')).body;
const task = async (id: string) => (await maren.get<Task>(`/tasks/${id}`)).body;
const look = async (id: string) => {
  await maren.post(`/sources/${id}/run`);
  await until(async () => {
    const { body } = await maren.get<Info>(`/sources/${id}`);
    return body.progress === null && body.lastSuccess;
  }, 'the end of the look');
};
const asked = (subject: string) =>
  until(
    async () => (await maren.get<Page>('/incoming?limit=100')).body.items.find((one) => one.subject === subject && 'note' in one),
    subject,
  );

describe('notes', () => {
  let root: string;
  let id: string;
  const named = async (title: string) => (await tasks()).filter((one) => one.title === title);
  beforeAll(async () => {
    root = join(server.data, 'own-notes');
    mkdirSync(root);
    writeFileSync(join(root, 'a.md'), '- [ ] Count the buoys\n- [ ] Order the rope\n- [ ] Paint the marks\n');
    writeFileSync(join(root, 'b.md'), '- [ ] Ask the archive\n');
    id = (await maren.post<Info>('/sources', { kind: 'notes', name: 'Own notes', address: root })).body.id;
    await until(async () => (await tasks()).length === 4, 'the tasks');
    await look(id);
  });

  it('put back without the names of its lines, a file makes no task twice', async () => {
    const before = (await tasks()).map((one) => one.id).sort();
    writeFileSync(join(root, 'a.md'), '- [ ] Count the buoys\n- [ ] Order the rope\n- [ ] Paint the marks\n');
    await look(id);
    expect((await tasks()).map((one) => one.id).sort()).toEqual(before);
    expect(readFileSync(join(root, 'a.md'), 'utf8').match(/<!--corvun:/g)).toHaveLength(3);
  });

  it('a line that was deleted asks what becomes of its open task: kept on its own, or dropped, too', async () => {
    const text = readFileSync(join(root, 'a.md'), 'utf8').split('\n');
    writeFileSync(join(root, 'a.md'), text.filter((line) => !/rope|marks/.test(line)).join('\n'));
    await look(id);
    const [rope, marks] = [await asked('Order the rope'), await asked('Paint the marks')];
    expect(rope).toMatchObject({ note: 'deleted there, still open here' });
    const [one] = await named('Order the rope');
    const [other] = await named('Paint the marks');
    expect((await maren.post(`/incoming/${rope.id}/settle`, { keep: 'here' })).status).toBe(200);
    expect((await maren.post(`/incoming/${marks.id}/settle`, { keep: 'there' })).status).toBe(200);
    expect([(await task(one?.id ?? '')).status, (await task(other?.id ?? '')).status]).toEqual(['NEEDS-ACTION', 'CANCELLED']);
    await maren.post('/decisions/undo');
    expect((await task(other?.id ?? '')).status).toBe('NEEDS-ACTION');
  });

  it('a repeating line that is ticked, here or there, goes on as the next one, and its round stands above', async () => {
    const file = join(root, 'r.md');
    const lines = () =>
      readFileSync(file, 'utf8')
        .replace(/ <!--.*?-->/g, '')
        .trimEnd()
        .split('\n');
    const says = (expected: string[]) =>
      until(() => Promise.resolve(JSON.stringify(lines()) === JSON.stringify(expected)), expected.join('; '));
    writeFileSync(file, '- [ ] Water the seedlings {on 2026-08-03 | every FREQ=DAILY}\n  - [ ] Fill the can\n');
    await look(id);
    const open = async () => (await named('Water the seedlings')).find(({ status }) => status === 'NEEDS-ACTION');
    const first = await open();
    const [step] = await named('Fill the can');
    await maren.patch(`/tasks/${step?.id}`, { status: 'COMPLETED' });
    await maren.patch(`/tasks/${first?.id}`, { status: 'COMPLETED' });
    const next = [
      '- [x] Water the seedlings {on 2026-08-03 | done 2026-08-03}',
      '- [ ] Water the seedlings {on 2026-08-04 | every FREQ=DAILY}',
      '  - [ ] Fill the can',
    ];
    await says(next);
    await maren.post('/decisions/undo');
    await says(['- [ ] Water the seedlings {on 2026-08-03 | every FREQ=DAILY}', '  - [x] Fill the can {done 2026-08-03}']);
    await maren.post('/decisions/redo');
    await says(next);
    // Ticked there.
    writeFileSync(file, readFileSync(file, 'utf8').replace('- [ ] Water', '- [x] Water'));
    await look(id);
    await says([
      next[0] ?? '',
      '- [x] Water the seedlings {on 2026-08-04 | done 2026-08-03}',
      '- [ ] Water the seedlings {on 2026-08-05 | every FREQ=DAILY}',
      '  - [ ] Fill the can',
    ]);
    await look(id);
    expect((await named('Water the seedlings')).map(({ status }) => status).sort()).toEqual([
      ...['COMPLETED', 'COMPLETED', 'NEEDS-ACTION'],
    ]);
    expect(await open()).toMatchObject({ plannedDay: '2026-08-05', repeat: 'FREQ=DAILY' });
  });

  it('and so does a whole file; a done task asks nothing', async () => {
    rmSync(join(root, 'b.md'));
    await look(id);
    expect(await asked('Ask the archive')).toMatchObject({ note: 'deleted there, still open here' });
    const [buoys] = await named('Count the buoys');
    await maren.patch(`/tasks/${buoys?.id}`, { status: 'COMPLETED' });
    await look(id);
    writeFileSync(join(root, 'a.md'), '# Nothing left\n');
    await look(id);
    const { body } = await maren.get<Page>('/incoming?limit=100');
    expect(body.items.some((one) => one.subject === 'Count the buoys')).toBe(false);
  });
});

describe('a tracker', () => {
  it('a card that was deleted asks what becomes of its open task', async () => {
    const board = { id: 'boardwalk', name: 'Boardwalk board', ready: ['ready', 'idea'], done: 'built', reopen: 'ready' };
    const input = { kind: 'tracker', name: 'Tracker', address: `${outside.url}/tracker`, settings: { boards: [board] } };
    const { id } = (await maren.post<Info>('/sources', input)).body;
    await look(id);
    const card = (await maren.get<Page>('/incoming?limit=100')).body.items.find((one) => one.subject.startsWith('Order larch'));
    const { body } = await maren.post<{ made: { kind: string; id: string }[] }>('/decisions', {
      incoming: [card?.id],
      to: 'shelf',
    });
    await outside.act('/tracker/cards/BW-12', { remove: '1' });
    await look(id);
    const question = await asked(card?.subject ?? '');
    expect((await maren.get(`/incoming/${question.id}`)).body).toMatchObject({ conflict: { fields: [{ field: 'gone' }] } });
    expect(question).toMatchObject({ twoVersions: true, suggestion: null });
    const second = await maren.post<{ error: { code: string } }>('/decisions', { incoming: [question.id], to: 'shelf' });
    expect([second.status, second.body.error.code]).toEqual([409, 'two-versions']);
    await maren.post(`/incoming/${question.id}/settle`, { keep: 'there' });
    expect((await task(body.made[0]?.id ?? '')).status).toBe('CANCELLED');
  });
});

describe('a mailbox whose login is no address', () => {
  it('does not bring in what its user wrote: the folder of what was sent tells who that is', async () => {
    const other = await withOutside();
    const noor = new Caller(other.server.url);
    // The account here has another address than the mailbox there.
    await database(other.server).query(`UPDATE "user" SET email = 'noor@lower-fen.example'`);
    await noor.post('/session', { email: 'noor@lower-fen.example', password: 'ten letters at least' });
    await other.outside.act('/mail/box', {
      from: 'Maren Holt <maren.holt@alderfen.example>',
      subject: 'My own words',
      text: 'x',
    });
    await other.outside.act('/mail/box', { from: 'Pia Keller <pia.keller@alderfen.example>', subject: 'From Pia', text: 'x' });
    const box = {
      kind: 'mailbox',
      name: 'Box',
      address: `imap://127.0.0.1:${other.outside.imapPort}`,
      account: 'maren',
      secret: 'fen-water',
    };
    await noor.post('/sources', box);
    const subjects = () => noor.get<Page>('/incoming?limit=100').then((answer) => answer.body.items.map((one) => one.subject));
    await until(async () => (await subjects()).includes('From Pia'), 'the mail from Pia');
    expect(await subjects()).not.toContain('My own words');
    await other.server.stop();
    other.outside.stop();
    clear(other.server.data);
  });
});
