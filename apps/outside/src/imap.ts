import { createServer, type Server, type Socket } from 'node:net';
import type { Mailbox, Stored } from './mailbox';

const quote = (text: string) => `"${text.replace(/[^\x20-\x7e]/g, '?').replace(/(["\\])/g, '\\$1')}"`;
const nil = (text: string | undefined) => (text ? quote(text) : 'NIL');

/** A mailbox over IMAP4rev1 (RFC 3501): what a mail reader needs to list, search, fetch, move and flag; nothing else. */
export function imapServer(mailbox: Mailbox, account: { user: string; password: string }): Server {
  return createServer((socket) => new Session(socket, mailbox, account));
}

class Session {
  private folder = '';
  private signedIn = false;
  private rest = '';
  private literal: { need: number; head: string } | null = null;
  private waitingForPlain = '';

  constructor(
    private readonly socket: Socket,
    private readonly mailbox: Mailbox,
    private readonly account: { user: string; password: string },
  ) {
    socket.setEncoding('latin1');
    socket.on('error', () => undefined);
    socket.on('data', (text) => this.read(String(text)));
    this.say('* OK [CAPABILITY IMAP4rev1 AUTH=PLAIN UIDPLUS MOVE SPECIAL-USE] ready');
  }

  private say(line: string): void {
    if (!this.socket.destroyed) this.socket.write(`${line}\r\n`, 'latin1');
  }

  private read(text: string): void {
    this.rest += text;
    for (;;) {
      if (this.literal) {
        if (this.rest.length < this.literal.need) return;
        const value = this.rest.slice(0, this.literal.need);
        this.rest = quote(value).concat(this.rest.slice(this.literal.need));
        this.rest = this.literal.head + this.rest;
        this.literal = null;
      }
      const end = this.rest.indexOf('\r\n');
      if (end < 0) return;
      const line = this.rest.slice(0, end);
      this.rest = this.rest.slice(end + 2);
      const literal = /\{(\d+)(\+?)\}$/.exec(line);
      if (literal) {
        this.literal = { need: Number(literal[1]), head: line.slice(0, literal.index) };
        if (!literal[2]) this.say('+ go on');
        continue;
      }
      this.command(line);
    }
  }

  private command(line: string): void {
    if (this.waitingForPlain) {
      const tag = this.waitingForPlain;
      this.waitingForPlain = '';
      return this.plain(tag, line);
    }
    const [, tag = '*', uid, name = '', args = ''] = /^(\S+) (UID )?(\S+) ?(.*)$/i.exec(line) ?? [];
    const command = name.toUpperCase();
    const open = ['CAPABILITY', 'LOGIN', 'AUTHENTICATE', 'LOGOUT', 'NOOP', 'ID'];
    if (!this.signedIn && !open.includes(command)) return this.say(`${tag} NO sign in first`);
    switch (command) {
      case 'CAPABILITY':
        this.say('* CAPABILITY IMAP4rev1 AUTH=PLAIN UIDPLUS MOVE SPECIAL-USE');
        return this.say(`${tag} OK done`);
      case 'LOGIN': {
        const [user, password] = words(args);
        return this.sign(tag, user ?? '', password ?? '');
      }
      case 'AUTHENTICATE': {
        const first = args.split(' ')[1];
        if (first) return this.plain(tag, first);
        this.waitingForPlain = tag;
        return this.say('+ ');
      }
      case 'LOGOUT':
        this.say('* BYE bye');
        this.say(`${tag} OK done`);
        this.socket.end();
        return;
      case 'LIST':
      case 'LSUB':
        // An empty pattern asks for the delimiter only (RFC 3501, 6.3.8).
        if (words(args)[1] === '') {
          this.say(`* ${command} (\\Noselect) "/" ""`);
          return this.say(`${tag} OK done`);
        }
        for (const path of this.mailbox.folders())
          this.say(`* ${command} (\\HasNoChildren${path === 'Sent' ? ' \\Sent' : ''}) "/" ${quote(path)}`);
        return this.say(`${tag} OK done`);
      case 'STATUS': {
        const path = words(args)[0] ?? '';
        const all = this.mailbox.in(path);
        this.say(
          `* STATUS ${quote(path)} (MESSAGES ${all.length} UIDNEXT ${this.mailbox.nextUid} UIDVALIDITY 7 UNSEEN ${all.filter((one) => !one.flags.includes('\\Seen')).length})`,
        );
        return this.say(`${tag} OK done`);
      }
      case 'SELECT':
      case 'EXAMINE': {
        const path = words(args)[0] ?? '';
        if (!this.mailbox.folders().includes(path)) return this.say(`${tag} NO no such folder`);
        this.folder = path;
        this.say(`* ${this.mailbox.in(path).length} EXISTS`);
        this.say('* 0 RECENT');
        this.say('* FLAGS (\\Answered \\Flagged \\Deleted \\Seen \\Draft)');
        this.say('* OK [UIDVALIDITY 7] ok');
        this.say(`* OK [UIDNEXT ${this.mailbox.nextUid}] ok`);
        return this.say(`${tag} OK [READ-${command === 'SELECT' ? 'WRITE' : 'ONLY'}] done`);
      }
      case 'CREATE':
        this.mailbox.create(words(args)[0] ?? '');
        return this.say(`${tag} OK done`);
      case 'SEARCH': {
        const found = this.mailbox.in(this.folder).filter((one) => matches(one, words(args), this.mailbox.nextUid));
        this.say(`* SEARCH${found.map((one) => ` ${one.uid}`).join('')}`);
        return this.say(`${tag} OK done`);
      }
      case 'FETCH': {
        const [, set = '', items = ''] = /^(\S+) (.*)$/.exec(args) ?? [];
        this.mailbox.in(this.folder).forEach((one, at) => {
          if (inSet(uid ? one.uid : at + 1, set, this.mailbox.nextUid)) this.fetch(one, at + 1, items.toUpperCase());
        });
        return this.say(`${tag} OK done`);
      }
      case 'STORE':
        return this.say(`${tag} OK done`);
      case 'MOVE': {
        const [set = '', to = ''] = words(args);
        for (const one of this.mailbox.in(this.folder).filter((stored) => inSet(stored.uid, set, this.mailbox.nextUid)))
          this.mailbox.move(one, to);
        return this.say(`${tag} OK done`);
      }
      default:
        return this.say(
          `${tag} ${['NOOP', 'CLOSE', 'UNSELECT', 'ID', 'CHECK', 'SUBSCRIBE', 'ENABLE'].includes(command) ? 'OK done' : 'BAD unknown'}`,
        );
    }
  }

