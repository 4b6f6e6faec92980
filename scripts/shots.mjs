import { mkdirSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { chromium } from 'playwright-core';
import { build, install, root, start } from './setup.mjs';

/** The pictures in docs/screenshots, from the demo data at a fixed time: name, place, width, height, theme, keys. With an argument only that one. */
const SHOTS = [
  ['sort', '/sort', 1280, 800, 'light', ['ArrowDown']],
  ['sort-phone', '/sort', 390, 844, 'light', []],
  ['plan', '/plan', 1280, 800, 'light', []],
  ['plan-draft-dark', '/plan', 1280, 800, 'dark', ['d', 'wait']],
  ['event-sheet', '/plan', 1280, 800, 'light', ['click:Event: Stand-up at the hut', 'ArrowDown', 'Enter', 'wait']],
  ['lists', '/lists/all?group=deadline', 1280, 800, 'light', []],
  ['task-sheet', '/lists', 1280, 800, 'light', ['ArrowDown', 'ArrowDown', 'Enter', 'wait']],
  ['settings', '/settings#hours', 1280, 800, 'light', ['wait']],
  ['find', '/find?q=gauge%20%2Bmail', 1280, 800, 'light', []],
  ['sources', '/sources', 1280, 800, 'light', []],
  ['meet', 'meet', 1280, 800, 'light', []],
  ['data', '/data', 1280, 800, 'light', ['click:Back up now', 'wait', 'click:Check everything', 'wait']],
  ['day-log', '/look-back/log/2026-07-31', 1280, 800, 'light', ['wait']],
  ['time-ledger', '/look-back/ledger', 1280, 800, 'light', ['wait', 'wait']],
  ['questions-dark', '/look-back/questions', 1280, 800, 'dark', ['wait']],
  ['now', 'working', 1280, 800, 'light', ['wait']],
  ['heads-down', '/now', 1280, 800, 'light', ['h', 'wait']],
  ['notes', '/notes', 1280, 800, 'light', ['wait']],
  // Last: a pass stays where it was.
  ['open-day', '/sort', 1280, 800, 'light', ['Shift+B', 'wait', '.', '.', '.', 'wait', 'Tab', 'ArrowDown', 'ArrowDown']],
];

install();
await build();
// Its name stands in the picture of Data.
const data = join(tmpdir(), 'corvun', 'data');
rmSync(data, { recursive: true, force: true });
mkdirSync(data, { recursive: true });
const port = '4790';
const outside = start('apps/outside/dist/main.js', {
  CORVUN_DATA: data,
  CORVUN_NOW: '2026-08-03T10:50:00+02:00',
  OUTSIDE_PORT: '4792',
  SMTP_PORT: '4791',
});
const server = start('apps/server/dist/main.js', {
  CORVUN_OUTSIDE: 'http://127.0.0.1:4792',
  CORVUN_ALLOW_PRIVATE: '1',
  CORVUN_DATA: data,
  CORVUN_DEMO: '1',
  CORVUN_MAIL_OUT: 'smtp://127.0.0.1:4791',
  CORVUN_NOW: '2026-08-03T10:50:00+02:00',
  CORVUN_WEB: join(root, 'apps/web/dist'),
  PORT: port,
  SMTP_PORT: '4791',
});
const url = `http://127.0.0.1:${port}`;
const ready = async () => {
  const answers = () =>
    fetch(`${url}/api/health`).then(
      (response) => response.ok,
      () => false,
    );
  while (!(await answers())) await new Promise((resolve) => setTimeout(resolve, 200));
};
await ready();

async function api(path, body, method = body ? 'POST' : 'GET') {
  const token = readFileSync(join(data, 'demo-token'), 'utf8').trim();
  const response = await fetch(`${url}/api${path}`, {
    method,
    headers: { Authorization: `Bearer ${token}`, 'Content-Type': 'application/json' },
    ...(body ? { body: JSON.stringify(body) } : {}),
  });
  return response.json();
}

/** Gives what runs its steps, notes and a stretch of time; gives the address of Now. */
async function working() {
  const { days } = await api('/days?from=2026-08-03&days=1');
  const { taskId } = days[0].entries.find((one) => one.kind === 'block');
  const lines = ['Collect the loggers’ sheets', 'Sum per month, mark the gap in June', 'Table 4 into the report'];
  const { ids } = await api('/tasks', { parent: taskId, lines });
  await api(`/tasks/${ids[0]}`, { status: 'COMPLETED' }, 'PATCH');
  await api(`/tasks/${taskId}`, { notes: 'Gauge 14 has a gap in June.\n\n- round to full litres' }, 'PATCH');
  await api(`/tasks/${taskId}/time`, { minutes: 25, start: '2026-08-03T09:10' });
  return '/now';
}

/** Makes a page on which others choose a time; gives its address. */
async function meet() {
  await api('/meet-pages', {
    name: 'Half an hour on the gauges',
    about: 'Whatever you want to know of the north bank before the works begin.',
    place: 'Hut',
    lengths: [30, 60],
    buffer: 15,
    perDay: 2,
  });
  const { pages } = await api('/others');
  return pages[0].path;
}

const only = process.argv[2];
/** Places that are made first. */
const MADE = { meet, working };
const browser = await chromium.launch({
  executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium',
  args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking'],
});
for (const [name, path, width, height, colorScheme, keys] of SHOTS.filter(([name]) => !only || name === only)) {
  const page = await browser.newPage({ viewport: { width, height }, colorScheme, timezoneId: 'Europe/Vienna' });
  const make = MADE[path];
  await page.goto(url + (make ? await make() : path));
  await page.getByRole(path === 'meet' ? 'list' : 'link', { name: path === 'meet' ? 'Free times' : /^Sort \d+/ }).waitFor();
  await page.waitForTimeout(900);
  for (const key of keys) {
    if (key === 'wait') await page.waitForTimeout(2500);
    else if (key.startsWith('click:')) await page.getByRole('button', { name: key.slice(6) }).click();
    else if (key.startsWith('radio:')) await page.getByRole('radio', { name: key.slice(6), exact: true }).click();
    else if (key.startsWith('type:')) await page.keyboard.type(key.slice(5));
    else await page.keyboard.press(key);
    await page.waitForTimeout(500);
  }
  await page.screenshot({ path: join(root, 'docs/screenshots', `${name}.png`) });
  await page.close();
}

await browser.close();
server.kill('SIGTERM');
outside.kill('SIGTERM');
server.on('exit', () => rmSync(data, { recursive: true, force: true }));
