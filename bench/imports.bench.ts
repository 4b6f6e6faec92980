import 'reflect-metadata';
import { createReadStream, mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { simpleParser } from 'mailparser';
import { readMbox, streamCalendar } from '../packages/formats/dist';
import { createApp } from '../apps/server/built/app';
import { AccountsService } from '../apps/server/built/accounts/accounts.service';
import { ImportsService } from '../apps/server/built/imports/imports.service';
import { median, ratio, timed } from './report';

const MAILS = 10_000;
const EVENTS = 50_000;
const MOST_MAIL = 50 * 1024 * 1024;

const letter = (at: number) =>
  `From tomas.rieger@county-water.example Mon Aug  3 10:00:00 2026\nFrom: Tomas Rieger <tomas.rieger@county-water.example>\nTo: maren.holt@alderfen.example\nSubject: Readings ${at}\nDate: Mon, 3 Aug 2026 10:00:00 +0200\nMessage-ID: <mbox-${at}@county-water.example>\nMIME-Version: 1.0\nContent-Type: text/plain; charset=utf-8\n\nHello Maren,\n\ncould you send us the readings of gauge ${at} by Friday, 14 August? It takes about half an hour.\n\n${'The level fell again. '.repeat(30)}\n\nBest regards\nTomas Rieger\n\n`;

const event = (at: number) =>
  `BEGIN:VEVENT\r\nUID:hearing-${at}@county.example\r\nDTSTAMP:20260801T080000Z\r\nDTSTART;TZID=Europe/Vienna:2026${String(1 + (at % 12)).padStart(2, '0')}${String(1 + (at % 28)).padStart(2, '0')}T100000\r\nDURATION:PT45M\r\nSUMMARY:Public hearing ${at}\r\nLOCATION:County hall\r\nDESCRIPTION:Plans are open in room 4.\r\nEND:VEVENT\r\n`;

async function drain(items: AsyncIterable<unknown>): Promise<void> {
  for await (const _ of items);
}

/** Memory held while something runs, in MB: the middle of its second quarter, and of its last. */
async function memoryOf(work: () => Promise<unknown>): Promise<{ took: number; early: number; late: number }> {
  const held: number[] = [];
  const timer = setInterval(() => held.push(process.memoryUsage().rss / 1e6), 100);
  const took = await timed(work);
  clearInterval(timer);
  const quarter = Math.floor(held.length / 4);
  return { took, early: median(held.slice(quarter, 2 * quarter)), late: median(held.slice(3 * quarter)) };
}

/** Files taken in whole (read, cleaned, understood, kept, written) against their parser alone. */
async function main(): Promise<void> {
  const data = mkdtempSync(join(tmpdir(), 'corvun-bench-'));
  Object.assign(process.env, {
    CORVUN_DATA: data,
    CORVUN_DEMO: '',
    CORVUN_NOW: '2026-08-03T10:50:00+02:00',
    PORT: '0',
    SMTP_PORT: '0',
  });
  const app = await createApp(['error']);
  await app.init();
  const account = { name: 'Bench', email: 'bench@alderfen.example', password: 'bench-bench-bench', zone: 'Europe/Vienna' };
  const user = await app.get(AccountsService).create(account);
  const imports = app.get(ImportsService);
  mkdirSync(join(data, 'uploads'), { recursive: true });
  const take = async (name: string, content: string) => {
    const path = join(data, 'uploads', name);
    writeFileSync(path, content);
    return memoryOf(async () => {
      const report = await imports.takeNow(user, [{ name, path }]);
      process.stdout.write(`${name}: ${report.taken} taken, ${report.known} known, ${report.refused.length} refused\n`);
    });
  };
  const mails = (count: number, from = 0) => Array.from({ length: count }, (_, at) => letter(from + at)).join('');

  await take('small.mbox', mails(MAILS / 10, MAILS));
  const whole = join(data, 'whole.mbox');
  writeFileSync(whole, mails(MAILS));
  const parser = await timed(async () => {
    for await (const bytes of readMbox(createReadStream(whole), MOST_MAIL)) if (bytes) await simpleParser(bytes);
  });
  const large = await take('large.mbox', mails(MAILS));
  ratio(`mbox of ${MAILS} mails against the mail parser alone, a mail`, large.took / MAILS, parser / MAILS, 4);
  ratio(`memory in the last quarter of ${MAILS} mails against the second (flat is 1)`, large.late, large.early, 1.2, 'MB');

  const calendar = `BEGIN:VCALENDAR\r\nVERSION:2.0\r\nPRODID:-//Bench//EN\r\n${Array.from({ length: EVENTS }, (_, at) => event(at)).join('')}END:VCALENDAR\r\n`;
  const file = join(data, 'whole.ics');
  writeFileSync(file, calendar);
  const alone = await timed(() => drain(streamCalendar(createReadStream(file), 'Europe/Vienna')));
  const taken = await take('hearings.ics', calendar);
  ratio(`calendar of ${EVENTS} events against its parser alone, an event`, taken.took / EVENTS, alone / EVENTS, 3);
  const again = await take('hearings-again.ics', calendar);
  ratio(`the same calendar once more, all known, against its parser alone, an event`, again.took / EVENTS, alone / EVENTS, 3);
  await app.close();
  rmSync(data, { recursive: true, force: true });
}

main().catch((problem: unknown) => {
  process.stderr.write(`${problem instanceof Error ? problem.stack : String(problem)}\n`);
  process.exit(1);
});
