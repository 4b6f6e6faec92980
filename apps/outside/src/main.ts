import express, { type Request, type Response } from 'express';
import { simpleParser, type Attachment } from 'mailparser';
import { mkdirSync } from 'node:fs';
import { createServer } from 'node:http';
import type { AddressInfo, Server } from 'node:net';
import { join, resolve } from 'node:path';
import { SMTPServer, type SMTPServerDataStream } from 'smtp-server';
import { LOGIN, account } from './account';
import { calendars } from './calendars';
import { chat } from './chat';
import { iso } from './clock';
import { imapServer } from './imap';
import { escape, layout } from './layout';
import { MailDesk } from './mail';
import { Mailbox } from './mailbox';
import { notes } from './notes';
import { tracker } from './tracker';
import { weather } from './weather';

const wanted = Number(process.env['OUTSIDE_PORT'] ?? 4610);
const after = (name: string, more: number) => Number(process.env[name] ?? (wanted ? wanted + more : 0));
const folder = join(resolve(process.env['CORVUN_DATA'] ?? './data'), 'outside');
mkdirSync(folder, { recursive: true });

/** Listens, on any port where 0 is asked for. Gives the port. */
async function listen(server: Server, port: number): Promise<number> {
  await new Promise<void>((done, fail) => {
    server.once('error', fail);
    server.listen(port, '127.0.0.1', done);
  });
  return (server.address() as AddressInfo).port;
}

/** Takes the mail that Corvun sends. */
function receiver(desk: MailDesk): SMTPServer {
  return new SMTPServer({
    disabledCommands: ['AUTH', 'STARTTLS'],
    logger: false,
    onData: (stream: SMTPServerDataStream, session, done) => {
      simpleParser(stream).then(
        (mail) => {
          const part = mail.attachments.find((one: Attachment) => one.contentType === 'text/calendar');
          const calendar = part ? part.content.toString('utf8') : '';
          desk.receive({
            at: iso(),
            from: mail.from?.text ?? '',
            to: session.envelope.rcptTo.map((one) => one.address).join(', '),
            subject: mail.subject ?? '',
            text: mail.text ?? '',
            messageId: mail.messageId ?? '',
            method: /METHOD:(\w+)/.exec(calendar)?.[1] ?? '',
            calendar,
          });
          done();
        },
        (problem: unknown) => done(problem instanceof Error ? problem : new Error('unreadable')),
      );
    },
  });
}

async function main(): Promise<void> {
  const app = express();
  // The places name their own addresses, so the port is known before they are made.
  const http = createServer(app);
  const port = await listen(http, wanted);
  const address = `http://127.0.0.1:${port}`;
  const mailbox = new Mailbox(folder);
  const imapPort = await listen(imapServer(mailbox, { user: 'maren', password: 'fen-water' }), after('OUTSIDE_IMAP_PORT', 2));
  const desk = new MailDesk(folder, Number(process.env['SMTP_PORT'] ?? 4625), mailbox, imapPort);
  const receivePort = await listen(receiver(desk).server, after('OUTSIDE_SMTP_PORT', 1));
  /** How each place is reached, for whoever connects to it. */
  app.get('/places.json', (_request, response) => {
    response.json([
      { kind: 'mailbox', name: 'Old mailbox', address: `imap://127.0.0.1:${imapPort}`, account: 'maren', secret: 'fen-water' },
      { kind: 'chat', name: 'Team chat', address: `${address}/chat` },
      { kind: 'tracker', name: 'Team tracker', address: `${address}/tracker` },
      { kind: 'notes', name: 'Notes', address: join(folder, 'notes') },
      { kind: 'account', name: 'Office calendars', address: `${address}/account/dav/`, ...LOGIN },
      { kind: 'feed', name: 'County hearings', address: `${address}/calendars/county-hearings.ics` },
      { kind: 'feed', name: 'Choir board', address: `${address}/calendars/choir-board.ics` },
    ]);
  });
  /** Where the Corvun listens that they send mail to, when it was started after them. */
  app.post('/intake', express.urlencoded({ extended: false }), (request: Request, response: Response) => {
    desk.smtpPort = Number((request.body as { port?: string }).port);
    response.redirect(303, '/');
  });
  app.use('/tracker', tracker(folder, address));
  app.use('/chat', chat(folder, address));
  app.use('/calendars', calendars(folder, address));
  const office = account(folder);
  app.use('/account', office.router);
  app.all('/.well-known/caldav', office.wellKnown);
  app.use('/notes', notes(folder));
  app.use('/weather', weather());
  app.get('/web', (_request, response) => {
    const text = 'The ferry takes loads up to 300 kg. Pumps must be drained. Book two days ahead at the landing.';
    response
      .type('html')
      .send(
        layout('Ferry at Lower Fen: loads', `<article><p>${escape(text)}</p><p>An ordinary page to clip from.</p></article>`),
      );
  });
  app.use('/', desk.router());
  app.get('/health', (_request, response) => void response.json({ ok: true }));
  process.stdout.write(`outside on ${address}, mail on ${receivePort}, mailbox on ${imapPort}\n`);
}

for (const signal of ['SIGTERM', 'SIGINT'] as const) process.once(signal, () => process.exit(0));
main().catch((problem: unknown) => {
  process.stderr.write(`${problem instanceof Error ? problem.message : String(problem)}\n`);
  process.exit(1);
});
