import { readdirSync } from 'node:fs';
import { join } from 'node:path';
import { spawnSync } from 'node:child_process';
import { bin, build, install, root } from './setup.mjs';

install();
await build();
const wanted = process.argv.slice(2);
for (const file of readdirSync(join(root, 'bench'))
  .filter((name) => name.endsWith('.bench.ts'))
  .sort()) {
  if (wanted.length && !wanted.some((name) => file.includes(name))) continue;
  const { status } = spawnSync(bin('tsx'), [join(root, 'bench', file)], { cwd: root, stdio: 'inherit' });
  if (status !== 0) process.exit(status ?? 1);
}
