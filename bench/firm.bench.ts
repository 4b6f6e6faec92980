import { spawn } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { createTransport } from 'nodemailer';
import { ratio } from './report';

const EVENTS = 50_000;
const [port, smtpPort] = ['4795', '4796'];
const url = `http://127.0.0.1:${port}`;

const percentile = (values: number[], share: number) =>
  [...values].sort((a, b) => a - b)[Math.min(values.length - 1, Math.floor(values.length * share))] ?? Number.NaN;

/** Asks for the health again and again until something is over; milliseconds of each answer. */
async function health(over: () => boolean): Promise<number[]> {
  const times: number[] = [];
  while (!over()) {
    const from = performance.now();
    await (await fetch(`${url}/api/health`)).text();
    times.push(performance.now() - from);
    await new Promise((resolve) => setTimeout(resolve, 8));
  }
  return times;
}

function calendar(): string {
  const first = Date.UTC(2024, 0, 1, 8);
  const events = Array.from({ length: EVENTS }, (_, at) => {
    const start = new Date(first + at * 2_520_000).toISOString().replace(/[-:]|\.\d{3}/g, '');
    return `BEGIN:VEVENT\r\nUID:${at}@fen.example\r\nDTSTAMP:20260801T000000Z\r\nDTSTART:${start}\r\nDURATION:PT30M\r\nSUMMARY:Round ${at}\r\nEND:VEVENT\r\n`;
  });
  return `BEGIN:VCALENDAR\r\nVERSION:2.0\r\n${events.join('')}END:VCALENDAR\r\n`;
}

/** What others wait for while much, or something hostile, is taken in: the health against itself when nothing happens. */
async function main(): Promise<void> {
  const data = mkdtempSync(join(tmpdir(), 'corvun-firm-'));
  const env = { ...process.env, CORVUN_DATA: data, CORVUN_DEMO: '', PORT: port, SMTP_PORT: smtpPort };
  const server = spawn(process.execPath, [join(__dirname, '../apps/server/dist/main.js')], {
    env,
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  await new Promise((resolve) => server.stdout.once('data', resolve));
  const made = await fetch(`${url}/api/account`, {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify({ name: 'Bench', email: 'bench@alderfen.example', password: 'bench-bench-bench' }),
  });
  const headers = { Cookie: made.headers.get('set-cookie')?.split(';')[0] ?? '' };
  const until = Date.now() + 3000;
  const idle = percentile(await health(() => Date.now() > until), 0.99);

  const form = new FormData();
  form.append('files', new Blob([calendar()]), 'fen.ics');
  let done = false;
  const importing = fetch(`${url}/api/import`, { method: 'POST', headers, body: form }).then(async (answer) => {
    const report = (await answer.json()) as { taken: number };
    if (report.taken !== EVENTS) throw new Error(`${report.taken} events were taken`);
    done = true;
  });
  const during = await health(() => done);
  await importing;
  ratio(
    `health while ${EVENTS} events are taken in, 99th percentile, against nothing going on`,
    percentile(during, 0.99),
    idle,
    25,
  );

  const hostile: Record<string, string> = {
    'one element in the other, 2 MB': '<b>'.repeat(660_000),
    'tables in tables, 1.9 MB': '<table><tr><td>'.repeat(130_000),
    'a cell over 30,000 columns and rows': '<table><tr><td colspan=30000 rowspan=30000>x</td></tr></table>',
  };
  const send = async (html: string) => {
    const transport = createTransport({ host: '127.0.0.1', port: Number(smtpPort), ignoreTLS: true });
    const from = performance.now();
    await transport.sendMail({ from: 'x@x.example', to: 'bench@alderfen.example', subject: 's', html });
    transport.close();
    return performance.now() - from;
  };
  await send('<p>Warm</p>');
  const plain = await send('<p>Plain</p>');
  for (const [name, html] of Object.entries(hostile))
    ratio(`a mail with ${name}, against a plain one`, await send(html), plain, 60);
  server.kill('SIGTERM');
  await new Promise((resolve) => server.once('exit', resolve));
  rmSync(data, { recursive: true, force: true });
}

main().catch((problem: unknown) => {
  process.stderr.write(`${problem instanceof Error ? problem.stack : String(problem)}\n`);
  process.exit(1);
});
