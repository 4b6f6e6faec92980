import { NOW, Process } from './server';

/** The stand-ins for the outside world, in a process of their own, with the data folder of one Corvun. */
export class Outside {
  url = '';
  imapPort = 0;
  mailOut = '';
  private process: Process | undefined;
  private env: Record<string, string> = {};

  async start(data: string, more: Record<string, string> = {}): Promise<this> {
    this.env = {
      CORVUN_NOW: NOW,
      CORVUN_DATA: data,
      OUTSIDE_PORT: '0',
      OUTSIDE_SMTP_PORT: '0',
      OUTSIDE_IMAP_PORT: '0',
      SMTP_PORT: '0',
      ...more,
    };
    return this.startAgain();
  }

  /** Starts them, the second time and later at the same addresses. */
  async startAgain(): Promise<this> {
    this.process = await Process.run('apps/outside/dist/main.js', this.env);
    const [, url = '', receive, imap] = /on (http\S+), mail on (\d+), mailbox on (\d+)/.exec(this.process.line) ?? [];
    if (!url) throw new Error(`the stand-ins did not start: ${this.process.line}`);
    this.url = url;
    this.imapPort = Number(imap);
    this.mailOut = `smtp://127.0.0.1:${receive}`;
    Object.assign(this.env, { OUTSIDE_PORT: new URL(url).port, OUTSIDE_SMTP_PORT: receive, OUTSIDE_IMAP_PORT: imap });
    return this;
  }

  stop(): void {
    void this.process?.kill();
  }

  /** Tells them where the Corvun listens to which they send mail. */
  sendTo(smtpPort: number): Promise<void> {
    return this.act('/intake', { port: String(smtpPort) });
  }

  /** Acts on one of their pages, as somebody outside does. */
  async act(path: string, fields: Record<string, string>): Promise<void> {
    const answer = await fetch(`${this.url}${path}`, { method: 'POST', body: new URLSearchParams(fields), redirect: 'manual' });
    if (answer.status !== 303) throw new Error(`${path} answered ${answer.status}`);
  }

  async state<T>(part: string): Promise<T> {
    return (await fetch(`${this.url}/${part}/state.json`)).json() as Promise<T>;
  }
}
