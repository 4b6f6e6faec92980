import { join } from 'node:path';
import { now } from './clock';
import { Store } from './store';

export interface Stored {
  uid: number;
  folder: string;
  flags: string[];
  raw: string;
  messageId: string;
  subject: string;
  from: string;
  fromName: string;
  date: number;
}

interface Kept {
  next: number;
  folders: string[];
  messages: Stored[];
}

const HOUR = 3_600_000;
const LETTERS: [string, string, string, string, number, string[]?][] = [
  [
    'INBOX',
    'Nora Feld',
    'nora.feld@brook-school.example',
    'Nets for the pond day\n\nDear Maren,\n\ncould you lend us ten nets for the pond day? Please tell me by Friday.\n\nNora Feld',
    30,
  ],
  [
    'INBOX',
    'Hanna Vogt',
    'hanna.vogt@lower-fen.example',
    'Ditch again\n\nHello Maren,\n\nthe ditch at the lower fen is full of reed. When can you come and look at it? Half an hour is enough.\n\nHanna Vogt',
    8,
    ['\\Seen'],
  ],
  ['INBOX', 'Lea Marchand', 'lea.marchand@tide-lab.example', 'An old draft\n\nnot to be read', 20, ['\\Deleted']],
  [
    'Boardwalk',
    'Ines Aalto',
    'ines@aalto-timber.example',
    'Screws\n\nHello Maren,\n\nthe screws for section C are here. Please say where they should go.\n\nInes Aalto',
    12,
  ],
  ['Sent', 'Maren Holt', 'maren.holt@alderfen.example', 'Re: Screws\n\nThank you, Ines.\n\nMaren', 11],
];

/** What lies on the outside mail server: folders, flags, messages. */
export class Mailbox {
  private readonly store: Store<Kept>;

  constructor(folder: string) {
    this.store = new Store<Kept>(join(folder, 'mailbox.json'), () => ({
      next: 1,
      folders: ['INBOX', 'Boardwalk', 'Decided', 'Sent'],
      messages: [],
    }));
    if (this.store.state.next === 1)
      for (const [path, name, address, letter, hours, flags = []] of LETTERS) {
        const [subject = '', ...text] = letter.split('\n');
        this.add(path, { name, address }, subject, text.join('\r\n').trim(), now() - hours * HOUR, flags);
      }
  }

  get nextUid(): number {
    return this.store.state.next;
  }

  folders(): string[] {
    return this.store.state.folders;
  }

  in(folder: string): Stored[] {
    return this.store.state.messages.filter((one) => one.folder === folder);
  }

  create(folder: string): void {
    if (!this.folders().includes(folder)) this.folders().push(folder);
    this.store.save();
  }

  add(
    folder: string,
    from: { name: string; address: string },
    subject: string,
    text: string,
    date = now(),
    flags: string[] = [],
    messageId = `<box-${this.nextUid}@outside.example>`,
  ): void {
    const raw = [
      `From: ${from.name} <${from.address}>`,
      'To: Maren Holt <maren.holt@alderfen.example>',
      `Subject: ${subject}`,
      `Date: ${new Date(date).toUTCString()}`,
      `Message-ID: ${messageId}`,
      'MIME-Version: 1.0',
      'Content-Type: text/plain; charset=utf-8',
      'Content-Transfer-Encoding: 8bit',
      '',
      text,
      '',
    ].join('\r\n');
    this.store.state.messages.push({
      uid: this.nextUid,
      folder,
      flags,
      raw,
      messageId,
      subject,
      from: from.address,
      fromName: from.name,
      date,
    });
    this.store.state.next += 1;
    this.store.save();
  }

  move(message: Stored, folder: string): void {
    this.create(folder);
    Object.assign(message, { folder, uid: this.nextUid });
    this.store.state.next += 1;
    this.store.save();
  }
}
