import { database, Caller, clear, multipart, startServer, until, type Page, type Running } from './harness';

interface Info {
  id: string;
  state: string;
  taken: number;
  updated: number;
  known: number;
  refusedCount: number;
  refused: { file: string; at: string; reason: string }[];
  problem: string;
  table: { columns: string[]; rows: string[][]; guess: string[] } | null;
  done: number;
  total: number;
}
interface Report {
  taken: number;
  updated: number;
  known: number;
  refused: { file: string; at: string; reason: string }[];
}

let server: Running;
let maren: Caller;

const take = async (name: string, bytes: Buffer | string) => (await maren.post<Report>('/import', multipart(name, bytes))).body;
const begin = async (name: string, bytes: Buffer | string) =>
  (await maren.post<Info[]>('/imports', multipart(name, bytes))).body[0] as Info;
const ended = (id: string) =>
  until(async () => {
    const { body } = await maren.get<Info>(`/imports/${id}`);
    return body.state === 'running' ? null : body;
  }, 'the end of the import');
const tasks = async () =>
  (
    await maren.get<
      { id: string; title: string; deadline: string | null; estimate: number | null; priority: string; tags: string[] }[]
    >('/tasks')
  ).body;

const event = (uid: string, title: string, more = '') =>
  `BEGIN:VEVENT\r\nUID:${uid}\r\nDTSTAMP:20260801T080000Z\r\nDTSTART:20260804T080000Z\r\nDTEND:20260804T090000Z\r\nSUMMARY:${title}\r\n${more}END:VEVENT\r\n`;
const calendar = (...parts: string[]) => `BEGIN:VCALENDAR\r\nVERSION:2.0\r\n${parts.join('')}END:VCALENDAR\r\n`;
const letter = (at: number) =>
  `From x Mon Aug  3 10:00:00 2026\nFrom: Tomas Rieger <tomas.rieger@county-water.example>\nMessage-ID: <box-${at}@county-water.example>\nDate: Mon, 03 Aug 2026 10:00:00 +0200\nSubject: Letter ${at}\n\nText ${at}\n\n`;

beforeAll(async () => {
  server = await startServer('empty');
  maren = new Caller(server.url);
  await maren.post('/account', { name: 'Maren Holt', email: 'maren.holt@alderfen.example', password: 'ten letters at least' });
});

afterAll(async () => {
  await server.stop();
  clear(server.data);
});

