import express from 'express';
import { simpleParser, type Attachment } from 'mailparser';
import { mkdirSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { SMTPServer, type SMTPServerDataStream } from 'smtp-server';
import { calendars } from './calendars';
import { chat } from './chat';
import { iso } from './clock';
import { imapServer } from './imap';
import { escape, layout } from './layout';
import { MailDesk } from './mail';
import { Mailbox } from './mailbox';
import { notes } from './notes';
import { tracker } from './tracker';

const port = Number(process.env['OUTSIDE_PORT'] ?? 4610);
const smtpPort = Number(process.env['SMTP_PORT'] ?? 4625);
const receivePort = Number(process.env['OUTSIDE_SMTP_PORT'] ?? port + 1);
const imapPort = Number(process.env['OUTSIDE_IMAP_PORT'] ?? port + 2);
const folder = join(resolve(process.env['CORVUN_DATA'] ?? './data'), 'outside');
const address = `http://127.0.0.1:${port}`;
mkdirSync(folder, { recursive: true });

const mailbox = new Mailbox(folder);
const desk = new MailDesk(folder, smtpPort, mailbox, imapPort);

const app = express();
app.get('/health', (_request, response) => void response.json({ ok: true }));
/** How each place is reached, for whoever connects to it. */
app.get('/places.json', (_request, response) => {
  response.json([
    { kind: 'mailbox', name: 'Old mailbox', address: `imap://127.0.0.1:${imapPort}`, account: 'maren', secret: 'fen-water' },
    { kind: 'chat', name: 'Team chat', address: `${address}/chat` },
    { kind: 'tracker', name: 'Team tracker', address: `${address}/tracker` },
    { kind: 'notes', name: 'Notes', address: join(folder, 'notes') },
    { kind: 'feed', name: 'County hearings', address: `${address}/calendars/county-hearings.ics` },
    { kind: 'feed', name: 'Choir board', address: `${address}/calendars/choir-board.ics` },
  ]);
});
app.use('/tracker', tracker(folder, address));
app.use('/chat', chat(folder, address));
app.use('/calendars', calendars(folder, address));
app.use('/notes', notes(folder));
app.get('/web', (_request, response) => {
  const text = 'The ferry takes loads up to 300 kg. Pumps must be drained. Book two days ahead at the landing.';
  response
    .type('html')
    .send(layout('Ferry at Lower Fen: loads', `<article><p>${escape(text)}</p><p>An ordinary page to clip from.</p></article>`));
});
app.use('/', desk.router());

const receiver = new SMTPServer({
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

receiver.listen(receivePort, '127.0.0.1');
const imap = imapServer(mailbox, { user: 'maren', password: 'fen-water' }).listen(imapPort, '127.0.0.1');
for (const server of [receiver, imap])
  server.on('error', (problem: Error) => {
    process.stderr.write(`${problem.message}\n`);
    process.exit(1);
  });
app.listen(port, '127.0.0.1', () => process.stdout.write(`outside on ${address}\n`));
