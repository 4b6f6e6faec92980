import { spawn, type ChildProcess } from 'node:child_process';
import { existsSync, mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { freePort } from './free-port';

const PROGRAM = '/usr/bin/radicale';
/** Debian's `radicale`; `npm test` installs it where it is missing and this user may. */
export const radicaleIsHere = existsSync(PROGRAM);

/** A CalDAV server of others, with a folder of its own, on a port of this machine. */
export class Radicale {
  private child: ChildProcess | null = null;
  private port = 0;
  private readonly home = mkdtempSync(join(tmpdir(), 'corvun-radicale-'));

  get url(): string {
    return `http://127.0.0.1:${this.port}`;
  }

  async start(): Promise<void> {
    this.port ||= await freePort();
    mkdirSync(join(this.home, 'kept'), { recursive: true });
    writeFileSync(join(this.home, 'users'), 'maren:fen-water\n');
    writeFileSync(
      join(this.home, 'config'),
      [
        '[server]',
        `hosts = 127.0.0.1:${this.port}`,
        'timeout = 300',
        '[auth]',
        'type = htpasswd',
        `htpasswd_filename = ${join(this.home, 'users')}`,
        'htpasswd_encryption = plain',
        'delay = 0',
        '[storage]',
        `filesystem_folder = ${join(this.home, 'kept')}`,
        '[logging]',
        'level = error',
        '',
      ].join('\n'),
    );
    this.child = spawn(PROGRAM, ['--config', join(this.home, 'config')], { stdio: 'ignore' });
    for (;;) {
      if (this.child.exitCode !== null) throw new Error('Radicale did not start.');
      const answered = await fetch(`${this.url}/`, { redirect: 'manual' }).catch(() => null);
      if (answered) return;
      await new Promise((resolve) => setTimeout(resolve, 50));
    }
  }

  async stop(): Promise<void> {
    const { child } = this;
    if (!child) return;
    const ended = new Promise((resolve) => child.once('exit', resolve));
    child.kill('SIGKILL');
    await ended;
    this.child = null;
  }

  async end(): Promise<void> {
    await this.stop();
    rmSync(this.home, { recursive: true, force: true });
  }

  /** Asks as the user of the account would, with another program. */
  ask(method: string, path: string, body = '', headers: Record<string, string> = {}): Promise<Response> {
    return fetch(`${this.url}${path}`, {
      method,
      redirect: 'manual',
      headers: { Authorization: `Basic ${Buffer.from('maren:fen-water').toString('base64')}`, ...headers },
      ...(body ? { body } : {}),
    });
  }

  /** Makes a calendar (RFC 4791, 5.3.1) for events or tasks. */
  async make(name: string, component: 'VEVENT' | 'VTODO'): Promise<string> {
    const path = `/maren/${name.toLowerCase().replace(/\W+/g, '-')}/`;
    const answer = await this.ask(
      'MKCALENDAR',
      path,
      `<?xml version="1.0"?><c:mkcalendar xmlns:d="DAV:" xmlns:c="urn:ietf:params:xml:ns:caldav"><d:set><d:prop>
        <d:displayname>${name}</d:displayname>
        <c:supported-calendar-component-set><c:comp name="${component}"/></c:supported-calendar-component-set>
      </d:prop></d:set></c:mkcalendar>`,
    );
    if (answer.status !== 201) throw new Error(`Radicale answered ${answer.status}`);
    return path;
  }

  async put(path: string, text: string): Promise<void> {
    const answer = await this.ask('PUT', path, text, { 'Content-Type': 'text/calendar; charset=utf-8' });
    if (answer.status > 299) throw new Error(`Radicale answered ${answer.status}`);
  }

  /** An object as it is there, its folded lines put together; empty where there is none. */
  async text(path: string): Promise<string> {
    const answer = await this.ask('GET', path);
    return answer.ok ? (await answer.text()).replace(/\r?\n[ \t]/g, '') : '';
  }

  /** Names of all objects of a calendar. */
  async names(path: string): Promise<string[]> {
    const answer = await this.ask('PROPFIND', path, '', { Depth: '1' });
    const all = [...(await answer.text()).matchAll(/<href>([^<]+)<\/href>/g)].map(([, href = '']) => href);
    return all.filter((href) => href.endsWith('.ics')).map((href) => decodeURIComponent(href.slice(path.length)));
  }
}