describe('files', () => {
  it('.ics: events and tasks, each once; a newer one updates, an older one does not', async () => {
    const todo = 'BEGIN:VTODO\r\nUID:t1\r\nSUMMARY:Buy hose\r\nDUE;VALUE=DATE:20260806\r\nPRIORITY:1\r\nEND:VTODO\r\n';
    expect(await take('a.ics', calendar(event('e1', 'Walk'), event('e2', 'Talk', 'SEQUENCE:2\r\n'), todo))).toMatchObject({
      taken: 3,
      updated: 0,
      known: 0,
      refused: [],
    });
    expect(
      await take(
        'a.ics',
        calendar(event('e1', 'Longer walk'), event('e2', 'Older talk', 'SEQUENCE:1\r\n'), todo.replace('hose', 'a hose')),
      ),
    ).toMatchObject({ taken: 0, updated: 2, known: 1, refused: [] });
    expect((await tasks()).map((one) => [one.title, one.deadline, one.priority])).toEqual([['Buy a hose', '2026-08-06', 'high']]);
    const { entries } = (await maren.get<{ entries: { title: string }[] }>('/agenda?from=2026-08-04')).body;
    expect(entries.map((one) => one.title).sort()).toEqual(['Longer walk', 'Talk']);
  });

  it('.ics: what cannot be kept is said with its place; two components with one UID are one', async () => {
    const report = await take(
      'b.ics',
      calendar(
        event('s', 'Every second', 'RRULE:FREQ=SECONDLY\r\n'),
        event('u', 'One'),
        event('u', 'Two'),
        'BEGIN:VEVENT\r\nUID:n\r\nSUMMARY:No start\r\nEND:VEVENT\r\n',
      ),
    );
    expect(report).toMatchObject({ taken: 1, updated: 1 });
    expect(report.refused.map((one) => `${one.at}: ${one.reason}`)).toEqual([
      'line 25: It does not say when it begins.',
      'Every second: It repeats every second or minute, which no calendar can show.',
    ]);
    expect((await take('c.ics', '<html>sign in</html>')).refused).toEqual([
      { file: 'c.ics', at: '', reason: 'This is not an iCalendar file: there is no calendar in it.' },
    ]);
  });

  it('.vcf: people, found again by address', async () => {
    const card = 'BEGIN:VCARD\r\nVERSION:4.0\r\nFN:Tomas Rieger\r\nEMAIL:tomas.rieger@county-water.example\r\nEND:VCARD\r\n';
    expect(await take('p.vcf', card)).toMatchObject({ taken: 1 });
    expect(await take('p.vcf', card.replace('END:', 'TEL:+43 1 00\r\nEND:'))).toMatchObject({ taken: 0, updated: 1, known: 0 });
    expect(await take('p.vcf', card)).toMatchObject({ known: 1 });
  });

  it('.csv: shows its columns before anything is written, and takes rows by the user’s mapping', async () => {
    const text =
      'What;Until;Min;Project\nPaint the hut;14.08.2026;90;Boardwalk\nOil the tools;someday;10;Boardwalk\n;;;\nSort screws;2026-08-20;1:30;Boardwalk\n';
    const run = await begin('list.csv', Buffer.from(`\uFEFF${text}`, 'utf16le'));
    expect(run).toMatchObject({
      state: 'columns',
      taken: 0,
      table: { columns: ['What', 'Until', 'Min', 'Project'], guess: ['title', 'skip', 'skip', 'list'] },
    });
    const count = (await tasks()).length;
    const wrong = await maren.post<{ error: { message: string } }>(`/imports/${run.id}/columns`, {
      columns: ['skip', 'skip', 'skip', 'skip'],
    });
    expect([wrong.status, wrong.body.error.message]).toEqual([422, 'Say which column holds the title.']);
    await maren.post(`/imports/${run.id}/columns`, { columns: ['title', 'deadline', 'estimate', 'list'] });
    const done = await ended(run.id);
    expect(done).toMatchObject({ state: 'done', taken: 2, refusedCount: 2, done: done.total });
    expect(done.refused.map((one) => `${one.at}: ${one.reason}`)).toEqual([
      'row 3: “someday” is not a date.',
      'row 4: It has no title.',
    ]);
    expect((await tasks()).length).toBe(count + 2);
    expect((await tasks()).find((one) => one.title === 'Sort screws')).toMatchObject({ deadline: '2026-08-20', estimate: 90 });
  });

  it('.csv: what was changed here stays when the same table comes again with other changes', async () => {
    const text = (due: string) => `id,title,due date,minutes\n7,Fix the pump,${due},30\n`;
    expect(await take('t.csv', text('2026-08-10'))).toMatchObject({ taken: 1 });
    const task = (await tasks()).find((one) => one.title === 'Fix the pump');
    await maren.patch(`/tasks/${task?.id}`, { title: 'Fix pump 2' });
    expect(await take('t.csv', text('2026-08-12'))).toMatchObject({ updated: 1 });
    expect((await tasks()).find((one) => one.id === task?.id)).toMatchObject({ title: 'Fix pump 2', deadline: '2026-08-12' });
  });

  it('.md: its task lines', async () => {
    expect(await take('n.md', '# Hut\n- [ ] Air the hut #site {by 2026-08-09}\n- [x] Sweep\n')).toMatchObject({ taken: 2 });
    expect(await take('n.md', '# Hut\n- [ ] Air the hut #site {by 2026-08-09}\n')).toMatchObject({ taken: 0, known: 1 });
    expect((await take('m.md', 'only words')).refused[0]?.reason).toBe('There is no task line in this note.');
  });

  it('a truncated mbox gives what is whole, the rest is read as far as it goes', async () => {
    const text = letter(1) + letter(2) + letter(3);
    const report = await take('box.mbox', text.slice(0, text.lastIndexOf('Subject')));
    expect(report.taken + report.refused.length).toBe(3);
    expect((await maren.get<Page>('/incoming')).body.items.map((one) => one.subject)).toEqual(
      expect.arrayContaining(['Letter 1', 'Letter 2']),
    );
  });

  it('can be stopped and gone on with; nothing comes twice', async () => {
    const total = (await maren.get<Page>('/incoming')).body.total;
    const run = await begin('many.mbox', Array.from({ length: 240 }, (_, at) => letter(1000 + at)).join(''));
    await until(async () => (await maren.get<Info>(`/imports/${run.id}`)).body.taken > 0, 'the first letters');
    const stopped = (await maren.post<Info>(`/imports/${run.id}/stop`)).body;
    if (stopped.state === 'stopped') {
      expect(stopped.taken).toBeLessThan(240);
      await maren.post(`/imports/${run.id}/resume`);
    }
    const done = await ended(run.id);
    expect([done.state, done.taken + done.known]).toEqual(['done', 240]);
    expect((await maren.get<Page>('/incoming')).body.total).toBe(total + 240);
  });

  it('what was going on when the server ended goes on when it starts again', async () => {
    const run = await begin('later.csv', 'title\nAfter the crash\n');
    await database(server).query("UPDATE import_run SET state = 'running', columns = ? WHERE id = ?", ['["title"]', run.id]);
    await server.stop();
    server = await startServer('empty', server.data);
    maren = new Caller(server.url);
    await maren.post('/session', { email: 'maren.holt@alderfen.example', password: 'ten letters at least' });
    expect(await ended(run.id)).toMatchObject({ state: 'done', taken: 1 });
    expect((await maren.call('DELETE', `/api/imports/${run.id}`)).status).toBe(204);
    expect((await maren.get(`/imports/${run.id}`)).status).toBe(404);
  });

  it('a kind that cannot be read is said so, and a name cannot lead out of the folder', async () => {
    expect((await take('../../x.exe', 'MZ')).refused).toEqual([
      { file: 'x.exe', at: '', reason: 'Files ending in .exe cannot be read; .eml, .mbox, .ics, .vcf, .csv and .md can.' },
    ]);
    expect((await take('wide.csv', `${'a,'.repeat(50_000)}\n`)).refused[0]?.reason).toBe('The table has more than 200 columns.');
  });
});
