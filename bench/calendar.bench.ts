import 'reflect-metadata';
import { chromium, type Page } from '@playwright/test';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { rrulestr } from 'rrule';
import { AccountsService } from '../apps/server/built/accounts/accounts.service';
import { createApp } from '../apps/server/built/app';
import { newId } from '../apps/server/built/base/ids';
import { Writes } from '../apps/server/built/base/writes';
import { blankEvent } from '../apps/server/built/decisions/blanks';
import { DemoService } from '../apps/server/built/demo/demo.service';
import { Event } from '../apps/server/built/events/event.entity';
import {
  addDays,
  agendaOf,
  busyOf,
  daysFrom,
  freeGaps,
  instantOf,
  occurrences,
  startOfDay,
  takenBy,
  workingTimeOf,
} from '../packages/core/dist';
import { DataSource } from 'typeorm';
import { headless } from '../testing/chromium';
import { paintedAfter } from './painted-after';
import { median, ratio, timed } from './report';

/**
 * 50,000 events over six years with 500 series: the free gaps of a year, expanding against the recurrence library alone,
 * going to another week in Chromium, and a drag across a week of 300 entries by the browser's own trace.
 */
const EVENTS = 50_000;
const SERIES = 500;
const CROWDED = 300;
const ROUNDS = 12;
const ZONE = 'Europe/Vienna';
const FIRST = '2023-08-07';
const DAYS = 6 * 365;
const NOW = '2026-08-03T10:50:00+02:00';
const HOURS = Object.fromEntries([1, 2, 3, 4, 5].map((day) => [day, ['09:00-17:30']]));
const RULES = ['FREQ=WEEKLY', 'FREQ=WEEKLY;INTERVAL=2', 'FREQ=MONTHLY;BYDAY=2TU', 'FREQ=DAILY;INTERVAL=5', 'FREQ=YEARLY'];

const clock = (minutes: number) =>
  `${String(Math.floor(minutes / 60)).padStart(2, '0')}:${String(minutes % 60).padStart(2, '0')}`;

/** Events spread evenly; every so many of them repeats. */
function rows(ownerId: string, calendarId: string): Event[] {
  return Array.from({ length: EVENTS }, (_, at) => {
    const day = addDays(FIRST, (at * 7919) % DAYS);
    const from = 480 + ((at * 37) % 32) * 15;
    const rrule = at % (EVENTS / SERIES) === 0 ? (RULES[(at / 100) % RULES.length] ?? null) : null;
    const times = { start: `${day}T${clock(from)}`, end: `${day}T${clock(from + 30)}`, allDay: false, zone: ZONE };
    return {
      ...blankEvent(times, ZONE, rrule),
      ...{ id: newId(), ownerId, version: 1, created: 0, changed: 0, calendarId, uid: `${at}@bench.example` },
      title: `Round ${at}`,
    };
  });
}

interface Traced {
  name: string;
  ph: string;
  ts: number;
  dur?: number;
  tid: number;
  args?: { name?: string };
}

/** The longest piece of work of the page's main thread in the browser's trace of what is done meanwhile; milliseconds. */
async function longest(page: Page, work: () => Promise<void>): Promise<number[]> {
  const client = await page.context().newCDPSession(page);
  const events: Traced[] = [];
  client.on('Tracing.dataCollected', ({ value }) => events.push(...(value as unknown as Traced[])));
  const over = new Promise<void>((resolve) => client.once('Tracing.tracingComplete', () => resolve()));
  await client.send('Tracing.start', { categories: 'toplevel,devtools.timeline,__metadata', transferMode: 'ReportEvents' });
  await work();
  await client.send('Tracing.end');
  await over;
  const main = events.find(({ name, args }) => name === 'thread_name' && args?.name === 'CrRendererMain')?.tid;
  const tasks = events.filter(
    ({ name, tid, dur }) => tid === main && dur !== undefined && /RunTask|ThreadControllerImpl/.test(name),
  );
  return tasks.map(({ dur = 0 }) => dur / 1000).sort((a, b) => b - a);
}

