import { spawn, spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, readFileSync, readdirSync, statSync, writeFileSync } from 'node:fs';
import { dirname, join, relative } from 'node:path';
import { fileURLToPath } from 'node:url';

export const root = join(dirname(fileURLToPath(import.meta.url)), '..');
const INSTALLED = join(root, 'node_modules', '.corvun-installed');
export const BUILT = join(root, '.corvun-build.json');

const hash = (text) => createHash('sha256').update(text).digest('hex');

/** Runs a command; its output goes to standard error, so that standard output stays for results. */
export function run(command, args, options = {}) {
  const { status } = spawnSync(command, args, { cwd: root, stdio: ['ignore', 2, 2], ...options });
  if (status !== 0) throw new Error(`${command} ${args.join(' ')} failed`);
}

export const bin = (name) => join(root, 'node_modules', '.bin', name);

function* filesBelow(folder) {
  for (const name of readdirSync(folder)) {
    if (['node_modules', 'dist', 'built'].includes(name) || name.endsWith('.tsbuildinfo')) continue;
    const path = join(folder, name);
    if (statSync(path).isDirectory()) yield* filesBelow(path);
    else yield path;
  }
}

/** What the build depends on, as one hash of paths, sizes and times: unchanged means nothing to do. */
function sourcesHash() {
  const lines = ['packages', 'apps']
    .flatMap((folder) => [...filesBelow(join(root, folder))])
    .sort()
    .map((path) => {
      const { size, mtimeMs } = statSync(path);
      return `${relative(root, path)} ${size} ${mtimeMs}`;
    });
  const how = [
    'tsconfig.base.json',
    'scripts/bundle.mjs',
    'scripts/loader.cjs',
    'scripts/compress.mjs',
    'scripts/describe.mjs',
  ].map((name) => readFileSync(join(root, name), 'utf8'));
  return hash([...lines, ...how].join('\n'));
}

function checkNode() {
  const [major, minor] = process.versions.node.split('.').map(Number);
  if (major < 20 || (major === 20 && minor < 19))
    throw new Error(`Corvun needs Node.js 20.19 or newer; this is ${process.versions.node}.`);
}

/** Installs the packages when the lock file changed since the last time. */
export function install() {
  checkNode();
  const wanted = hash(readFileSync(join(root, 'package-lock.json'), 'utf8'));
  if (existsSync(INSTALLED) && readFileSync(INSTALLED, 'utf8') === wanted) return;
  process.stderr.write('Installing packages …\n');
  run('npm', ['ci', '--no-audit', '--no-fund', '--loglevel=error']);
  writeFileSync(INSTALLED, wanted);
}

/** Builds what changed: packages and applications with the type checker, each application then as one file. */
export async function build() {
  const wanted = sourcesHash();
  const outputs = [
    'apps/server/dist/main.js',
    'apps/server/dist/worker.js',
    'apps/server/dist/planning.worker.js',
    'apps/server/dist/export.worker.js',
    'apps/server/dist/openapi.json',
    'apps/cli/dist/main.js',
    'apps/outside/dist/main.js',
    'apps/web/dist/index.html',
    'apps/extension/dist/background.js',
    'apps/meet/dist/index.html',
  ];
  if (existsSync(BUILT) && readFileSync(BUILT, 'utf8') === wanted && outputs.every((path) => existsSync(join(root, path))))
    return;
  process.stderr.write('Building …\n');
  run(bin('tsc'), ['-b']);
  // What it needs may have been installed a moment ago.
  const { bundle } = await import('./bundle.mjs');
  await bundle();
  for (const name of ['web', 'extension', 'meet'])
    run(bin('vite'), ['build', '--logLevel', 'warn'], {
      cwd: join(root, 'apps', name),
      // A test that builds says otherwise, and gets another, larger application.
      env: { ...process.env, NODE_ENV: 'production' },
    });
  const { describe } = await import('./describe.mjs');
  describe();
  const { compress, firstScript } = await import('./compress.mjs');
  const web = join(root, 'apps/web/dist');
  compress(web);
  compress(join(root, 'apps/meet/dist'));
  const { brotli, gzip } = firstScript(web);
  process.stderr.write(`First script of the web application: ${kilobytes(brotli)} KB (brotli), ${kilobytes(gzip)} KB (gzip)\n`);
  writeFileSync(BUILT, wanted);
}

const kilobytes = (bytes) => Math.ceil(bytes / 1000);

/** Starts a part of Corvun; with `restart` off, its end ends everything. */
export function start(script, env) {
  return spawn(process.execPath, [join(root, script)], {
    cwd: root,
    stdio: ['ignore', 'ignore', 2],
    env: { ...process.env, ...env },
  });
}
