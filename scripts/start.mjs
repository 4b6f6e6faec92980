import { createServer } from 'node:net';
import { readFileSync } from 'node:fs';
import { homedir } from 'node:os';
import { delimiter, isAbsolute, join } from 'node:path';
import { build, install, root, start } from './setup.mjs';

const serve = process.argv.includes('--serve');
const env = process.env;
const host = env.HOST ?? '127.0.0.1';
const port = env.PORT ?? '4600';
const outsidePort = env.OUTSIDE_PORT ?? '4610';
const data = env.CORVUN_DATA
  ? isAbsolute(env.CORVUN_DATA)
    ? env.CORVUN_DATA
    : join(process.cwd(), env.CORVUN_DATA)
  : join(root, 'data');

/** The port that it listens on; null where something else does already. Any for 0. */
const listenOn = (number, where = '127.0.0.1') =>
  new Promise((resolve) => {
    const probe = createServer();
    probe.once('error', ({ code }) => resolve(code === 'EADDRINUSE' ? null : number));
    probe.listen(number, where, () => {
      const { port: found } = probe.address();
      probe.close(() => resolve(found));
    });
  });

const chosen = [['PORT', port], ['SMTP_PORT', env.SMTP_PORT ?? '4625'], ...(serve ? [] : [['OUTSIDE_PORT', outsidePort]])];
for (const [name, number] of chosen)
  if (/^\d+$/.test(number) && (await listenOn(Number(number), name === 'OUTSIDE_PORT' ? undefined : host)) === null) {
    process.stderr.write(
      `Port ${number} is taken: something else listens there, perhaps another Corvun. End that, or choose another one with ${name}.\n`,
    );
    process.exit(1);
  }

try {
  install();
  await build();
} catch (problem) {
  process.stderr.write(`${problem.message}\n`);
  process.exit(1);
}

/** A port for a stand-in that nobody chose: the wanted one, or any other where that is taken. */
async function freePort(wanted) {
  const taken = [port, env.SMTP_PORT ?? '4625', outsidePort].map(Number);
  return (taken.includes(wanted) ? null : await listenOn(wanted)) ?? listenOn(0);
}

const parts = [];
if (serve)
  parts.push(start('apps/server/dist/main.js', { CORVUN_DATA: data, CORVUN_WEB: join(root, 'apps/web/dist'), CORVUN_DEMO: '' }));
else {
  const receive = env.OUTSIDE_SMTP_PORT ?? String(await freePort(Number(outsidePort) + 1));
  const imap = env.OUTSIDE_IMAP_PORT ?? String(await freePort(Number(outsidePort) + 2));
  const outside = { CORVUN_DATA: data, OUTSIDE_PORT: outsidePort, OUTSIDE_SMTP_PORT: receive, OUTSIDE_IMAP_PORT: imap };
  parts.push(
    start('apps/outside/dist/main.js', outside),
    start('apps/server/dist/main.js', {
      CORVUN_DATA: data,
      CORVUN_WEB: join(root, 'apps/web/dist'),
      CORVUN_DEMO: '1',
      CORVUN_OUTSIDE: `http://127.0.0.1:${outsidePort}`,
      CORVUN_ALLOW_PRIVATE: '1',
      CORVUN_MAIL_OUT: env.CORVUN_MAIL_OUT ?? `smtp://127.0.0.1:${receive}`,
      CORVUN_FOLDERS: [env.CORVUN_FOLDERS ?? homedir(), join(data, 'outside')].join(delimiter),
    }),
  );
}

let ending = false;
let left = parts.length;
function end(code) {
  if (ending) return;
  ending = true;
  process.exitCode = code;
  for (const part of parts) part.kill('SIGTERM');
  // A part that hangs must not keep the terminal; everything acknowledged is on disk already.
  setTimeout(() => parts.forEach((part) => part.kill('SIGKILL')), 10_000).unref();
}
process.on('SIGINT', () => end(0));
process.on('SIGTERM', () => end(0));
for (const part of parts) {
  part.on('exit', (code) => {
    end(code ?? 1);
    left -= 1;
    if (left === 0) process.exit();
  });
}

async function answers(url) {
  return fetch(url, { signal: AbortSignal.timeout(2000) }).then(
    (response) => response.ok,
    () => false,
  );
}

const shown = host === '0.0.0.0' || host === '::' ? '127.0.0.1' : host;
const pause = () => new Promise((resolve) => setTimeout(resolve, 150));
const wanted = [`http://${shown}:${port}/api/health`, ...(serve ? [] : [`http://127.0.0.1:${outsidePort}/health`])];
while (!ending && !(await Promise.all(wanted.map(answers))).every(Boolean)) await pause();

/** In the demo: until what lies in the connected sources has come in, or a source said that it cannot. */
async function firstLook() {
  const headers = { Authorization: `Bearer ${readFileSync(join(data, 'demo-token'), 'utf8').trim()}` };
  for (let tries = 0; !ending && tries < 200; tries += 1) {
    const response = await fetch(`http://${shown}:${port}/api/sources`, { headers });
    const sources = response.ok ? await response.json() : [];
    if (sources.every((one) => one.lastSuccess || one.problem || one.state === 'paused')) return;
    await pause();
  }
}
if (!serve && !ending) await firstLook().catch(() => undefined);
if (!ending) {
  process.stdout.write(`Corvun is ready at http://${shown}:${port}\n`);
  if (!serve)
    process.stdout.write(`The outside world (send a mail, post in chat, move a card) is at http://127.0.0.1:${outsidePort}\n`);
}
