import type { AddressInfo } from 'node:net';
import { SMTPServer } from 'smtp-server';

/** A mail server that takes mail, from whoever says the password where it has one, and keeps its text. */
export class MailDesk {
  readonly taken: string[] = [];
  /** What it lets wait before it says that it has taken a mail. */
  held: Promise<void> = Promise.resolve();
  port = 0;
  private readonly smtp: SMTPServer;

  constructor(password?: string) {
    this.smtp = new SMTPServer({
      disabledCommands: password === undefined ? ['STARTTLS', 'AUTH'] : ['STARTTLS'],
      allowInsecureAuth: true,
      logger: false,
      onAuth: (said, _, done) =>
        said.password === password ? done(null, { user: said.username ?? '' }) : done(new Error('Invalid username or password')),
      onData: (stream, _, done) => {
        const parts: Buffer[] = [];
        stream.on('data', (part: Buffer) => parts.push(part));
        stream.on('end', () => {
          this.taken.push(Buffer.concat(parts).toString());
          void this.held.then(() => done());
        });
      },
    });
  }

  open(): Promise<this> {
    return new Promise((resolve) =>
      this.smtp.listen(0, '127.0.0.1', () => {
        this.port = (this.smtp.server.address() as AddressInfo).port;
        resolve(this);
      }),
    );
  }

  close(): void {
    this.smtp.close();
  }
}
