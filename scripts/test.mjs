import { spawn, spawnSync } from 'node:child_process';
import { existsSync, mkdirSync, readFileSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { bin, build, install, root } from './setup.mjs';

const results = join(root, 'test-results');
const totals = { passed: 0, failed: 0, skipped: 0 };
const wanted = process.argv[2] ?? 'all';
const PARTS = ['all', 'checks', 'unit', 'server', 'browser'];

const seconds = (from) => `${Math.round((Date.now() - from) / 1000)} s`;

/** Runs a step; what it says is shown in one piece when it is over, because others run beside it. Gives whether it passed. */
function step(name, command, args) {
  const from = Date.now();
  return new Promise((resolve) => {
    const child = spawn(command, args, {
      cwd: root,
      stdio: ['ignore', 'pipe', 'pipe'],
      env: { ...process.env, FORCE_COLOR: '0' },
    });
    let said = '';
    for (const stream of [child.stdout, child.stderr]) stream.on('data', (bytes) => (said += bytes.toString()));
    child.once('close', (status) => {
      process.stdout.write(`\n== ${name}: ${status === 0 ? 'passed' : 'FAILED'} in ${seconds(from)}\n${said.trimEnd()}\n`);
      resolve(status === 0);
    });
  });
}

/** A check that is one test: it passes or fails as a whole. */
async function check(name, command, args) {
  if (await step(name, command, args)) totals.passed += 1;
  else totals.failed += 1;
}

function readJson(name) {
  const path = join(results, name);
  return existsSync(path) ? JSON.parse(readFileSync(path, 'utf8')) : null;
}

async function jest(project, workers) {
  const file = `${project}.json`;
  const args = [
    '--selectProjects',
    project,
    `--maxWorkers=${workers}`,
    '--json',
    '--outputFile',
    join(results, file),
    '--silent',
  ];
  const passed = await step(`${project} tests`, bin('jest'), args);
  const found = readJson(file);
  totals.passed += found?.numPassedTests ?? 0;
  totals.skipped += found?.numPendingTests ?? 0;
  totals.failed += (found?.numFailedTests ?? 0) + (found?.numRuntimeErrorTestSuites ?? 0);
  if (!found || (!passed && found.success)) totals.failed += 1;
}

async function browser() {
  const passed = await step('browser tests', bin('playwright'), ['test', '--output', join(results, 'browser')]);
  const stats = readJson('e2e.json')?.stats;
  totals.passed += stats?.expected ?? 0;
  totals.skipped += stats?.skipped ?? 0;
  totals.failed += (stats?.unexpected ?? 0) + (stats?.flaky ?? 0);
  if (!stats || (!passed && !stats.unexpected)) totals.failed += 1;
}

async function checks() {
  await check('size of the first script', process.execPath, ['scripts/size.mjs']);
  await check('type check of the web application', bin('tsc'), ['-p', 'apps/web']);
  await check('type check of the extension', bin('tsc'), ['-p', 'apps/extension']);
  await check('type check of the pages for others', bin('tsc'), ['-p', 'apps/meet']);
  await check('type check of the tests', bin('tsc'), ['-p', 'tsconfig.test.json']);
  await check('circles of imports', bin('depcruise'), ['--config', '.dependency-cruiser.cjs', ...CRUISED]);
  await check('formatting', bin('prettier'), ['--check', '--log-level', 'warn', '--cache', '.']);
  await check('lint and import rules', bin('eslint'), ['--cache', '--cache-location', 'node_modules/.cache/eslint/', '.']);
}

const CRUISED = ['packages', 'apps', 'testing', 'e2e', 'bench'];
const CHROMIUM = [process.env.CHROMIUM, '/usr/bin/chromium'];
/** Not needed: without it the same tests take longer. */
const SHELL = [process.env.CHROMIUM, '/usr/bin/chromium-headless-shell'];
const there = (paths) => paths.some((path) => path && existsSync(path));

/** What Debian has and tests need: installed where it is missing, when this user may. */
function ensurePrograms(...programs) {
  const missing = programs.filter(({ paths }) => !there(paths));
  if (!missing.length) return;
  const names = missing.map(({ name }) => name);
  process.stdout.write(`Installing ${names.join(' and ')} …\n`);
  const options = { stdio: ['ignore', 2, 2], env: { ...process.env, DEBIAN_FRONTEND: 'noninteractive' } };
  spawnSync('apt-get', ['update', '-qq'], options);
  spawnSync('apt-get', ['install', '-y', '-qq', '--no-install-recommends', ...names], options);
  for (const { name, paths, needed } of missing)
    if (needed && !there(paths)) throw new Error(`The browser tests need ${name} at ${paths.at(-1)}: apt-get install ${name}`);
}

const all = wanted === 'all';
try {
  if (!PARTS.includes(wanted)) throw new Error(`There is no part "${wanted}"; there are ${PARTS.join(', ')}.`);
  install();
  await build();
  ensurePrograms(
    ...(all || wanted === 'browser'
      ? [
          { name: 'chromium', paths: CHROMIUM, needed: true },
          { name: 'chromium-headless-shell', paths: SHELL, needed: false },
        ]
      : []),
    ...(all || wanted === 'server'
      ? [
          { name: 'dovecot-imapd', paths: ['/usr/sbin/dovecot'], needed: false },
          { name: 'radicale', paths: ['/usr/bin/radicale'], needed: false },
          { name: 'vdirsyncer', paths: ['/usr/bin/vdirsyncer'], needed: false },
          { name: 'python3-caldav', paths: ['/usr/lib/python3/dist-packages/caldav'], needed: false },
        ]
      : []),
  );
} catch (problem) {
  process.stderr.write(`${problem.message}\n`);
  process.stdout.write('0 passed, 1 failed\n');
  process.exit(1);
}

rmSync(results, { recursive: true, force: true });
mkdirSync(results, { recursive: true });
const from = Date.now();
if (all) {
  // Much of the server's and the browser's tests is waiting; what only computes goes beside them.
  const beside = checks().then(() => jest('unit', 1));
  await jest('server', 2);
  await browser();
  await beside;
} else if (wanted === 'checks') await checks();
else if (wanted === 'browser') await browser();
else await jest(wanted, 2);

process.stdout.write(`\nTested in ${seconds(from)}.\n`);
if (totals.skipped) process.stdout.write(`${totals.skipped} skipped: a program that they need is not on this machine.\n`);
process.stdout.write(`${totals.passed} passed, ${totals.failed} failed\n`);
process.exit(totals.failed ? 1 : 0);
