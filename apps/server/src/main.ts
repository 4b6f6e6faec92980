import 'reflect-metadata';
import { KeepingError, backUpBeside, inspectFolder, prune } from '@corvun/keeping';
import type { NestExpressApplication } from '@nestjs/platform-express';
import type { AddressInfo } from 'node:net';
import { createApp } from './app';
import { CONFIG, ConfigError, readConfig, type Config } from './base/config';
import { asRefusal } from './base/database-problem';
import { MIGRATION_NAMES } from './base/migration-names';
import { Refusal } from './base/refusal';
import { DemoService } from './demo/demo.service';
import { SmtpService } from './incoming/smtp.service';

/** Milliseconds that what has begun is waited for at the end; whoever started Corvun waits longer. */
const GRACE = 6000;
/** Backups before migrations, and how many of them are kept. */
const BEFORE = 'before';
const KEPT_BEFORE = 3;

async function main(): Promise<void> {
  // Whatever is written, from here on and by whichever library, is this user's alone.
  process.umask(0o077);
  const { data } = readConfig(process.env);
  const { known, pending } = inspectFolder(data, MIGRATION_NAMES);
  // What a migration does cannot be taken back by Corvun itself; the folder as it was can be.
  if (known && pending.length) {
    await backUpBeside(data, `${BEFORE}-${pending.at(-1)}`);
    await prune(data, BEFORE, KEPT_BEFORE);
  }
  const app = await createApp();
  const config = app.get<Config>(CONFIG);
  if (config.demo) await app.get(DemoService).prepare();
  await app.listen(config.port, config.host);
  endWith(app);
  const { port } = app.getHttpServer().address() as AddressInfo;
  process.stdout.write(`listening on http://${config.host}:${port}, mail on ${app.get(SmtpService).port}\n`);
}

/** At SIGTERM or SIGINT: nothing new is begun, what has begun is finished, and everything stands in the database file. */
function endWith(app: NestExpressApplication): void {
  let ending = false;
  const end = () => {
    if (ending) return;
    ending = true;
    const server = app.getHttpServer();
    // A browser keeps its connections for a minute; only those that wait for an answer are waited for.
    const idle = setInterval(() => server.closeIdleConnections(), 50);
    setTimeout(() => server.closeAllConnections(), GRACE).unref();
    app
      .close()
      .catch((problem: unknown) => process.stderr.write(`${explain(problem)}\n`))
      .finally(() => {
        clearInterval(idle);
        process.exit(0);
      });
  };
  process.on('SIGTERM', end);
  process.on('SIGINT', end);
}

/** What went wrong at the start, for whoever started it: a sentence where there is one. */
function explain(problem: unknown): string {
  if (problem instanceof ConfigError || problem instanceof KeepingError) return problem.message;
  const refusal = problem instanceof Refusal ? problem : asRefusal(problem);
  if (refusal) return `Corvun cannot start. ${refusal.message}`;
  const text = problem instanceof Error ? (problem.stack ?? problem.message) : String(problem);
  if (!/EADDRINUSE/.test(text)) return text;
  const where = problem instanceof Error ? problem.message : text;
  return `A port that Corvun needs is taken by another program (${where}). Choose others with PORT, SMTP_PORT and OUTSIDE_PORT.`;
}

main().catch((problem: unknown) => {
  process.stderr.write(`${explain(problem)}\n`);
  process.exit(1);
});
