import { spawn, type ChildProcess } from 'node:child_process';
import { join } from 'node:path';
import { NOW, freePort } from './harness';

/** A server in a process of its own, as it is really started; `ended` says with what code and words it ended. */
export class Spawned {
  readonly url: string;
  private child: ChildProcess;
  readonly ended: Promise<{ code: number | null; signal: string | null; said: string }>;

  private constructor(
    child: ChildProcess,
    port: number,
    readonly smtpPort: number,
  ) {
    this.child = child;
    this.url = `http://127.0.0.1:${port}`;
    let said = '';
    child.stderr?.on('data', (bytes: Buffer) => (said += bytes.toString()));
    this.ended = new Promise((resolve) => child.once('exit', (code, signal) => resolve({ code, signal, said })));
  }

  /** Starts one; resolves when it listens, or has ended. */
  static async start(data: string, more: Record<string, string> = {}): Promise<Spawned> {
    const [port, smtpPort] = [await freePort(), await freePort()];
    const child = spawn(process.execPath, [join(__dirname, '../dist/main.js')], {
      env: {
        ...process.env,
        CORVUN_NOW: NOW,
        CORVUN_DATA: data,
        CORVUN_DEMO: '',
        PORT: String(port),
        SMTP_PORT: String(smtpPort),
        CORVUN_ALLOW_PRIVATE: '1',
        CORVUN_FOLDERS: data,
        ...more,
      },
      stdio: ['ignore', 'pipe', 'pipe'],
    });
    const server = new Spawned(child, port, smtpPort);
    await Promise.race([new Promise<void>((resolve) => child.stdout?.once('data', () => resolve())), server.ended]);
    return server;
  }

  get pid(): number {
    return this.child.pid ?? 0;
  }

  kill(signal: 'SIGKILL' | 'SIGTERM'): Promise<{ code: number | null; signal: string | null; said: string }> {
    this.child.kill(signal);
    return this.ended;
  }

  /** Whether anything listens on its port. */
  async listens(): Promise<boolean> {
    return fetch(`${this.url}/api/health`).then(
      () => true,
      () => false,
    );
  }
}
