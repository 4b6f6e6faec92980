import { spawn, type ChildProcess } from 'node:child_process';
import { cpSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

/** The moment at which the clock of every test begins. */
export const NOW = '2026-08-03T10:50:00+02:00';
/** A way out for mail at whose end nobody takes it: what is sent waits in the outbox. */
export const NOBODY = 'smtp://127.0.0.1:1';
const ROOT = join(__dirname, '..');

export const tempFolder = (): string => mkdtempSync(join(tmpdir(), 'corvun-test-'));
export const clear = (data: string): void => rmSync(data, { recursive: true, force: true });

/** A data folder with the demo in it, alone or with what came in from its outside world: a copy of the one that was made for this run. */
export function demoFolder(kind: 'alone' | 'connected' = 'alone'): string {
  const template = process.env[kind === 'alone' ? 'CORVUN_TEMPLATE' : 'CORVUN_TEMPLATE_CONNECTED'];
  if (!template) throw new Error('The demo is made by scripts/template.mjs, in the global set-up.');
  const data = tempFolder();
  cpSync(template, data, { recursive: true });
  return data;
}

/** How a process ended, and what it said on its way. */
export interface Ended {
  code: number | null;
  signal: string | null;
  said: string;
}

/** What of a built Corvun runs in a process of its own; its first line says on which ports, chosen by the system. */
export class Process {
  readonly ended: Promise<Ended>;
  /** The first line on standard output; empty when it ended before. */
  line = '';

  constructor(
    readonly child: ChildProcess,
    loud: boolean,
  ) {
    let said = '';
    child.stderr?.on('data', (bytes: Buffer) => {
      said += bytes.toString();
      if (loud) process.stderr.write(bytes);
    });
    this.ended = new Promise((resolve) => child.once('exit', (code, signal) => resolve({ code, signal, said })));
  }

  /** Starts one; resolves when it listens, or has ended. */
  static async run(script: string, env: Record<string, string>, loud = true): Promise<Process> {
    const child = spawn(process.execPath, [join(ROOT, script)], {
      env: { ...process.env, ...env },
      stdio: ['ignore', 'pipe', 'pipe'],
    });
    const one = new Process(child, loud);
    const line = new Promise<string>((resolve) => child.stdout?.once('data', (bytes: Buffer) => resolve(bytes.toString())));
    one.line = await Promise.race([line, one.ended.then(() => '')]);
    return one;
  }

  kill(signal: 'SIGKILL' | 'SIGTERM' = 'SIGKILL'): Promise<Ended> {
    this.child.kill(signal);
    return this.ended;
  }
}

/** A server in a process of its own, as it is really started. */
export class ServerProcess {
  readonly ended: Promise<Ended>;
  readonly url: string;
  readonly smtpPort: number;

  private constructor(
    private readonly process: Process,
    readonly data: string,
  ) {
    this.ended = process.ended;
    const [, port, mail] = /:(\d+), mail on (\d+)/.exec(process.line) ?? [];
    this.url = `http://127.0.0.1:${port ?? 0}`;
    this.smtpPort = Number(mail ?? 0);
  }

  /** Starts one on a folder: with the demo when it is there, or made anew. Resolves when it listens, or has ended. */
  static async start(data: string, more: Record<string, string> = {}): Promise<ServerProcess> {
    const env = {
      CORVUN_NOW: NOW,
      CORVUN_DATA: data,
      CORVUN_DEMO: '',
      PORT: '0',
      SMTP_PORT: '0',
      CORVUN_ALLOW_PRIVATE: '1',
      CORVUN_FOLDERS: data,
      CORVUN_MAIL_OUT: NOBODY,
      ...more,
    };
    return new ServerProcess(await Process.run('apps/server/dist/main.js', env, false), data);
  }

  /** The variables that start another one at the same addresses. */
  get samePorts(): { PORT: string; SMTP_PORT: string } {
    return { PORT: new URL(this.url).port, SMTP_PORT: String(this.smtpPort) };
  }

  get pid(): number {
    return this.process.child.pid ?? 0;
  }

  /** The demo user's token. */
  token(): string {
    return readFileSync(join(this.data, 'demo-token'), 'utf8').trim();
  }

  kill(signal: 'SIGKILL' | 'SIGTERM' = 'SIGKILL'): Promise<Ended> {
    return this.process.kill(signal);
  }

  /** Whether anything listens on its port. */
  async listens(): Promise<boolean> {
    return fetch(`${this.url}/api/health`).then(
      () => true,
      () => false,
    );
  }
}
