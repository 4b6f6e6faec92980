import express, { Router, type NextFunction, type Request, type Response } from 'express';
import multer from 'multer';
import { join } from 'node:path';
import { iso, workday } from './clock';
import { invitationText, type Invited } from './invitation';
import { button, escape, layout } from './layout';
import { LETTERS, MAREN } from './letters';
import type { Mailbox } from './mailbox';
import { sendLetter, type Sent } from './send';
import { Store } from './store';

const MOST_KEPT = 30;
const MAX_FILE = 40 * 1024 * 1024;

/** A mail that Corvun sent out into the world. */
export interface Received {
  at: string;
  from: string;
  to: string;
  subject: string;
  text: string;
  messageId: string;
  method: string;
  calendar: string;
}

interface Mailed {
  sent: Sent[];
  received: Received[];
}

/** Mail of the outside world: write one, invite, see what Corvun sent, and what lies in the outside mailbox. */
export class MailDesk {
  private readonly store: Store<Mailed>;

  constructor(
    folder: string,
    public smtpPort: number,
    private readonly mailbox: Mailbox,
    private readonly imapPort: number,
  ) {
    this.store = new Store<Mailed>(join(folder, 'mail.json'), () => ({ sent: [], received: [] }));
  }

  /** Takes a mail that Corvun sent; one that is known by its Message-ID is not kept twice. */
  receive(mail: Received): void {
    const { received } = this.store.state;
    if (received.some((one) => one.messageId === mail.messageId && one.to === mail.to)) return;
    received.unshift(mail);
    received.length = Math.min(received.length, MOST_KEPT);
    this.store.save();
  }

  private async send(
    letter: { from: string; to: string; subject: string; text: string },
    files: { filename: string; content: Buffer }[],
    calendar?: { method: string; content: string },
  ): Promise<void> {
    const { sent } = this.store.state;
    sent.unshift(await sendLetter(letter, files, this.smtpPort, calendar));
    sent.length = Math.min(sent.length, MOST_KEPT);
    this.store.save();
  }

  router(): Router {
    const router = Router();
    const upload = multer({ limits: { fileSize: MAX_FILE, files: 10 } });
    router.get('/', (_request, response) => void response.type('html').send(this.page()));
    router.get('/letters.json', (_request, response) => void response.json(LETTERS));
    router.get(
      '/mail/state.json',
      (_request, response) =>
        void response.json({
          ...this.store.state,
          folders: Object.fromEntries(
            this.mailbox.folders().map((one) => [one, this.mailbox.in(one).map(({ subject, uid }) => ({ subject, uid }))]),
          ),
        }),
    );
    router.post('/mail', upload.array('files'), async (request: Request, response: Response) => {
      const { from = '', to = '', subject = '', text = '' } = request.body as Record<string, string>;
      const files = (request.files as Express.Multer.File[] | undefined) ?? [];
      await this.send(
        { from, to, subject, text },
        files.map((file) => ({ filename: file.originalname, content: file.buffer })),
      );
      response.redirect(303, '/');
    });
    router.use('/mail', express.urlencoded({ extended: false }));
    router.post('/mail/invite', async (request: Request, response: Response) => {
      const fields = request.body as Invited;
      const verb = {
        REQUEST: Number(fields.sequence) > 0 ? 'Changed' : 'Invitation',
        CANCEL: 'Cancelled',
        COUNTER: 'New time proposed',
        REPLY: 'Answer',
      }[fields.method];
      await this.send(
        {
          from: fields.from,
          to: fields.to,
          subject: `${verb}: ${fields.title}`,
          text: `${verb}: ${fields.title}\n\n${fields.day}, ${fields.start} to ${fields.end}`,
        },
        [],
        { method: fields.method, content: invitationText(fields) },
      );
      response.redirect(303, '/');
    });
    router.post('/mail/box', (request: Request, response: Response) => {
      const { from = '', subject = '', text = '' } = request.body as Record<string, string>;
      const [, name = '', address = from] = /^(.*?)\s*<([^>]+)>$/.exec(from) ?? [];
      this.mailbox.add('INBOX', { name, address }, subject, text.replace(/\r?\n/g, '\r\n'));
      response.redirect(303, '/');
    });
    router.use((problem: Error, _request: Request, response: Response, next: NextFunction) => {
      if (response.headersSent) return next(problem);
      response.status(400).type('html').send(this.page(problem.message));
    });
    return router;
  }

