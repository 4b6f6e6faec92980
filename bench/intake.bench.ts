import 'reflect-metadata';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { simpleParser } from 'mailparser';
import { createApp } from '../apps/server/built/app';
import { AccountsService } from '../apps/server/built/accounts/accounts.service';
import { Intake } from '../apps/server/built/incoming/intake.service';
import { ratio, timed } from './report';

const COUNT = 400;
const BATCH = 40;

const letter = (at: number) =>
  Buffer.from(
    `From: Tomas Rieger <tomas.rieger@county-water.example>\r\nTo: maren.holt@capture.example\r\nSubject: Readings ${at}\r\nDate: Mon, 3 Aug 2026 10:00:00 +0200\r\nMessage-ID: <bench-${at}@county-water.example>\r\nMIME-Version: 1.0\r\nContent-Type: multipart/alternative; boundary=b\r\n\r\n` +
      `--b\r\nContent-Type: text/plain; charset=utf-8\r\n\r\nHello Maren,\r\n\r\ncould you send us the readings of gauge ${at} by Friday, 14 August? It takes about half an hour.\r\n\r\n${'The level fell again. '.repeat(40)}\r\n\r\nBest regards\r\nTomas Rieger\r\n` +
      `--b\r\nContent-Type: text/html; charset=utf-8\r\n\r\n<p>Hello Maren,</p><p>could you send us the readings of gauge ${at} by <b>Friday, 14 August</b>?</p><p>${'The level fell again. '.repeat(40)}</p>\r\n--b--\r\n`,
  );

/** Mail intake (parse, clean, read, keep on disk, write in a durable transaction) against the mail parser alone. */
async function main(): Promise<void> {
  const data = mkdtempSync(join(tmpdir(), 'corvun-bench-'));
  Object.assign(process.env, { CORVUN_DATA: data, CORVUN_DEMO: '', PORT: '0', SMTP_PORT: '0' });
  const app = await createApp(['error']);
  const user = await app
    .get(AccountsService)
    .create({ name: 'Bench', email: 'bench@alderfen.example', password: 'bench-bench-bench' });
  const intake = app.get(Intake);
  const letters = Array.from({ length: COUNT }, (_, at) => letter(at));
  for (const one of letters.slice(0, 50)) await simpleParser(one);
  // The threads that read load and warm up with the first messages.
  await intake.takeMails(user, letters, 'bench-warm', false);

  const parser = await timed(async () => {
    for (const one of letters) await simpleParser(one);
  });
  const batched = await timed(async () => {
    for (let from = 0; from < COUNT; from += BATCH)
      await intake.takeMails(user, letters.slice(from, from + BATCH), 'bench-batch', false);
  });
  const single = await timed(async () => {
    for (const one of letters) await intake.takeMail(user, one, 'bench-single', true);
  });
  ratio(`mail intake, ${COUNT} messages in batches of ${BATCH}`, batched / COUNT, parser / COUNT, 3);
  ratio(`mail intake, ${COUNT} messages one by one, each durable before its answer`, single / COUNT, parser / COUNT, 15);
  await app.close();
  rmSync(data, { recursive: true, force: true });
}

main().catch((problem: unknown) => {
  process.stderr.write(`${problem instanceof Error ? problem.stack : String(problem)}\n`);
  process.exit(1);
});