  private plain(tag: string, line: string): void {
    const [, user = '', password = ''] = Buffer.from(line, 'base64').toString('utf8').split('\0');
    this.sign(tag, user, password);
  }

  private sign(tag: string, user: string, password: string): void {
    this.signedIn = user === this.account.user && password === this.account.password;
    this.say(`${tag} ${this.signedIn ? 'OK signed in' : 'NO [AUTHENTICATIONFAILED] wrong name or password'}`);
  }

  private fetch(one: Stored, at: number, items: string): void {
    const parts = [`UID ${one.uid}`];
    if (items.includes('FLAGS')) parts.push(`FLAGS (${one.flags.join(' ')})`);
    if (items.includes('RFC822.SIZE')) parts.push(`RFC822.SIZE ${Buffer.byteLength(one.raw)}`);
    if (items.includes('ENVELOPE'))
      parts.push(
        `ENVELOPE (NIL ${nil(one.subject)} ((${nil(one.fromName)} NIL ${nil(one.from.split('@')[0])} ${nil(one.from.split('@')[1])})) NIL NIL NIL NIL NIL NIL ${nil(one.messageId)})`,
      );
    if (/BODY(?:\.PEEK)?\[\]/.test(items))
      parts.push(`BODY[] {${Buffer.byteLength(one.raw)}}\r\n${Buffer.from(one.raw, 'utf8').toString('latin1')}`);
    this.say(`* ${at} FETCH (${parts.join(' ')})`);
  }
}

const words = (text: string): string[] =>
  [...text.matchAll(/"((?:[^"\\]|\\.)*)"|(\S+)/g)].map(([, quoted, bare]) =>
    quoted === undefined ? (bare ?? '') : quoted.replace(/\\(.)/g, '$1'),
  );

function inSet(number: number, set: string, next: number): boolean {
  return set.split(',').some((part) => {
    const [from = '0', to = from] = part.split(':').map((one) => (one === '*' ? String(next - 1) : one));
    return number >= Math.min(Number(from), Number(to)) && number <= Math.max(Number(from), Number(to));
  });
}

function matches(one: Stored, criteria: string[], next: number): boolean {
  for (let at = 0; at < criteria.length; at += 1) {
    const word = criteria[at]?.toUpperCase();
    if (word === 'NOT') {
      if (one.flags.includes(`\\${titled(criteria[(at += 1)] ?? '')}`)) return false;
    } else if (word === 'UNDELETED' || word === 'UNDRAFT' || word === 'UNSEEN') {
      if (one.flags.includes(`\\${titled(word.slice(2))}`)) return false;
    } else if (word === 'SINCE') {
      if (one.date < Date.parse(`${criteria[(at += 1)] ?? ''} UTC`)) return false;
    } else if (word === 'UID') {
      if (!inSet(one.uid, criteria[(at += 1)] ?? '', next)) return false;
    } else if (word === 'HEADER') {
      at += 2;
      if (!one.messageId.toLowerCase().includes((criteria[at] ?? '').toLowerCase())) return false;
    }
  }
  return true;
}

const titled = (word: string) => word.charAt(0).toUpperCase() + word.slice(1).toLowerCase();
