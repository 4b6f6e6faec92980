import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { chromium } from 'playwright-core';
import { build, install, root, start } from './setup.mjs';

/** The pictures in docs/screenshots, from the demo data at a fixed time: name, place, width, height, theme, keys. */
const SHOTS = [
  ['sort', '/sort', 1280, 800, 'light', ['ArrowDown']],
  ['sort-time', '/sort', 1280, 800, 'light', ['ArrowDown', 't']],
  ['sort-dark', '/sort', 1280, 800, 'dark', ['ArrowDown', 'd']],
  ['sort-phone', '/sort', 390, 844, 'light', []],
  [
    'capture-line',
    '/sort',
    1280,
    800,
    'light',
    ['c', 'type:Call the contractor tomorrow 10:00 for 45 min #call >Boardwalk repair'],
  ],
  ['plan', '/plan', 1280, 800, 'light', []],
  ['plan-dark', '/plan', 1280, 800, 'dark', []],
  ['lists', '/lists', 1280, 800, 'light', []],
];

install();
build();
const data = mkdtempSync(join(tmpdir(), 'corvun-shots-'));
const port = '4790';
const server = start('apps/server/dist/main.js', {
  CORVUN_DATA: data,
  CORVUN_DEMO: '1',
  CORVUN_NOW: '2026-08-03T10:50:00+02:00',
  CORVUN_WEB: join(root, 'apps/web/dist'),
  PORT: port,
  SMTP_PORT: '4791',
});
const url = `http://127.0.0.1:${port}`;
while (
  !(await fetch(`${url}/api/health`).then(
    (response) => response.ok,
    () => false,
  ))
)
  await new Promise((resolve) => setTimeout(resolve, 200));
const browser = await chromium.launch({
  executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium',
  args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking'],
});
for (const [name, path, width, height, colorScheme, keys] of SHOTS) {
  const page = await browser.newPage({ viewport: { width, height }, colorScheme, timezoneId: 'Europe/Vienna' });
  await page.goto(url + path);
  await page.getByRole('link', { name: /^Sort 38/ }).waitFor();
  await page.waitForTimeout(900);
  for (const key of keys) {
    if (key.startsWith('type:')) await page.keyboard.type(key.slice(5));
    else await page.keyboard.press(key);
    await page.waitForTimeout(500);
  }
  await page.screenshot({ path: join(root, 'docs/screenshots', `${name}.png`) });
  await page.close();
}
await browser.close();
server.kill('SIGTERM');
server.on('exit', () => rmSync(data, { recursive: true, force: true }));
