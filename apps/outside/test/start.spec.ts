import { spawn, type ChildProcess } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, statSync } from 'node:fs';
import { createServer, type AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { freePort } from '../../../testing/free-port';

const root = join(__dirname, '../../..');
const data = mkdtempSync(join(tmpdir(), 'corvun-start-'));
let running: ChildProcess | undefined;

afterAll(() => {
  running?.kill('SIGKILL');
  rmSync(data, { recursive: true, force: true });
});

interface Started {
  said: string;
  stop: () => Promise<number | null>;
}

async function start(
  ports: { PORT: string; SMTP_PORT: string; OUTSIDE_PORT: string },
  more: NodeJS.ProcessEnv = {},
): Promise<Started> {
  const child = spawn(process.execPath, [join(root, 'scripts/start.mjs')], {
    cwd: data,
    env: { ...process.env, ...ports, CORVUN_DATA: data, CORVUN_NOW: '2026-08-03T10:50:00+02:00', ...more },
    stdio: ['ignore', 'pipe', 'pipe'],
  });
  running = child;
  let said = '';
  const ended = new Promise<number | null>((resolve) => child.once('exit', resolve));
  await new Promise<void>((resolve) => {
    child.stdout.on('data', (text: Buffer) => {
      said += text.toString();
      if (said.includes('outside world')) resolve();
    });
    child.stderr.on('data', (text: Buffer) => (said += text.toString()));
    void ended.then(() => resolve());
  });
  return {
    said,
    stop: () => {
      child.kill('SIGINT');
      return ended;
    },
  };
}

describe('npm start', () => {
  it('ends with a sentence where a port is taken, and says of nobody else’s server that it is ready', async () => {
    const other = createServer((line) => line.end('HTTP/1.1 200 OK\r\nContent-Length: 2\r\n\r\nok'));
    await new Promise<void>((resolve) => other.listen(0, '127.0.0.1', resolve));
    const { port } = other.address() as AddressInfo;
    const ports = { PORT: String(port), SMTP_PORT: String(await freePort()), OUTSIDE_PORT: String(await freePort()) };
    const { said, stop } = await start(ports);
    other.close();
    expect(said).toBe(
      `Port ${port} is taken: something else listens there, perhaps another Corvun. End that, or choose another one with PORT.\n`,
    );
    expect(await stop()).toBe(1);
  });

  it('prints the ready line, takes mail from the outside world, ends on Ctrl-C, and comes back with everything', async () => {
    const ports = { PORT: String(await freePort()), SMTP_PORT: String(await freePort()), OUTSIDE_PORT: String(await freePort()) };
    const url = `http://127.0.0.1:${ports.PORT}`;
    const outside = `http://127.0.0.1:${ports.OUTSIDE_PORT}`;
    const first = await start(ports);
    expect(first.said).toContain(`Corvun is ready at ${url}\n`);
    const token = readFileSync(join(data, 'demo-token'), 'utf8').trim();
    expect(statSync(join(data, 'demo-token')).mode & 0o077).toBe(0);
    const total = async () => {
      const response = await fetch(`${url}/api/incoming?limit=1`, { headers: { Authorization: `Bearer ${token}` } });
      return ((await response.json()) as { total: number }).total;
    };
    expect(await total()).toBe(38);

    const form = new FormData();
    const letter = {
      from: 'Hanna <hanna@lower-fen.example>',
      to: 'maren.holt@capture.example',
      subject: 'Dog <b>again</b>',
      text: 'Could you come?',
    };
    for (const [name, value] of Object.entries(letter)) form.append(name, value);
    form.append('files', new Blob(['woof']), 'dog.txt');
    const page = await (await fetch(`${outside}/mail`, { method: 'POST', body: form })).text();
    expect(page).toContain('Dog &#60;b&#62;again&#60;/b&#62; to maren.holt@capture.example: accepted');
    expect(await total()).toBe(39);

    const wrong = new FormData();
    for (const [name, value] of Object.entries({ ...letter, to: 'nobody@capture.example' })) wrong.append(name, value);
    expect(await (await fetch(`${outside}/mail`, { method: 'POST', body: wrong })).text()).toContain('refused');

    expect(await first.stop()).toBe(0);
    const again = await start(ports);
    expect(again.said).not.toMatch(/Installing|Building/);
    expect(await total()).toBe(39);
    expect((await fetch(url)).headers.get('content-type')).toContain('text/html');
    expect(await again.stop()).toBe(0);
  });

  it('says in a sentence when a variable is nonsense or a port is taken', async () => {
    const ports = { PORT: String(await freePort()), SMTP_PORT: String(await freePort()), OUTSIDE_PORT: String(await freePort()) };
    const nonsense = await start(ports, { CORVUN_NOW: 'soon' });
    expect(nonsense.said).toContain('CORVUN_NOW is "soon", which is not an ISO 8601 time.');
    const blocker = createServer();
    await new Promise<void>((resolve) => blocker.listen(Number(ports.PORT), '127.0.0.1', resolve));
    const taken = await start(ports);
    expect(taken.said).toContain('is taken: something else listens there');
    blocker.close();
  });
});
