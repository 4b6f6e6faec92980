import { spawn } from 'node:child_process';
import { existsSync, mkdirSync, mkdtempSync, readFileSync, readdirSync, renameSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { BUILT, root } from './setup.mjs';

/** The moment at which the demo of all tests begins. */
export const NOW = '2026-08-03T10:50:00+02:00';

/** A data folder with the demo, made once for each build: tests copy it instead of making it anew. Gives its path. */
export async function template() {
  const folder = join(root, 'tmp');
  mkdirSync(folder, { recursive: true });
  const name = `template-${readFileSync(BUILT, 'utf8').slice(0, 16)}`;
  if (existsSync(join(folder, name))) return join(folder, name);
  for (const old of readdirSync(folder)) if (/^template-[0-9a-f]{16}$/.test(old)) rmSync(join(folder, old), { recursive: true });
  // What this run compiles is kept for those that follow.
  const made = mkdtempSync(join(folder, 'making-'));
  const server = spawn(process.execPath, [join(root, 'apps/server/dist/main.js')], {
    stdio: ['ignore', 'pipe', 'inherit'],
    env: {
      ...process.env,
      CORVUN_DATA: made,
      CORVUN_DEMO: '1',
      CORVUN_NOW: NOW,
      CORVUN_OUTSIDE: '',
      CORVUN_WARM: '1',
      PORT: '0',
      SMTP_PORT: '0',
    },
  });
  const ended = new Promise((resolve) => server.once('exit', resolve));
  await Promise.race([new Promise((resolve) => server.stdout.once('data', resolve)), ended]);
  server.kill('SIGTERM');
  if ((await ended) !== 0) throw new Error('The demo for the tests could not be made.');
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
  process.env.CORVUN_TEMPLATE = await template();
}
