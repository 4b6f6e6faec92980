import type { MailWayInfo, Me, OutboxInfo } from '@corvun/contract';
import { readFileSync, readdirSync } from 'node:fs';
import { createServer, type AddressInfo, type Server } from 'node:net';
import { join } from 'node:path';
import { freePort } from '../../../testing/free-port';
import { MailDesk } from '../../../testing/mail-desk';
import { until } from '../../../testing/until';
import { Caller, firstAccount, sendMail, startServer, type Page, type Running } from './harness';

const PASSWORD = 'sedge-and-sallow';

const listening = (server: Server): Promise<number> =>
  new Promise((resolve) => server.listen(0, '127.0.0.1', () => resolve((server.address() as AddressInfo).port)));

describe('how mail leaves', () => {
  let server: Running;
  let maren: Caller;
  const desk = new MailDesk(PASSWORD);
  const way = (more: object = {}) => ({
    host: '127.0.0.1',
    port: desk.port,
    security: 'none',
    user: 'maren',
    secret: PASSWORD,
    ...more,
  });
  const set = (more: object = {}) => maren.call('PUT', '/api/settings/mail-way', way(more));
  const asked = async () => (await maren.get<Page>('/incoming')).body.items.find(({ subject }) => subject === 'The boat');

  beforeAll(async () => {
    await desk.open();
    server = await startServer('empty', undefined, { CORVUN_MAIL_OUT: '', CORVUN_ALLOW_PRIVATE: '1' });
    maren = await firstAccount(server);
    const { captureAddress } = (await maren.get<Me>('/me')).body;
    await sendMail(server.smtpPort, { to: captureAddress, subject: 'The boat', text: 'Can we take the boat on Friday?' });
    await until(asked, 'the message arrives');
  });
  afterAll(async () => {
    await server.stop();
    desk.close();
  });

  it('what somebody writes is refused while it has no way out, and nothing else happens', async () => {
    expect((await maren.get<Me>('/me')).body.mailOut).toBe(false);
    const incoming = (await asked())?.id ?? '';
    const decision = { incoming: [incoming], to: 'done', minutes: 2, mail: { kind: 'reply', text: 'Yes, from nine.' } };
    const answers = [
      await maren.post('/decisions', decision),
      await maren.post(`/incoming/${incoming}/reply`, { text: 'Yes, from nine.' }),
      await maren.post('/settings/test-mail'),
    ];
    expect(answers.map(({ status, body }) => [status, (body['error'] as { code: string }).code])).toEqual(
      Array(3).fill([409, 'no-way-out']),
    );
    expect(await asked()).toBeDefined();
    expect((await maren.get<OutboxInfo[]>('/outbox')).body).toEqual([]);
  });

  it('a mail that Corvun writes waits, and the doing says so', async () => {
    const made = await maren.post('/events', {
      ...{ title: 'Boat inspection', start: '2026-08-05T09:00', end: '2026-08-05T10:00' },
      ...{ guests: ['tomas.rieger@county-water.example'], tell: '' },
    });
    expect(made.body['sentence']).toMatch(/; the mail waits, as mail has no way out yet$/);
  });

  it('a way is taken only after the server there was spoken to, and its password is shown to nobody', async () => {
    const refused = await set({ secret: 'willow' });
    expect([refused.status, (refused.body['error'] as { message: string }).message]).toEqual([
      502,
      '127.0.0.1 does not accept the name and password.',
    ]);
    expect((await set({ port: await freePort() })).status).toBe(502);
    expect((await maren.get<MailWayInfo>('/settings/mail-way')).body).toEqual({ own: null, ofServer: false });
    expect((await set()).body['sentence']).toBe('Mail leaves by 127.0.0.1 now');
    const { body: info } = await maren.get<MailWayInfo>('/settings/mail-way');
    expect(info.own).toEqual({ host: '127.0.0.1', port: desk.port, security: 'none', user: 'maren', hasSecret: true });
    for (const file of readdirSync(server.data).filter((name) => name.startsWith('corvun.')))
      expect(readFileSync(join(server.data, file)).includes(PASSWORD)).toBe(false);
    const { body: taken } = await maren.get<string>('/data/export');
    expect(JSON.stringify(taken)).not.toContain(PASSWORD);
    expect((await maren.get<Me>('/me')).body.mailOut).toBe(true);
    // What is kept is enough for another port of the same server, and for no other.
    expect((await set({ secret: undefined })).status).toBe(200);
    expect((await set({ secret: undefined, user: 'eve' })).status).toBe(502);
  });

  it('a test mail goes at once, and what waited goes, too', async () => {
    const { body } = await maren.post('/settings/test-mail');
    expect(body['sentence']).toBe('127.0.0.1 has taken the test mail to maren@alderfen.example');
    expect(desk.taken.join()).toContain('Subject: A test from Corvun');
    const waited = () => desk.taken.find((mail) => mail.includes('Boat inspection'));
    await until(() => Promise.resolve(waited()), 'the invitation that waited');
    const sent = async () => (await maren.get<OutboxInfo[]>('/outbox')).body.find(({ state }) => state === 'sent');
    expect((await until(sent, 'it is sent')).what).toContain('Boat inspection');
  });

  it('taken back in the moment in which it is handed over, it is said to have gone out; before that it does not go', async () => {
    const incoming = (await asked())?.id ?? '';
    const decision = { incoming: [incoming], to: 'done', minutes: 2, mail: { kind: 'reply', text: 'Yes, from nine.' } };
    const replies = () => desk.taken.filter((mail) => mail.includes('Yes, from nine.')).length;
    await maren.post('/decisions', decision);
    const held = await maren.post('/decisions/undo');
    expect(held.body['sentence']).not.toContain('gone out');
    expect(await asked()).toBeDefined();

    let release = () => {};
    desk.held = new Promise((resolve) => (release = resolve));
    await maren.post('/decisions', decision);
    const [waiting] = (await maren.get<OutboxInfo[]>('/outbox')).body;
    await maren.post(`/outbox/${waiting?.id}/now`);
    await until(() => Promise.resolve(replies()), 'the reply is handed over');
    const late = await maren.post('/decisions/undo');
    release();
    expect(late.body['sentence']).toMatch(/; the mail has gone out$/);
    expect(await asked()).toBeDefined();
    const entry = async () => (await maren.get<OutboxInfo[]>('/outbox')).body.find(({ id }) => id === waiting?.id);
    await until(async () => (await entry())?.state === 'sent', 'it is told as sent');
    expect(replies()).toBe(1);
  });

  it('is set by nobody but who is signed in, and taken away again', async () => {
    const { token } = (await maren.post<{ token: string }>('/tokens', { name: 'program', may: 'account' })).body;
    const program = new Caller(server.url, { Authorization: `Bearer ${token}` });
    expect((await program.get('/settings/mail-way')).status).toBe(403);
    expect((await program.call('PUT', '/api/settings/mail-way', way())).status).toBe(403);
    expect((await maren.remove('/settings/mail-way')).body['sentence']).toBe('Mail has no way out any more');
    expect((await maren.get<Me>('/me')).body.mailOut).toBe(false);
  });

  it('a password goes to no foreign server in the open', async () => {
    const { status, body } = await set({ host: '198.20.0.7' });
    expect([status, Object.keys((body['error'] as { fields: object }).fields)]).toEqual([422, ['security']]);
  });

  it('a server that talks without end is left', async () => {
    const flood = createServer((line) => {
      line.on('error', () => undefined);
      const more = () => {
        while (!line.destroyed && line.write('2'.repeat(65_536)));
      };
      line.on('drain', more);
      more();
    });
    const at = await listening(flood);
    const { status, body } = await set({ port: at });
    expect([status, (body['error'] as { message: string }).message]).toEqual([502, '127.0.0.1 talks without end.']);
    flood.close();
  });
});
