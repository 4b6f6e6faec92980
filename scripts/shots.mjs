import { mkdirSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { chromium } from 'playwright-core';
import { build, install, root, start } from './setup.mjs';

/** The pictures in docs/screenshots, from the demo data at a fixed time: name, place, width, height, theme, keys. */
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
  ['now', 'working', 1280, 800, 'light', ['wait']],
  ['heads-down', '/now', 1280, 800, 'light', ['h', 'wait']],
  // Late: it sets time aside where an invitation would be.
  ['yes', 'crowded', 1280, 800, 'light', ['wait']],
  ['notes', '/sort', 1280, 800, 'light', ['ArrowDown', 'r', 'Tab', 'type:Gauges', 'Enter', 'N']],
  // Last: a pass stays where it was.
  ['open-day', '/sort', 1280, 800, 'light', ['Shift+B', 'wait', '.', '.', '.', 'wait', 'Tab', 'ArrowDown', 'ArrowDown']],
  ['week-review', 'reviewing', 1280, 800, 'dark', ['wait']],
  ['clear-decks', 'clearing', 1280, 800, 'light', ['wait', 'wait']],
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

/** Sets time aside where an invitation would be; gives its address. */
async function crowded() {
  const tasks = await api('/tasks');
  const block = (title, start, minutes) =>
    api('/blocks', { taskId: tasks.find((one) => one.title.startsWith(title)).id, start: `2026-08-05T${start}`, minutes });
  await block('Find out who', '13:45', 45);
  await block('Read the draft', '14:30', 30);
  const { items } = await api('/incoming?limit=100');
  return `/sort/${items.find((one) => one.kind === 'invitation').id}`;
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

/** Begins to look back on the week, at what was not finished; gives the address of all lists. */
async function reviewing() {
  const { id } = await api('/passes', { kind: 'week-review' });
  await api(`/passes/${id}`, { step: 'left' }, 'PATCH');
  return '/lists/all';
}

/** Begins to clear the decks, where a shortlist gets a day each; gives the address of Plan. */
async function clearing() {
  const { id } = await api('/passes', { kind: 'clear-decks' });
  const tasks = (await api('/tasks')).filter(
    ({ status, shelved, waitingOn }) => status === 'NEEDS-ACTION' && !shelved && !waitingOn,
  );
  const soon = tasks.filter(({ deadline, parentId }) => deadline && !parentId).sort((a, b) => (a.deadline < b.deadline ? -1 : 1));
  await api('/shortlist', { picks: soon.slice(-5).map((task) => task.id) }, 'PATCH');
  await api(`/passes/${id}`, { step: 'week' }, 'PATCH');
  return '/plan/2026-08-04';
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

/** Places that are made first. */
const MADE = { crowded, meet, working, reviewing, clearing };
const browser = await chromium.launch({
  executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium',
  args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking'],
});
for (const [name, path, width, height, colorScheme, keys] of SHOTS) {
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
