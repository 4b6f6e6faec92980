import { spawnSync } from 'node:child_process';
import { bin, build, install, root } from './setup.mjs';

/** Kills a server 200 times (or as often as is said) while it is written to, and looks for what is lost. */
install();
await build();
const { status } = spawnSync(bin('jest'), ['apps/server/test/kills', '--forceExit'], {
  cwd: root,
  stdio: 'inherit',
  env: { ...process.env, CORVUN_KILLS: process.argv[2] ?? '200' },
});
process.exit(status ?? 1);
