import { spawn, type ChildProcess } from 'node:child_process';
import { chmodSync, chownSync, existsSync, mkdirSync, readFileSync, readdirSync, writeFileSync } from 'node:fs';
import { tmpdir, userInfo } from 'node:os';
import { join } from 'node:path';
import { type Outside, clear, sendMail, until, withOutside, type Caller, type Line, type Page, type Running } from './harness';
import { freePort } from '../../../testing/free-port';

interface Full extends Line {
  sourceName: string;
  joinedTo: string | null;
  joined: object[];
  thread: { state: string; made: object[] }[];
}
interface Info {
  id: string;
  problem: string;
  progress: unknown;
  lastSuccess: string | null;
}
interface Look {
  sentence: string;
  choices: { id: string; chosen: boolean }[];
}

let server: Running;
let outside: Outside;
let maren: Caller;
let id: string;

const inbox = async () => (await maren.get<Page>('/incoming?limit=200')).body.items as Full[];
const subjects = async () => (await inbox()).map((one) => one.subject).sort();
const info = async () => (await maren.get<Info>(`/sources/${id}`)).body;
const look = async () => {
  await maren.post(`/sources/${id}/run`);
  await until(async () => (await info()).progress === null, 'the end of the look');
};
const box = (more: object = {}) => ({
  kind: 'mailbox',
  name: 'Office mail',
  address: `imap://127.0.0.1:${outside.imapPort}`,
  account: 'maren',
  secret: 'fen-water',
  ...more,
});

beforeAll(async () => {
  ({ server, outside, maren } = await withOutside());
});

afterAll(async () => {
  await server.stop();
  outside.stop();
  clear(server.data);
});

describe('a mailbox over IMAP, at the stand-in', () => {
  it('shows its folders and what would come; a wrong password is said so', async () => {
    const { body } = await maren.post<Look>('/sources/look', box());
    expect(body.choices.filter((one) => one.chosen).map((one) => one.id)).toEqual(['INBOX']);
    expect(body.sentence).toBe('2 of 5 messages: in your folders, of the last 30 days');
    const wrong = await maren.post<{ error: { message: string } }>('/sources/look', box({ secret: 'wrong' }));
    expect([wrong.status, wrong.body.error.message]).toEqual([502, 'Office mail does not accept the name and password.']);
  });

  it('brings in the chosen folders once; deleted mail and what the user sent stay out', async () => {
    id = (await maren.post<Info>('/sources', box({ settings: { folders: ['INBOX', 'Boardwalk', 'Sent'], moveTo: 'Decided' } })))
      .body.id;
    await until(async () => (await info()).lastSuccess, 'a first look');
    expect(await subjects()).toEqual(['Ditch again', 'Nets for the pond day', 'Screws']);
    await outside.act('/mail/box', {
      from: 'Pia Keller <pia.keller@alderfen.example>',
      subject: 'Keys',
      text: 'Please bring the keys.',
    });
    await look();
    expect(await subjects()).toEqual(['Ditch again', 'Keys', 'Nets for the pond day', 'Screws']);
    expect((await inbox())[0]?.sourceName).toBe('Office mail');
  });

  it('a decided mail moves to the user’s folder, and taken back it moves back', async () => {
    const nets = (await inbox()).find((one) => one.subject === 'Nets for the pond day');
    const folder = async (name: string) =>
      ((await outside.state<{ folders: Record<string, { subject: string }[]> }>('mail')).folders[name] ?? []).map(
        (one) => one.subject,
      );
    await maren.post('/decisions', { incoming: [nets?.id], to: 'drop' });
    await until(async () => (await folder('Decided')).includes('Nets for the pond day'), 'the mail in the folder');
    await maren.post('/decisions/undo');
    await until(async () => (await folder('INBOX')).includes('Nets for the pond day'), 'the mail back');
    await look();
    expect((await subjects()).filter((one) => one === 'Nets for the pond day')).toHaveLength(1);
  });

  it('the same message sent to the capture address too is joined, with both originals', async () => {
    const [first] = await inbox();
    const original = await maren.get<string>(`/incoming/${first?.id}/original`);
    await sendMail(server.smtpPort, { to: 'maren.holt@alderfen.example', raw: String(original.body) });
    const { body } = await maren.get<Full>(`/incoming/${first?.id}`);
    expect(body.joined).toHaveLength(1);
    expect((await inbox()).length).toBe(4);
  });

  it('a mail that belongs to a decided thread says what came of it', async () => {
    const keys = (await inbox()).find((one) => one.subject === 'Keys');
    const { body } = await maren.get<string>(`/incoming/${keys?.id}/original`);
    const messageId = /Message-ID: (<[^>]+>)/i.exec(String(body))?.[1] ?? '';
    await maren.post('/decisions', { incoming: [keys?.id], to: 'shelf' });
    await sendMail(server.smtpPort, {
      to: 'maren.holt@alderfen.example',
      raw: `From: Pia <pia.keller@alderfen.example>\r\nSubject: Re: Keys\r\nReferences: ${messageId}\r\nDate: Mon, 03 Aug 2026 10:00:00 +0200\r\n\r\nAlso the spare one.\r\n`,
    });
    const reply = (await inbox()).find((one) => one.subject === 'Re: Keys');
    const { body: shown } = await maren.get<Full>(`/incoming/${reply?.id}`);
    expect(shown.thread).toMatchObject([{ state: 'decided', made: [{ kind: 'task' }] }]);
  });

  it('the password is not in the database, nor given out', async () => {
    const { body } = await maren.get<object>(`/sources/${id}`);
    expect(JSON.stringify(body)).not.toContain('fen-water');
    expect(body).toMatchObject({ hasSecret: true });
    for (const name of readdirSync(server.data).filter((one) => one.includes('.sqlite')))
      expect(readFileSync(join(server.data, name)).includes('fen-water')).toBe(false);
  });
});