  private page(problem = ''): string {
    const { sent, received } = this.store.state;
    const ready = LETTERS.map(
      (letter) =>
        `<form class="inline" method="post" action="/mail" enctype="multipart/form-data">${(['from', 'to', 'subject', 'text'] as const).map((field) => `<textarea name="${field}" hidden>${escape(letter[field])}</textarea>`).join('')}<button>${escape(letter.from.replace(/ <.*/, ''))}: ${escape(letter.subject)}</button></form>`,
    );
    const invitation = {
      from: 'Ines Aalto <ines@aalto-timber.example>',
      to: 'maren.holt@alderfen.example',
      uid: 'handrail@aalto-timber.example',
      title: 'Choose the handrail',
      day: workday(5),
      start: '10:00',
      end: '11:00',
      rrule: '',
    };
    const invites = [
      button('/mail/invite', 'Ines invites to the handrail', { ...invitation, method: 'REQUEST', sequence: '0' }),
      button('/mail/invite', '… moves it by four hours', {
        ...invitation,
        method: 'REQUEST',
        sequence: '1',
        start: '14:00',
        end: '15:00',
      }),
      button('/mail/invite', '… cancels it', { ...invitation, method: 'CANCEL', sequence: '2', start: '14:00', end: '15:00' }),
      button('/mail/invite', 'Jonas invites every week', {
        ...invitation,
        from: 'Jonas Brandl <jonas.brandl@alderfen.example>',
        uid: 'tools@alderfen.example',
        title: 'Care of tools',
        rrule: 'FREQ=WEEKLY;COUNT=6',
        method: 'REQUEST',
        sequence: '0',
      }),
    ];
    const field = (name: string, value: string) => `<label>${name}<input name="${name}" value="${escape(value)}"></label>`;
    const log = sent.map(
      (one) =>
        `<li class="${one.problem ? 'no' : ''}">${escape(one.at.slice(11, 19))} ${escape(one.subject || '(no subject)')} to ${escape(one.to)}: ${one.problem ? `refused, ${escape(one.problem)}` : 'accepted'}</li>`,
    );
    const got = received.map(
      (one) =>
        `<li><b>${escape(one.subject)}</b> to ${escape(one.to)}${one.method ? `, ${escape(one.method)}` : ''}<br>${escape(one.text.slice(0, 300))}</li>`,
    );
    const box = this.mailbox.folders().map(
      (one) =>
        `<li><b>${escape(one)}</b>: ${
          this.mailbox
            .in(one)
            .map((message) => escape(message.subject))
            .join('; ') || 'empty'
        }</li>`,
    );
    return layout(
      'Mail',
      `<p>Stands in for everybody who writes to Maren Holt. What is sent here goes to Corvun over SMTP.</p>${problem ? `<p class="no">${escape(problem)}</p>` : ''}
<h2>Ready to send</h2>${ready.join(' ')}<h2>Invitations</h2>${invites.join(' ')}
<details><summary>Another invitation</summary><form method="post" action="/mail/invite"><label>method<select name="method"><option>REQUEST</option><option>CANCEL</option><option>REPLY</option><option>COUNTER</option></select></label>${Object.entries(
        { ...invitation, sequence: '0', partstat: 'ACCEPTED', organizer: '', recurrenceId: '' },
      )
        .map(([name, value]) => field(name, value))
        .join('')}<button>Send it</button></form></details>
<h2>Write one</h2><form method="post" action="/mail" enctype="multipart/form-data">
<label>From<input name="from" required value="Hanna Vogt &lt;hanna.vogt@lower-fen.example&gt;"></label><label>To<input name="to" required value="${MAREN}"></label>
<label>Subject<input name="subject"></label><label>Text<textarea name="text"></textarea></label><label>Files<input type="file" name="files" multiple></label><button>Send</button></form>
<h2>Sent</h2><ul>${log.join('') || '<li>Nothing yet.</li>'}</ul><h2>Came from Corvun</h2><ul>${got.join('') || '<li>Nothing yet.</li>'}</ul>
<h2>The outside mailbox</h2><p class="soft">IMAP at 127.0.0.1:${this.imapPort}, as maren with the password fen-water.</p><ul>${box.join('')}</ul>
<form method="post" action="/mail/box"><label>From<input name="from" value="Nora Feld &lt;nora.feld@brook-school.example&gt;"></label><label>Subject<input name="subject" required></label><label>Text<textarea name="text"></textarea></label><button>Put it in the mailbox</button></form><p class="soft">${iso()}</p>`,
    );
  }
}
