import 'reflect-metadata';
import { createApp } from './app';
import { CONFIG, type Config } from './base/config';
import { DemoService } from './demo/demo.service';

async function main(): Promise<void> {
  const app = await createApp();
  const config = app.get<Config>(CONFIG);
  if (config.demo) await app.get(DemoService).prepare();
  app.getHttpServer().keepAliveTimeout = 65_000;
  await app.listen(config.port, config.host);
  process.stdout.write(`listening on http://${config.host}:${config.port}\n`);
}

main().catch((problem: unknown) => {
  const text = problem instanceof Error ? problem.message : String(problem);
  process.stderr.write(
    /EADDRINUSE/.test(text)
      ? `A port that Corvun needs is taken by another program (${text}). Choose others with PORT, SMTP_PORT and OUTSIDE_PORT.\n`
      : `${problem instanceof Error ? problem.stack : text}\n`,
  );
  process.exit(1);
});