const NOBODY = 65534;
const DOVECOT = '/usr/sbin/dovecot';
/** Debian's dovecot-imapd; `npm test` installs it where it is missing and this user may. */
const real = existsSync(DOVECOT) ? describe : describe.skip;

real('a mailbox at a real IMAP server', () => {
  let dovecot: ChildProcess;
  let port: number;
  const home = join(tmpdir(), `corvun-dovecot-${process.pid}`);

  beforeAll(async () => {
    port = await freePort();
    const { username } = userInfo();
    mkdirSync(join(home, 'run'), { recursive: true });
    mkdirSync(join(home, 'mail'), { recursive: true });
    const root = process.getuid?.() === 0;
    // Mail is never delivered as root.
    const [uid, gid] = root ? [NOBODY, NOBODY] : [process.getuid?.(), process.getgid?.()];
    if (root) chownSync(join(home, 'mail'), NOBODY, NOBODY);
    writeFileSync(join(home, 'users'), `maren:{PLAIN}fen-water:${uid}:${gid}::${home}/mail\n`);
    const block = (name: string, ...lines: string[]) => [`${name} {`, ...lines, '}'];
    const settings = [
      `base_dir = ${home}/run`,
      `log_path = ${home}/log`,
      'protocols = imap',
      'ssl = no',
      'disable_plaintext_auth = no',
      'first_valid_uid = 0',
      'first_valid_gid = 0',
      `mail_location = maildir:${home}/mail`,
      // The login process refuses to be root; the package brings users of its own for that.
      ...(root
        ? ['default_internal_user = dovecot', 'default_internal_group = dovecot', 'default_login_user = dovenull']
        : ['default_internal_user', 'default_internal_group', 'default_login_user'].map((name) => `${name} = ${username}`)),
      ...block('service anvil', 'chroot ='),
      ...block(
        'service imap-login',
        'chroot =',
        ...block('inet_listener imap', 'address = 127.0.0.1', `port = ${port}`),
        ...block('inet_listener imaps', 'port = 0'),
      ),
      ...['passdb', 'userdb'].flatMap((name) => block(name, 'driver = passwd-file', `args = ${home}/users`)),
    ];
    writeFileSync(join(home, 'dovecot.conf'), `${settings.join('\n')}\n`);
    chmodSync(home, 0o755);
    dovecot = spawn(DOVECOT, ['-F', '-c', join(home, 'dovecot.conf')], { stdio: 'ignore' });
    const { ImapFlow } = await import('imapflow');
    await until(async () => {
      const client = new ImapFlow({
        host: '127.0.0.1',
        port,
        secure: false,
        auth: { user: 'maren', pass: 'fen-water' },
        logger: false,
      });
      client.on('error', () => undefined);
      try {
        await client.connect();
        const letter = (n: number, flags: string[]) =>
          client.append(
            'INBOX',
            `From: Tomas Rieger <tomas.rieger@county-water.example>\r\nTo: maren.holt@alderfen.example\r\nSubject: Gauge ${n}\r\nMessage-ID: <gauge-${n}@county-water.example>\r\nDate: Mon, 03 Aug 2026 09:00:00 +0200\r\n\r\nPlease send the readings of gauge ${n} by Friday.\r\n`,
            flags,
            new Date('2026-08-03T07:00:00Z'),
          );
        for (let n = 1; n <= 90; n += 1)
          await letter(n, n === 7 ? ['\\Deleted'] : n === 8 ? ['\\Draft'] : n === 9 ? ['\\Seen'] : []);
        await client.mailboxCreate('Done');
        await client.logout();
        return true;
      } catch {
        client.close();
        return false;
      }
    }, 'the IMAP server');
  });

  afterAll(() => {
    dovecot.kill('SIGTERM');
    clear(home);
  });

  it('brings in page after page, respects flags, and moves what was decided', async () => {
    const input = {
      kind: 'mailbox',
      name: 'Real',
      address: `imap://127.0.0.1:${port}`,
      account: 'maren',
      secret: 'fen-water',
      settings: { unreadOnly: true, moveTo: 'Done' },
    };
    expect((await maren.post<Look>('/sources/look', input)).body.sentence).toBe(
      '87 of 90 messages: in your folders, of the last 30 days',
    );
    const source = (await maren.post<Info>('/sources', input)).body.id;
    const ready = async () =>
      (await maren.get<Info>(`/sources/${source}`)).body.progress === null
        ? (await inbox()).filter((one) => one.sourceName === 'Real')
        : [];
    const lines = await until(async () => ((await ready()).length === 87 ? ready() : null), 'all that is unread');
    await maren.post('/decisions', { incoming: [lines[0]?.id], to: 'drop' });
    const { ImapFlow } = await import('imapflow');
    const client = new ImapFlow({
      host: '127.0.0.1',
      port,
      secure: false,
      auth: { user: 'maren', pass: 'fen-water' },
      logger: false,
    });
    await client.connect();
    await until(async () => {
      const status = await client.status('Done', { messages: true });
      return status && status.messages === 1;
    }, 'the decided mail in its folder');
    await client.logout();
  });
});
