import { spawnSync } from 'node:child_process';
import { existsSync, mkdirSync, readFileSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { bin, build, install, root } from './setup.mjs';

const results = join(root, 'test-results');
const totals = { passed: 0, failed: 0 };

function step(name, command, args) {
  process.stdout.write(`\n== ${name}\n`);
  const { status } = spawnSync(command, args, { cwd: root, stdio: ['ignore', 1, 2], env: { ...process.env, FORCE_COLOR: '0' } });
  return status === 0;
}

/** A check that is one test: it passes or fails as a whole. */
function check(name, command, args) {
  if (step(name, command, args)) totals.passed += 1;
  else totals.failed += 1;
}

function findChromium() {
  return [process.env.CHROMIUM, '/usr/bin/chromium', '/usr/bin/chromium-browser'].find((path) => path && existsSync(path));
}

/** The browser tests need Debian's Chromium; where it is missing it is installed, when this user may. */
function ensureChromium() {
  if (findChromium()) return;
  process.stdout.write('Installing Chromium …\n');
  const options = { stdio: ['ignore', 2, 2], env: { ...process.env, DEBIAN_FRONTEND: 'noninteractive' } };
  spawnSync('apt-get', ['update', '-qq'], options);
  spawnSync('apt-get', ['install', '-y', '-qq', 'chromium'], options);
  if (!findChromium())
    throw new Error('The browser tests need Chromium at /usr/bin/chromium (or CHROMIUM=path): apt-get install chromium');
}

function readJson(name) {
  const path = join(results, name);
  return existsSync(path) ? JSON.parse(readFileSync(path, 'utf8')) : null;
}

try {
  install();
  await build();
  ensureChromium();
} catch (problem) {
  process.stderr.write(`${problem.message}\n`);
  process.stdout.write('0 passed, 1 failed\n');
  process.exit(1);
}

rmSync(results, { recursive: true, force: true });
mkdirSync(results, { recursive: true });
check('type check of the web application', bin('tsc'), ['-p', 'apps/web']);
check('type check of the extension', bin('tsc'), ['-p', 'apps/extension']);
check('type check of the tests', bin('tsc'), ['-p', 'tsconfig.test.json']);
check('formatting', bin('prettier'), ['--check', '--log-level', 'warn', '.']);
check('lint and import rules', bin('eslint'), ['.']);

const unit = step('core, formats, server, command line', bin('jest'), [
  '--json',
  '--outputFile',
  join(results, 'jest.json'),
  '--silent',
]);
const jest = readJson('jest.json');
totals.passed += jest?.numPassedTests ?? 0;
totals.failed += (jest?.numFailedTests ?? 0) + (jest?.numRuntimeErrorTestSuites ?? 0);
if (!jest || (!unit && jest.success)) totals.failed += 1;

mkdirSync(results, { recursive: true });
const browser = step('the built application in Chromium', bin('playwright'), ['test', '--output', join(results, 'browser')]);
const stats = readJson('e2e.json')?.stats;
totals.passed += stats?.expected ?? 0;
totals.failed += (stats?.unexpected ?? 0) + (stats?.flaky ?? 0);
if (!stats || (!browser && !stats.unexpected)) totals.failed += 1;

process.stdout.write(`\n${totals.passed} passed, ${totals.failed} failed\n`);
process.exit(totals.failed ? 1 : 0);
