import { chromium } from '@playwright/test';
import { headless } from '../testing/chromium';
import { ServerProcess, clear, tempFolder } from '../testing/server';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { paintedAfter } from './painted-after';
import { median, ratio, timed } from './report';

/**
 * Now where there are 50,000 open tasks: opened from another place, against what the same browser needs to paint a line of
 * text after a key; what it asks the server for, against an answer that asks the database for nothing.
 */
const TASKS = Number(process.env['CORVUN_BENCH_TASKS'] ?? 50_000);
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
  const api = async (method: string, path: string, body?: object): Promise<unknown> => {
    const response = await fetch(`${server.url}/api${path}`, {
      method,
      headers: { Authorization: `Bearer ${token}`, 'Content-Type': 'application/json' },
      ...(body && { body: JSON.stringify(body) }),
    });
    return response.json();
  };
  const { id: list } = (await api('POST', '/lists', { name: 'Survey' })) as { id: string };
  for (let at = 0; at < TASKS; at += AT_ONCE) {
    const lines = Array.from({ length: AT_ONCE }, (_, n) => `Count the birds at pole ${at + n} 30 min #site`);
    await api('POST', '/tasks', { lines, list });
  }
  const browser = await chromium.launch({ executablePath: headless(), args: ['--no-sandbox'] });
  try {
    const several = async (path: string) => {
      const times: number[] = [];
      for (let round = 0; round < ROUNDS; round += 1) times.push(await timed(() => api('GET', path)));
      return median(times);
    };
    const bare = await several('/health');
    ratio(`what Now asks for, ${TASKS} tasks there`, await several('/now'), bare, 100 / bare);
    ratio('what fits into 40 min', await several('/now/fits?minutes=40'), bare, 500 / bare);

    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
    await page.addInitScript('globalThis.__name = (one) => one');
    await page.goto(`${server.url}/notes`);
    await page.getByRole('link', { name: 'Now', exact: true }).waitFor();
    await page.evaluate(() => {
      window.addEventListener('keydown', (event) => {
        if (event.key !== 'F9') return;
        const line = document.createElement('p');
        line.id = 'reference-line';
        document.body.append(line);
      });
    });
    const reference: number[] = [];
    const opened: number[] = [];
    await page.keyboard.press('J');
    await page.locator('[aria-label="What runs"]').waitFor();
    for (let round = 0; round < ROUNDS; round += 1) {
      await page.evaluate(() => document.getElementById('reference-line')?.remove());
      reference.push(await paintedAfter(page, 'F9', '#reference-line'));
      await page.keyboard.press('N');
      await page.locator('[aria-label="What runs"]').waitFor({ state: 'detached' });
      opened.push(await paintedAfter(page, 'J', '[aria-label="What runs"]'));
    }
    const line = median(reference);
    ratio(`Now opened, ${TASKS} tasks there`, median(opened), line, 100 / line);
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
