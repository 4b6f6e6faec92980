import { spawn } from 'node:child_process';
import { delimiter, join } from 'node:path';
import { bin, install, root, run } from './setup.mjs';

/**
 * Server, web application and stand-ins with the demo, each made anew when something of it changes. The application is at
 * http://127.0.0.1:4601; what is kept lies in `tmp/dev`, away from the data of `npm start`.
 */
install();
run(bin('tsc'), ['-b']);

const data = process.env.CORVUN_DATA ?? join(root, 'tmp/dev');
const [port, smtp, outside] = [
  process.env.PORT ?? '4600',
  process.env.SMTP_PORT ?? '4625',
  Number(process.env.OUTSIDE_PORT ?? 4610),
];
const env = {
  ...process.env,
  CORVUN_DATA: data,
  CORVUN_DEMO: '1',
  CORVUN_ALLOW_PRIVATE: '1',
  CORVUN_OUTSIDE: `http://127.0.0.1:${outside}`,
  CORVUN_MAIL_OUT: `smtp://127.0.0.1:${outside + 1}`,
  CORVUN_FOLDERS: [root, join(data, 'outside')].join(delimiter),
  PORT: port,
  SMTP_PORT: smtp,
  OUTSIDE_PORT: String(outside),
};
const begin = (command, args, options = {}) => spawn(command, args, { cwd: root, env, stdio: ['ignore', 2, 2], ...options });
const watched = (name) =>
  begin(process.execPath, ['--watch', '--watch-preserve-output', join(root, 'apps', name, 'built/main.js')]);
const parts = [
  begin(bin('tsc'), ['-b', '--watch', '--preserveWatchOutput']),
  watched('outside'),
  watched('server'),
  begin(bin('vite'), ['--host', '127.0.0.1', '--clearScreen', 'false'], { cwd: join(root, 'apps/web') }),
];

function end() {
  for (const part of parts) part.kill('SIGTERM');
  setTimeout(() => process.exit(), 3000).unref();
}
process.on('SIGINT', end);
process.on('SIGTERM', end);
for (const part of parts) part.on('exit', end);
process.stdout.write('The application, made anew as it is written: http://127.0.0.1:4601\n');
