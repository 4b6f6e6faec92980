import { spawn } from 'node:child_process';
import { existsSync, mkdirSync, mkdtempSync, readFileSync, readdirSync, renameSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { BUILT, root } from './setup.mjs';

/** The moment at which the demo of all tests begins. */
export const NOW = '2026-08-03T10:50:00+02:00';
/** Milliseconds between two looks whether everything has come in. */
const LOOK = 100;

const PORTS = { PORT: '0', SMTP_PORT: '0', OUTSIDE_PORT: '0', OUTSIDE_SMTP_PORT: '0', OUTSIDE_IMAP_PORT: '0' };

/** Starts a built application on a data folder. Gives its first line, and how to end it. */
async function start(application, data, more) {
  const child = spawn(process.execPath, [join(root, `apps/${application}/dist/main.js`)], {
    stdio: ['ignore', 'pipe', 'inherit'],
    env: { ...process.env, ...PORTS, CORVUN_DATA: data, CORVUN_NOW: NOW, CORVUN_DEMO: '1', CORVUN_OUTSIDE: '', ...more },
  });
  const ended = new Promise((resolve) => child.once('exit', resolve));
  const line = new Promise((resolve) => child.stdout.once('data', (bytes) => resolve(bytes.toString())));
  const said = await Promise.race([line, ended.then(() => '')]);
  const stop = async () => {
    child.kill('SIGTERM');
    if ((await ended) !== 0 || !said) throw new Error('The demo for the tests could not be made.');
  };
  return { said, stop };
}

/** Until every source of the demo was looked into. */
async function settled(url, data) {
  const headers = { Authorization: `Bearer ${readFileSync(join(data, 'demo-token'), 'utf8').trim()}` };
  for (;;) {
    const sources = await (await fetch(`${url}/api/sources`, { headers })).json();
    if (sources.length && sources.every((source) => source.lastSuccess)) return;
    await new Promise((resolve) => setTimeout(resolve, LOOK));
  }
}

const MAKE = {
  /** The demo alone. What this run compiles is kept for those that follow. */
  async alone(data) {
    await (await start('server', data, { CORVUN_WARM: '1' })).stop();
  },
  /** The demo with what came in from its outside world. */
  async connected(data) {
    const outside = await start('outside', data, {});
    const [, url] = /on (http\S+),/.exec(outside.said) ?? [];
    const server = await start('server', data, { CORVUN_OUTSIDE: url ?? '', CORVUN_ALLOW_PRIVATE: '1' });
    const [, port] = /:(\d+), mail on/.exec(server.said) ?? [];
    await settled(`http://127.0.0.1:${port}`, data);
    await server.stop();
    await outside.stop();
  },
};

/** A data folder with the demo, made once for each build: tests copy it instead of making it anew. Gives its path. */
export async function template(kind) {
  const folder = join(root, 'tmp');
  mkdirSync(folder, { recursive: true });
  const build = readFileSync(BUILT, 'utf8').slice(0, 16);
  const name = `template-${kind}-${build}`;
  if (existsSync(join(folder, name))) return join(folder, name);
  for (const old of readdirSync(folder))
    if (old.startsWith('template-') && !old.endsWith(build)) rmSync(join(folder, old), { recursive: true, force: true });
  const made = mkdtempSync(join(folder, 'making-'));
  await MAKE[kind](made);
  try {
    renameSync(made, join(folder, name));
  } catch {
    // Another run of the tests was faster.
    rmSync(made, { recursive: true, force: true });
  }
  return join(folder, name);
}

/** For Jest and Playwright: tells the tests where it is. */
export default async function useTemplate() {
  process.env.CORVUN_TEMPLATE = await template('alone');
}
