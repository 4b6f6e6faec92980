import { chromium } from '@playwright/test';
import { headless } from '../testing/chromium';
import { ServerProcess, clear, tempFolder } from '../testing/server';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { paintedAfter } from './painted-after';
import { median, ratio } from './report';

/**
 * Lists with 10,000 tasks: opened from another place, scrolled, one title saved; and the sheet of a task where there are
 * 50,000. The reference is what the same browser needs to paint a line of text after a key.
 */
const ON_LIST = 10_000;
const IN_ALL = Number(process.env['CORVUN_BENCH_TASKS'] ?? 50_000);
const AT_ONCE = 500;
const ROUNDS = 12;

async function main(): Promise<void> {
  const data = tempFolder();
  const server = await ServerProcess.start(data, {
    CORVUN_DEMO: '1',
    CORVUN_WEB: join(__dirname, '..', 'apps/web/dist'),
    CORVUN_ALLOW_PRIVATE: '',
    CORVUN_FOLDERS: '',
  });
  const token = readFileSync(join(data, 'demo-token'), 'utf8').trim();
  const api = async <T>(method: string, path: string, body?: object): Promise<T> => {
    const response = await fetch(`${server.url}/api${path}`, {
      method,
      headers: { Authorization: `Bearer ${token}`, 'Content-Type': 'application/json' },
      ...(body && { body: JSON.stringify(body) }),
    });
    return (await response.json()) as T;
  };
  const { id: list } = await api<{ id: string }>('POST', '/lists', { name: 'Survey' });
  const { id: other } = await api<{ id: string }>('POST', '/lists', { name: 'Old surveys' });
  const fill = async (from: number, to: number, on: string) => {
    for (let at = from; at < to; at += AT_ONCE) {
      const lines = Array.from(
        { length: Math.min(AT_ONCE, to - at) },
        (_, n) => `Count the birds at pole ${at + n} 30 min #site`,
      );
      await api('POST', '/tasks', { lines, list: on });
    }
  };
  const browser = await chromium.launch({ executablePath: headless(), args: ['--no-sandbox'] });
  try {
    await fill(0, ON_LIST, list);
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
    await page.addInitScript('globalThis.__name = (one) => one');
    await page.goto(`${server.url}/lists/${list}`);
    await page.locator('[data-task]').first().waitFor();
    await page.evaluate(() => {
      window.addEventListener('keydown', (event) => {
        if (event.key !== 'F9') return;
        document.getElementById('reference-line')?.remove();
        const line = document.createElement('p');
        line.id = 'reference-line';
        document.body.append(line);
      });
    });
    const reference: number[] = [];
    for (let round = 0; round < ROUNDS; round += 1) {
      await page.evaluate(() => document.getElementById('reference-line')?.remove());
      reference.push(await paintedAfter(page, 'F9', '#reference-line'));
    }
    const bare = median(reference);
    const opened: number[] = [];
    for (let round = 0; round < ROUNDS; round += 1) {
      await page.keyboard.press('N');
      await page.locator('[data-task]').first().waitFor({ state: 'detached' });
      opened.push(await paintedAfter(page, 'L', '[data-task]'));
      await page.goto(`${server.url}/lists/${list}`);
      await page.locator('[data-task]').first().waitFor();
    }
    ratio(`Lists with ${ON_LIST} tasks opened`, median(opened), bare, 150 / bare);
    const scrolledBy = (pixels: number) =>
      page.evaluate(async (step) => {
        const scroller = document.querySelector('[data-task]')?.closest('ul')?.parentElement;
        const times: number[] = [];
        let last = performance.now();
        for (let at = 0; at < 120; at += 1) {
          scroller?.scrollBy(0, step);
          await new Promise(requestAnimationFrame);
          const now = performance.now();
          times.push(now - last);
          last = now;
        }
        return times;
      }, pixels);
    for (const [how, step] of [
      ['scrolling through it, 300 px a frame', 300],
      ['thrown through it, 900 px a frame', 900],
    ] as const) {
      const frames = await scrolledBy(step);
      ratio(`${how}, the longest of 120 frames`, Math.max(...frames), median(frames), 33 / median(frames));
    }
    await page.evaluate(() => document.querySelector('[data-task]')?.closest('ul')?.parentElement?.scrollTo(0, 0));
    await fill(ON_LIST, IN_ALL, other);
    await page.goto(`${server.url}/lists/${list}`);
    await page.locator('[data-task]').first().waitFor();
    const sheets: number[] = [];
    for (let round = 0; round < ROUNDS; round += 1) {
      await page.locator('[data-task]').nth(round).focus();
      sheets.push(await paintedAfter(page, 'Enter', '[data-sheet] #sheet-title'));
      await page.keyboard.press('Escape');
      await page.locator('[data-sheet]').waitFor({ state: 'detached' });
    }
    ratio(`the sheet of a task opened, ${IN_ALL} tasks there`, median(sheets), bare, 100 / bare);
  } finally {
    await browser.close();
    await server.kill();
    clear(data);
  }
}

main().catch((problem: unknown) => {
  process.stderr.write(`${problem instanceof Error ? problem.stack : String(problem)}\n`);
  process.exitCode = 1;
});
