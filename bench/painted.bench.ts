import { chromium, type Page } from '@playwright/test';
import { headless } from '../testing/chromium';
import { spawn } from 'node:child_process';
import { existsSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { median, ratio } from './report';
import { freePort } from '../testing/free-port';

/**
 * From the key that decides to the next incoming painted, in the built application in Chromium: 50 things dropped one after
 * the other. The reference is what the same browser needs to paint a changed line of text after a key, on the same page.
 * The demo data by default; CORVUN_BENCH_DATA names a data folder with other ones, such as the large set.
 */
const ROUNDS = 50;
const ROOT = join(__dirname, '..');

/** Milliseconds from each key to the frame after the one in which `shown` changed. */
async function painted(page: Page, keys: number, key: string, shown: string): Promise<number[]> {
  const times: number[] = [];
  for (let at = 0; at < keys; at += 1) {
    await page.evaluate((selector) => {
      const text = () => document.querySelector(selector)?.textContent ?? '';
      const before = text();
      (window as unknown as { done: Promise<number> }).done = new Promise((resolve) => {
        window.addEventListener(
          'keydown',
          () => {
            const start = performance.now();
            const look = () => {
              const now = text();
              if (now && now !== before) requestAnimationFrame(() => resolve(performance.now() - start));
              else requestAnimationFrame(look);
            };
            requestAnimationFrame(look);
          },
          { once: true, capture: true },
        );
      });
    }, shown);
    await page.keyboard.press(key);
    times.push(await page.evaluate(() => (window as unknown as { done: Promise<number> }).done));
  }
  return times;
}

async function main(): Promise<void> {
  const given = process.env['CORVUN_BENCH_DATA'];
  const data = given && existsSync(given) ? given : mkdtempSync(join(tmpdir(), 'corvun-bench-'));
  const port = await freePort();
  const server = spawn(process.execPath, [join(ROOT, 'apps/server/dist/main.js')], {
    env: {
      ...process.env,
      CORVUN_DATA: data,
      CORVUN_DEMO: '1',
      CORVUN_NOW: '2026-08-03T10:50:00+02:00',
      CORVUN_WEB: join(ROOT, 'apps/web/dist'),
      PORT: String(port),
      SMTP_PORT: String(await freePort()),
    },
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  await new Promise<void>((resolve) => server.stdout.on('data', (text: Buffer) => text.includes('listening') && resolve()));
  const browser = await chromium.launch({ executablePath: headless(), args: ['--no-sandbox'] });
  try {
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
    // The runner that compiles this file wraps functions in a helper that the page does not have.
    await page.addInitScript('globalThis.__name = (one) => one');
    await page.goto(`http://127.0.0.1:${port}/sort`);
    await page.locator('article[aria-label="Sheet"] h2').waitFor();
    const waiting = Number(/^\d+/.exec((await page.getByText(/to decide/).textContent()) ?? '')?.[0] ?? 0);
    await page.evaluate(() => {
      const line = document.createElement('p');
      line.id = 'reference-line';
      line.textContent = '0';
      document.body.append(line);
      window.addEventListener('keydown', (event) => {
        if (event.key === 'F9') line.textContent = String(Number(line.textContent) + 1);
      });
    });
    const reference = await painted(page, ROUNDS, 'F9', '#reference-line');
    // The demo has fewer than fifty waiting: what was dropped is taken back and dropped again.
    const times: number[] = [];
    while (times.length < ROUNDS) {
      const some = Math.min(ROUNDS - times.length, waiting - 8);
      times.push(...(await painted(page, some, 'Backspace', 'article[aria-label="Sheet"]')));
      if (times.length >= ROUNDS) break;
      for (let at = 0; at < some; at += 1) await page.keyboard.press('u');
      await page.getByText(`${waiting} to decide`).waitFor();
      await page.keyboard.press('Home');
      await page.locator('article[aria-label="Sheet"] h2').waitFor();
    }
    if (process.env['SHOW']) process.stdout.write(times.map((one) => one.toFixed(0)).join(' ') + '\n');
    process.stdout.write(`${waiting} waiting\n`);
    ratio('key to next incoming painted, median of 50', median(times), median(reference), 3);
    ratio('key to next incoming painted, worst of 50', Math.max(...times), Math.max(...reference), 6);
  } finally {
    await browser.close();
    server.kill('SIGKILL');
    if (data !== given) rmSync(data, { recursive: true, force: true });
  }
}

main().catch((problem: unknown) => {
  process.stderr.write(`${String(problem)}\n`);
  process.exitCode = 1;
});
