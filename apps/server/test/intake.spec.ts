import { Caller, ServerProcess, clear, multipart, sendMail, startServer, type Page, type Running } from './harness';
import { demoFolder } from '../../../testing/server';

const TO = 'maren.holt@capture.example';
const raw = (head: string, body: string) =>
  `From: X <x@y.example>\r\nMessage-ID: <${Math.abs(head.length * 7919 + body.length)}.${head.slice(9, 17).replace(/\W/g, '')}@y.example>\r\n${head}\r\n\r\n${body}`;

describe('mail intake', () => {
  let server: Running;
  let maren: Caller;
  beforeAll(async () => {
    server = await startServer('demo');
    maren = new Caller(server.url);
    await maren.post('/session/demo');
  });
  afterAll(async () => {
    await server.stop();
    clear(server.data);
  });
  const total = async () => (await maren.get<Page>('/incoming')).body.total;
  const newest = async () => (await maren.get<Page>('/incoming?order=newest&limit=1')).body.items[0];

  it('answers each kind of bad mail clearly, loses nothing else, and goes on', async () => {
    const before = await total();
    expect(
      await sendMail(server.smtpPort, { to: TO, raw: raw('Subject: large', 'x'.repeat(78).concat('\r\n').repeat(760_000)) }),
    ).toMatch(/552|larger than 50 MB|exceeds/i);
    expect(await sendMail(server.smtpPort, { to: 'nobody@capture.example', text: 'x' })).toMatch(/550|No user/);
    expect(await sendMail(server.smtpPort, { to: TO, raw: '\r\n' })).toMatch(/554|empty/i);
    const parts = Array.from({ length: 200 }, (_, at) => `Content-Type: multipart/mixed; boundary=b${at}\r\n\r\n--b${at}`).join(
      '\r\n',
    );
    expect(await sendMail(server.smtpPort, { to: TO, raw: `Subject: deep\r\nMIME-Version: 1.0\r\n${parts}` })).toMatch(/^250/);
    expect(
      await sendMail(server.smtpPort, {
        to: TO,
        raw: Buffer.from(raw('Subject: charset\r\nContent-Type: text/plain; charset=nonsense-9', 'caf\u00e9'), 'latin1'),
      }),
    ).toMatch(/^250/);
    expect(await sendMail(server.smtpPort, { to: TO, raw: raw('Subject: no date', 'When?') })).toMatch(/^250/);
    expect(await total()).toBe(before + 3);
  });

  it('takes the same message once', async () => {
    const message = raw('Subject: once', 'Could you call?');
    await sendMail(server.smtpPort, { to: TO, raw: message });
    const before = await total();
    expect(await sendMail(server.smtpPort, { to: TO, raw: message })).toMatch(/^250/);
    expect(await total()).toBe(before);
    expect((await maren.post('/import', multipart('again.eml', message))).body).toEqual({
      taken: 0,
      updated: 0,
      known: 1,
      refused: [],
    });
  });

  it('serves attachments that could run only as files to save', async () => {
    const body =
      '--b\r\nContent-Type: text/plain\r\n\r\nsee\r\n--b\r\nContent-Type: text/html; name="x.html"\r\nContent-Disposition: attachment; filename="x.html"\r\n\r\n<script>alert(1)</script>\r\n--b\r\nContent-Type: image/svg+xml; name="x.svg"\r\nContent-Disposition: attachment; filename="x.svg"\r\n\r\n<svg/>\r\n--b--\r\n';
    await sendMail(server.smtpPort, {
      to: TO,
      raw: raw('Subject: files\r\nMIME-Version: 1.0\r\nContent-Type: multipart/mixed; boundary=b', body),
    });
    const line = await newest();
    const { attachmentList } = (await maren.get<{ attachmentList: { url: string }[] }>(`/incoming/${line?.id}`)).body;
    expect(attachmentList).toHaveLength(2);
    for (const { url } of attachmentList) {
      const { headers } = await maren.call('GET', url);
      expect([
        headers.get('content-type'),
        headers.get('x-content-type-options'),
        headers.get('content-disposition')?.slice(0, 10),
        headers.get('content-security-policy'),
      ]).toEqual(['application/octet-stream', 'nosniff', 'attachment', expect.stringContaining('sandbox') as string]);
    }
  });

  it('reports of every file what was taken, known and refused, and why', async () => {
    const box = `From a Mon\r\n${raw('Subject: box one', 'one')}\r\n\r\nFrom b Tue\r\n${raw('Subject: box two!', 'two')}\r\n\r\nFrom c Wed\r\nno header here\r\n\r\n`;
    const form = multipart('mail.mbox', box);
    for (const [name, text] of [
      ['empty.eml', ''],
      ['notes.docx', 'x'],
      ['words.eml', 'just words\n\nx'],
    ] as const)
      form.append('files', new Blob([text]), name);
    const { body } = await maren.post<{ taken: number; refused: { file: string; at: string; reason: string }[] }>(
      '/import',
      form,
    );
    expect(body.taken).toBe(2);
    expect(body.refused.map((one) => [one.file, one.at])).toEqual([
      ['mail.mbox', 'message 3'],
      ['empty.eml', ''],
      ['notes.docx', ''],
      ['words.eml', ''],
    ]);
    expect(body.refused[1]?.reason).toBe('The file is empty: there is no message in it.');
  });

  it('pages through a long inbox by cursor without losing or doubling any', async () => {
    const seen: string[] = [];
    let cursor = '';
    do {
      const page: Page = (await maren.get<Page>(`/incoming?limit=7${cursor ? `&cursor=${cursor}` : ''}`)).body;
      seen.push(...page.items.map((line) => line.id));
      cursor = page.next ?? '';
    } while (cursor);
    expect(seen.length).toBe(await total());
    expect(new Set(seen).size).toBe(seen.length);
  });
});

describe('a server that is killed', () => {
  let server: ServerProcess | undefined;
  afterEach(() => server?.kill());

  async function run(data: string): Promise<Caller> {
    server = await ServerProcess.start(data, { CORVUN_DEMO: '1' });
    const caller = new Caller(server.url);
    await caller.post('/session/demo');
    return caller;
  }

  it('has kept everything it acknowledged', async () => {
    const data = demoFolder();
    const before = await run(data);
    const smtpPort = server?.smtpPort ?? 0;
    const acknowledged: string[] = [];
    const sending = (async () => {
      for (let at = 0; at < 400; at += 1) {
        const answer = await sendMail(smtpPort, { to: TO, raw: raw(`Subject: kill ${at}`, `number ${at} ${'y'.repeat(at)}`) });
        if (!/^250/.test(answer)) return;
        acknowledged.push(`kill ${at}`);
      }
    })();
    const captured = await before.post<{ id: string }>('/captures', { text: 'kept thought' });
    while (acknowledged.length < 25) await new Promise((resolve) => setTimeout(resolve, 5));
    await server?.kill();
    await sending;
    const after = await run(data);
    const { items } = (await after.get<Page>('/incoming?limit=500')).body;
    const subjects = items.map((line) => line.subject);
    expect(acknowledged.filter((subject) => !subjects.includes(subject))).toEqual([]);
    expect(new Set(subjects.filter((subject) => subject.startsWith('kill'))).size).toBe(
      subjects.filter((subject) => subject.startsWith('kill')).length,
    );
    expect(items.some((line) => line.id === captured.body.id)).toBe(true);
    expect((await after.get(`/incoming/${items.find((line) => line.subject === acknowledged[20])?.id}/original`)).status).toBe(
      200,
    );
    clear(data);
  });
});