async function main(): Promise<void> {
  const data = mkdtempSync(join(tmpdir(), 'corvun-bench-'));
  Object.assign(process.env, {
    CORVUN_DATA: data,
    CORVUN_DEMO: '1',
    CORVUN_NOW: NOW,
    CORVUN_WEB: join(__dirname, '..', 'apps/web/dist'),
    PORT: '0',
    SMTP_PORT: '0',
  });
  const app = await createApp(['error']);
  await app.get(DemoService).prepare();
  const user = await app.get(AccountsService).byEmail('maren.holt@alderfen.example');
  if (!user) throw new Error('the demo user is missing');
  const source = app.get(DataSource);
  const [calendar] = await source.query<{ id: string }[]>('SELECT id FROM calendar WHERE ownerId = ? AND main = 1', [user.id]);
  const all = rows(user.id, calendar?.id ?? '');
  const writes = app.get(Writes);
  for (let at = 0; at < all.length; at += 500) await writes.write((manager) => manager.insert(Event, all.slice(at, at + 500)));

  const year = daysFrom('2026-01-01', 365);
  const window = { start: startOfDay('2026-01-01', ZONE), end: startOfDay('2027-01-01', ZONE) };
  const own = all.filter(({ startAt, endAt }) => startAt < window.end && (endAt === null || endAt > window.start));
  const calendars = [{ id: calendar?.id ?? '', shown: true, busy: true }];
  const expand = () =>
    agendaOf(
      own.map((row) => [row]),
      [],
      calendars,
      window,
      ZONE,
    ).events;
  const dates = expand();
  const [expanded, gaps]: [number[], number[]] = [[], []];
  const working = year.flatMap((day) => workingTimeOf(day, HOURS, ZONE));
  for (let round = 0; round < ROUNDS; round += 1) {
    expanded.push(await timed(expand));
    gaps.push(await timed(() => freeGaps(working, takenBy(busyOf(dates)), 30)));
  }
  process.stdout.write(`${dates.length} dates in a year of ${EVENTS} events\n`);
  ratio('free gaps of a year, its dates known', median(gaps), median(expanded), 50 / median(expanded));

  const series = all.filter(({ rrule }) => rrule !== null);
  const [ours, library]: [number[], number[]] = [[], []];
  for (let round = 0; round < ROUNDS; round += 1) {
    ours.push(await timed(() => series.map((row) => occurrences(row, window.start, window.end, ZONE).length)));
    library.push(
      await timed(() =>
        series.map(({ rrule, start }) => {
          const wall = (day: string) => new Date(`${day}Z`);
          const rule = rrulestr(`RRULE:${rrule ?? ''}`, { dtstart: wall(`${start}:00`) });
          return rule
            .between(wall('2026-01-01T00:00:00'), wall('2027-01-01T00:00:00'))
            .map((date) => instantOf(date.toISOString().slice(0, 16), ZONE));
        }),
      ),
    );
  }
  ratio(`expanding ${SERIES} series over a year`, median(ours), median(library), 1.5);

  await app.listen(0, '127.0.0.1');
  const { port } = app.getHttpServer().address() as { port: number };
  const url = `http://127.0.0.1:${port}`;
  const token = readFileSync(join(data, 'demo-token'), 'utf8').trim();
  const browser = await chromium.launch({ executablePath: headless(), args: ['--no-sandbox'] });
  try {
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
    await page.addInitScript('globalThis.__name = (one) => one');
    const turning = async (from: string, rest: number): Promise<number[]> => {
      await page.goto(`${url}/plan/${from}`);
      await page.locator(`[data-day="${from}"] [data-entry]`).first().waitFor();
      const weeks: number[] = [];
      for (let round = 1; round <= ROUNDS; round += 1) {
        weeks.push(await paintedAfter(page, 'ArrowRight', `[data-day="${addDays(from, 7 * round)}"] [data-entry]`));
        await page.waitForTimeout(rest);
      }
      return weeks;
    };
    // A look at each week; the one after it is asked for meanwhile.
    const looked = await turning('2026-09-07', 900);
    ratio('going to another week, painted', median(looked), 1000 / 60, 100 / (1000 / 60));
    ratio('the slowest of them', Math.max(...looked), 1000 / 60, 100 / (1000 / 60));
    // On through weeks that nobody had time to ask for.
    const through = await turning('2026-01-05', 0);
    ratio('one week after the other without a look', median(through), 1000 / 60, 250 / (1000 / 60));
    ratio('the slowest of these', Math.max(...through), 1000 / 60, 400 / (1000 / 60));

    const days = ['2027-03-01', '2027-03-02', '2027-03-03', '2027-03-04', '2027-03-05'];
    const crowded = [user.id, instantOf('2027-03-06T00:00', ZONE), instantOf('2027-03-01T00:00', ZONE)];
    await writes.write((manager) =>
      manager.query('DELETE FROM event WHERE ownerId = ? AND startAt < ? AND (endAt IS NULL OR endAt > ?)', crowded),
    );
    const blocks = Array.from({ length: CROWDED }, (_, at) => ({
      kind: 'quiet',
      title: `Round ${at}`,
      start: `${days[at % 5]}T${clock(420 + Math.floor(at / 5) * 12)}`,
      minutes: 12,
    }));
    for (let at = 0; at < CROWDED; at += 100)
      await fetch(`${url}/api/blocks/several`, {
        method: 'POST',
        headers: { Authorization: `Bearer ${token}`, 'Content-Type': 'application/json' },
        body: JSON.stringify({ blocks: blocks.slice(at, at + 100) }),
      });
    await page.goto(`${url}/plan/2027-03-01`);
    const slip = page.locator('[data-day="2027-03-02"] [data-entry]').nth(8);
    await slip.waitFor();
    const shown = await page.locator('[data-entry]').count();
    await slip.scrollIntoViewIfNeeded();
    const box = await slip.boundingBox();
    const from = { x: (box?.x ?? 0) + 30, y: (box?.y ?? 0) + 5 };
    const tasks = await longest(page, async () => {
      await page.mouse.move(from.x, from.y);
      await page.mouse.down();
      for (let step = 1; step <= 120; step += 1) {
        await page.mouse.move(from.x + step * 5, from.y + Math.sin(step / 8) * 60);
        await page.evaluate(() => new Promise(requestAnimationFrame));
      }
    });
    await page.keyboard.press('Escape');
    await page.mouse.up();
    process.stdout.write(
      `${shown} entries in the week; longest work of the main thread: ${tasks
        .slice(0, 6)
        .map((one) => one.toFixed(0))
        .join(', ')} ms\n`,
    );
    ratio('a drag across it, the longest frame by the trace', tasks[0] ?? NaN, 1000 / 60, 33 / (1000 / 60));
  } finally {
    await browser.close();
    await app.close();
    rmSync(data, { recursive: true, force: true });
  }
}

main().catch((problem: unknown) => {
  process.stderr.write(`${problem instanceof Error ? problem.stack : String(problem)}\n`);
  process.exitCode = 1;
});
