import { spawn, spawnSync } from 'node:child_process';
import { copyFileSync, mkdtempSync, rmSync } from 'node:fs';
import { builtinModules } from 'node:module';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { build } from 'esbuild';
import { root } from './setup.mjs';

/** Left where they are: with a binary or files of their own, or asked for only where they are installed. */
const OUTSIDE = ['libsql', 'piscina', 'typescript'];

/** What becomes one file each: the application, and what it runs in threads. */
const ENTRIES = {
  server: {
    main: 'main',
    worker: 'reading/worker',
    'keeping.worker': 'data/keeping.worker',
    'planning.worker': 'planning/plan.worker',
    'export.worker': 'data/export.worker',
  },
  outside: { main: 'main' },
  cli: { main: 'main' },
};

/** What a library tries to load and does without: drivers of other databases, other transports. */
const leaveMissing = {
  name: 'leave-missing',
  setup(context) {
    context.onResolve({ filter: /^[^./]/ }, async ({ path, kind, pluginData, resolveDir, importer }) => {
      if (pluginData === 'tried' || builtinModules.includes(path.replace(/^node:/, ''))) return undefined;
      const found = await context.resolve(path, { kind, resolveDir, importer, pluginData: 'tried' });
      return found.errors.length ? { path, external: true } : undefined;
    });
  },
};

/** Each application as one file beside its threads: a server made of two thousand files takes its time to start. */
export async function bundle() {
  for (const [name, files] of Object.entries(ENTRIES)) {
    const folder = join(root, 'apps', name);
    rmSync(join(folder, 'dist'), { recursive: true, force: true });
    await build({
      absWorkingDir: folder,
      entryPoints: Object.fromEntries(Object.entries(files).map(([out, from]) => [`${out}.code`, `built/${from}.js`])),
      outdir: 'dist',
      bundle: true,
      platform: 'node',
      target: 'node20',
      minifyWhitespace: true,
      logLevel: 'error',
      external: OUTSIDE,
      plugins: [leaveMissing],
    });
    for (const out of Object.keys(files)) copyFileSync(join(root, 'scripts/loader.cjs'), join(folder, 'dist', `${out}.js`));
  }
  await Promise.all([warm('server'), warm('outside'), warmOnce()]);
}

/** Starts an application once, so that the next start finds it compiled. */
async function warm(name) {
  const data = mkdtempSync(join(tmpdir(), 'corvun-warm-'));
  const ports = { PORT: '0', SMTP_PORT: '0', OUTSIDE_PORT: '0', OUTSIDE_SMTP_PORT: '0', OUTSIDE_IMAP_PORT: '0' };
  const child = spawn(process.execPath, [join(root, 'apps', name, 'dist/main.js')], {
    stdio: ['ignore', 'pipe', 'ignore'],
    env: { ...process.env, ...ports, CORVUN_DATA: data, CORVUN_DEMO: '', CORVUN_WEB: '' },
  });
  const ended = new Promise((resolve) => child.once('exit', resolve));
  await Promise.race([new Promise((resolve) => child.stdout.once('data', resolve)), ended]);
  child.kill('SIGTERM');
  await ended;
  rmSync(data, { recursive: true, force: true });
}

function warmOnce() {
  spawnSync(process.execPath, ['-e', `require(${JSON.stringify(join(root, 'apps/server/dist/worker.js'))})`], {
    stdio: 'ignore',
  });
  const parse = ['parse', 'Warm tomorrow', '--now', '2026-08-03T09:00', '--zone', 'Europe/Vienna', '--json'];
  spawnSync(process.execPath, [join(root, 'apps/cli/dist/main.js'), ...parse], { stdio: 'ignore' });
}
