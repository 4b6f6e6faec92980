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

try {
  install();
  build();
} catch (problem) {
  process.stderr.write(`${problem.message}\n`);
  process.exit(1);
}

const parts = [
  start('apps/server/dist/main.js', {
    CORVUN_DATA: data,
    CORVUN_WEB: join(root, 'apps/web/dist'),
    CORVUN_DEMO: serve ? '' : '1',
    ...(serve
      ? {}
      : {
          CORVUN_OUTSIDE: `http://127.0.0.1:${outsidePort}`,
          CORVUN_ALLOW_PRIVATE: '1',
          CORVUN_MAIL_OUT: env.CORVUN_MAIL_OUT ?? `smtp://127.0.0.1:${env.OUTSIDE_SMTP_PORT ?? Number(outsidePort) + 1}`,
          CORVUN_FOLDERS: [env.CORVUN_FOLDERS ?? homedir(), join(data, 'outside')].join(delimiter),
        }),
  }),
];
if (!serve) parts.push(start('apps/outside/dist/main.js', { CORVUN_DATA: data, OUTSIDE_PORT: outsidePort }));

let ending = false;
let left = parts.length;
function end(code) {
  if (ending) return;
  ending = true;
  process.exitCode = code;
  for (const part of parts) part.kill('SIGTERM');
  // A part that hangs must not keep the terminal; everything acknowledged is on disk already.
  setTimeout(() => parts.forEach((part) => part.kill('SIGKILL')), 5000).unref();
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
const wanted = [`http://${shown}:${port}/api/health`, ...(serve ? [] : [`http://127.0.0.1:${outsidePort}/health`])];
while (!ending) {
  const all = await Promise.all(wanted.map(answers));
  if (all.every(Boolean)) {
    process.stdout.write(`Corvun is ready at http://${shown}:${port}\n`);
    if (!serve) process.stdout.write(`The outside world (send a mail, post in chat, move a card) is at http://127.0.0.1:${outsidePort}\n`);
    break;
  }
  await new Promise((resolve) => setTimeout(resolve, 150));
}
