import { mkdirSync, readFileSync, symlinkSync, utimesSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { Caller, clear, startServer, until, type Running } from './harness';
import { hashOf, replaceFile } from '../src/sources/notes-folder';

interface Task {
  id: string;
  title: string;
  status: string;
  parentId: string | null;
  tags: string[];
  deadline: string | null;
  deadlineFixed: boolean;
  plannedDay: string | null;
  priority: string;
}
interface Info {
  id: string;
  problem: string;
  progress: unknown;
  outbox: { waiting: number };
}

let server: Running;
let maren: Caller;
let root: string;
let id: string;

const tasks = async () => (await maren.get<Task[]>('/tasks')).body;
const all = async () => Promise.all((await tasks()).map(async (one) => (await maren.get<Task>(`/tasks/${one.id}`)).body));
const named = async (title: string) => (await all()).find((one) => one.title === title);
const info = async () => (await maren.get<Info>(`/sources/${id}`)).body;
const look = async () => {
  await maren.post(`/sources/${id}/run`);
  await until(async () => (await info()).progress === null, 'the end of the look');
};
const read = (path: string) => readFileSync(join(root, path), 'utf8');
const write = (path: string, text: string) => writeFileSync(join(root, path), text);

const NOTE =
  '# Boardwalk\r\n\r\n- [ ] Photograph section C #site {due 2026-08-10 | high}\r\n- [ ] Find the old plans\r\n  * [ ] ask the archive\r\n- [x] Measure\r\n\r\n```\r\n- [ ] no task\r\n```\r\n';

beforeAll(async () => {
  server = await startServer('empty');
  root = join(server.data, 'notes');
  mkdirSync(join(root, 'Private'), { recursive: true });
  write('Boardwalk.md', NOTE);
  write('Private/Garden.md', '- [ ] Prune the plum\n');
  write('old.md', '- [ ] From long ago\n');
  utimesSync(join(root, 'old.md'), new Date('2024-01-01'), new Date('2024-01-01'));
  symlinkSync(root, join(root, 'round'));
  symlinkSync('/etc', join(root, 'out'));
  maren = new Caller(server.url);
  await maren.post('/account', { name: 'Maren Holt', email: 'maren.holt@alderfen.example', password: 'ten letters at least' });
  const input = { kind: 'notes', name: 'Notes', address: root, settings: { leaveOut: ['Private'], untouchedDays: 400 } };
  expect((await maren.post<{ sentence: string }>('/sources/look', input)).body.sentence).toBe('3 of 6 task lines in 3 notes');
  id = (await maren.post<Info>('/sources', input)).body.id;
  await until(async () => (await tasks()).length === 3, 'three tasks');
});

afterAll(async () => {
  await server.stop();
  clear(server.data);
});

describe('a folder of notes', () => {
  it('gives tasks with what stands in the line, parent and child kept; folders and old files are left out', async () => {
    const plans = await named('Find the old plans');
    expect(await named('Photograph section C')).toMatchObject({
      tags: ['site'],
      deadline: '2026-08-10',
      deadlineFixed: true,
      priority: 'high',
    });
    expect(await named('ask the archive')).toMatchObject({ parentId: plans?.id });
    expect(read('Private/Garden.md')).toBe('- [ ] Prune the plum\n');
  });

  it('writes a hidden name into each line and changes nothing else', () => {
    const text = read('Boardwalk.md');
    expect(text.match(/ <!--corvun:[a-z0-9]{8}-->/g)).toHaveLength(3);
    expect(text.replace(/ <!--corvun:[a-z0-9]+-->/g, '')).toBe(NOTE);
  });

  it('done here is done there, with its day, and taken back is taken back', async () => {
    const before = read('Boardwalk.md');
    const photo = await named('Photograph section C');
    await maren.patch(`/tasks/${photo?.id}`, { status: 'COMPLETED' });
    await until(
      () =>
        Promise.resolve(
          read('Boardwalk.md').includes('- [x] Photograph section C #site {due 2026-08-10 | high | done 2026-08-03}'),
        ),
      'the mark',
    );
    await maren.post('/decisions/undo');
    await until(() => Promise.resolve(read('Boardwalk.md') === before), 'the line as it was, byte for byte');
  });

  it('done there is done here; a new line is a new task; a copied line is another task', async () => {
    const name = /Find the old plans( <!--[^>]+-->)/.exec(read('Boardwalk.md'))?.[1] ?? '';
    write(
      'Boardwalk.md',
      `${read('Boardwalk.md').replace('- [ ] Find', '- [x] Find')}- [ ] Ask for the plans${name}\r\n- [ ] Brand new\r\n`,
    );
    await look();
    expect((await named('Brand new'))?.status).toBe('NEEDS-ACTION');
    expect((await named('Ask for the plans'))?.status).toBe('NEEDS-ACTION');
    const names = [...read('Boardwalk.md').matchAll(/<!--corvun:([a-z0-9]+)-->/g)].map((one) => one[1]);
    expect(new Set(names).size).toBe(names.length);
  });

  it('a line that moves to another file stays the same task', async () => {
    const line = /.*Brand new.*/.exec(read('Boardwalk.md'))?.[0] ?? '';
    const task = await named('Brand new');
    write('Boardwalk.md', read('Boardwalk.md').replace(`${line}\r\n`, ''));
    write('moved.md', `${line}\n`);
    await look();
    await maren.patch(`/tasks/${task?.id}`, { priority: 'high' });
    await until(() => Promise.resolve(read('moved.md').includes('Brand new {high} <!--corvun:')), 'the change in the other file');
    expect((await all()).filter((one) => one.title === 'Brand new')).toHaveLength(1);
  });

  it('a file that changes while it is written is left as it is', async () => {
    const path = join(root, 'race.md');
    write('race.md', 'one\n');
    const seen = hashOf(Buffer.from('one\n'));
    write('race.md', 'two\n');
    expect(await replaceFile(path, seen, 'three\n')).toBe(false);
    expect(read('race.md')).toBe('two\n');
    expect(await replaceFile(path, hashOf(Buffer.from('two\n')), 'three\n')).toBe(true);
    expect(read('race.md')).toBe('three\n');
  });

  it('a note that is not UTF-8 is said so, and the others are read', async () => {
    writeFileSync(join(root, 'latin.md'), Buffer.from('- [ ] Gr\xfcn\n', 'latin1'));
    write('good.md', '- [ ] Read all the same\n');
    await look();
    expect((await info()).problem).toContain('latin.md: The note is not written in UTF-8.');
    expect(await named('Read all the same')).toBeDefined();
    expect(readFileSync(join(root, 'latin.md')).toString('latin1')).toBe('- [ ] Gr\xfcn\n');
  });

  it('only lines with the chosen tag come in, with what stands under them', async () => {
    const other = join(server.data, 'tagged');
    mkdirSync(other);
    writeFileSync(join(other, 'a.md'), '- [ ] With #fen\n  - [ ] under it\n- [ ] Without\n');
    const { body } = await maren.post<{ sentence: string }>('/sources/look', {
      kind: 'notes',
      name: 'Tagged',
      address: other,
      settings: { tag: 'fen' },
    });
    expect(body.sentence).toBe('2 of 3 task lines in 1 note');
  });

  it('does not read folders that the server was not given', async () => {
    for (const address of ['/etc', '/', join(server.data, '..'), join(server.data, 'nowhere')]) {
      const { status } = await maren.post('/sources/look', { kind: 'notes', name: 'x', address });
      expect(status).toBe(502);
    }
  });
});
