import 'reflect-metadata';
import { createApp } from './app';
import { CONFIG, ConfigError, readConfig, type Config } from './base/config';
import { DemoService } from './demo/demo.service';

async function main(): Promise<void> {
  readConfig(process.env);
  const app = await createApp();
  const config = app.get<Config>(CONFIG);
  if (config.demo) await app.get(DemoService).prepare();
  app.getHttpServer().keepAliveTimeout = 65_000;
  await app.listen(config.port, config.host);
  process.stdout.write(`listening on http://${config.host}:${config.port}\n`);
}

/** What went wrong at the start, for whoever started it: a sentence where there is one. */
function explain(problem: unknown): string {
  if (problem instanceof ConfigError) return problem.message;
  const text = problem instanceof Error ? (problem.stack ?? problem.message) : String(problem);
  if (!/EADDRINUSE/.test(text)) return text;
  const where = problem instanceof Error ? problem.message : text;
  return `A port that Corvun needs is taken by another program (${where}). Choose others with PORT, SMTP_PORT and OUTSIDE_PORT.`;
}

main().catch((problem: unknown) => {
  process.stderr.write(`${explain(problem)}\n`);
  process.exit(1);
});
