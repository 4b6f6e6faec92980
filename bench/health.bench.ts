import { spawn } from 'node:child_process';
import { existsSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { ratio } from './report';

const [port, smtpPort] = ['4801', '4802'];
const url = `http://127.0.0.1:${port}`;
/** Milliseconds of the slowest in a hundred that others may wait. */
const AIM = 50;

const percentile = (values: number[], share: number) =>
  [...values].sort((a, b) => a - b)[Math.min(values.length - 1, Math.floor(values.length * share))] ?? Number.NaN;

/** Asks for the health while something goes on; milliseconds of each answer, and what came of it. */
async function during<T>(work: () => Promise<T>): Promise<{ p99: number; took: number; result: T }> {
  let over = false;
  const from = performance.now();
  const working = work().finally(() => (over = true));
  const times: number[] = [];
  do {
    const asked = performance.now();
    await (await fetch(`${url}/api/health`)).text();
    times.push(performance.now() - asked);
    await new Promise((resolve) => setTimeout(resolve, 5));
  } while (!over);
  const result = await working;
  return { p99: percentile(times, 0.99), took: performance.now() - from, result };
}

/** What others wait for at the large size (`CORVUN_SIZE=large`), while somebody asks for very much at once. */
async function main(): Promise<void> {
  const kept = process.env['CORVUN_LARGE'];
  const data = kept && existsSync(kept) ? kept : mkdtempSync(join(tmpdir(), 'corvun-health-'));
  const env = { ...process.env, CORVUN_DATA: data, CORVUN_DEMO: '1', CORVUN_SIZE: 'large', PORT: port, SMTP_PORT: smtpPort };
  const server = spawn(process.execPath, [join(__dirname, '../apps/server/dist/main.js')], {
    env,
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  await new Promise((resolve) => server.stdout.once('data', resolve));
  const headers = { Authorization: `Bearer ${readFileSync(join(data, 'demo-token'), 'utf8').trim()}` };
  const get = async (path: string) => {
    const answer = await fetch(`${url}/api${path}`, { headers });
    return (await answer.arrayBuffer()).byteLength;
  };
  // What is gathered after the start is over.
  await new Promise((resolve) => setTimeout(resolve, 5000));
  const idle = await during(() => new Promise((resolve) => setTimeout(resolve, 3000)));
  const say = async (name: string, work: () => Promise<unknown>) => {
    const { p99, took } = await during(work);
    ratio(
      `health while ${name} (${(took / 1000).toFixed(1)} s), 99th percentile, against nothing going on (${AIM} ms: ${p99 < AIM})`,
      p99,
      idle.p99,
      AIM / idle.p99,
    );
  };
  await say('a fortnight is shown twenty times', async () => {
    for (let at = 0; at < 20; at += 1) await get('/agenda?from=2026-08-03&days=14');
  });
  await say('all tasks are asked for', () => get('/tasks'));
  await say('a proposal is worked out', () => get('/plan/proposal?days=7&what=all'));
  await say('a cost is asked for', () => get('/cost?start=2026-08-04T10:00&minutes=60'));
  await say('everything is exported', () => get('/data/export'));
  const calendars = (await (await fetch(`${url}/api/calendars`, { headers })).json()) as { id: string; origin: string }[];
  const me = (await (await fetch(`${url}/api/me`, { headers })).json()) as { email: string };
  const dav = (method: string, path: string, body: string) =>
    fetch(`${url}${path}`, {
      method,
      body,
      headers: {
        Authorization: `Basic ${Buffer.from(`${me.email}:${headers.Authorization.slice(7)}`).toString('base64')}`,
        Depth: '1',
      },
    }).then((answer) => answer.arrayBuffer());
  const path = `/dav/home/cal-${calendars.find(({ origin }) => origin === 'own')?.id ?? ''}/`;
  const spaces = 'xmlns:d="DAV:" xmlns:c="urn:ietf:params:xml:ns:caldav"';
  await say('a program lists a calendar of tens of thousands', () =>
    dav('PROPFIND', path, `<d:propfind ${spaces}><d:prop><d:getetag/></d:prop></d:propfind>`),
  );
  await say('a program asks for all dates without an end', () =>
    dav(
      'REPORT',
      path,
      `<c:calendar-query ${spaces}><d:prop><d:getetag/></d:prop><c:filter><c:comp-filter name="VCALENDAR"><c:comp-filter name="VEVENT"><c:time-range start="20200101T000000Z"/></c:comp-filter></c:comp-filter></c:filter></c:calendar-query>`,
    ),
  );
  server.kill('SIGTERM');
  await new Promise((resolve) => server.once('exit', resolve));
  if (data !== kept) rmSync(data, { recursive: true, force: true });
}

main().catch((problem: unknown) => {
  process.stderr.write(`${problem instanceof Error ? problem.stack : String(problem)}\n`);
  process.exit(1);
});
