import { spawnSync } from 'node:child_process';
import { join } from 'node:path';
import { build, install, root } from './setup.mjs';

try {
  install();
  await build();
} catch (problem) {
  process.stderr.write(`${problem.message}\n`);
  process.exit(1);
}
// npm runs scripts in the project's folder; paths are meant from where the user stands.
const cwd = process.env.INIT_CWD ?? process.cwd();
const { status } = spawnSync(process.execPath, [join(root, 'apps/cli/dist/main.js'), ...process.argv.slice(2)], {
  cwd,
  stdio: 'inherit',
  env: { ...process.env, CORVUN_HOME: root },
});
process.exit(status ?? 1);
