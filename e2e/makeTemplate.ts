import { rmSync } from 'node:fs';
import { TEMPLATE, freePort, startServer } from './corvun';

/** Makes the demo data once for all tests, and takes it away after them. */
export default async function makeTemplate(): Promise<() => void> {
  rmSync(TEMPLATE, { recursive: true, force: true });
  const child = await startServer(TEMPLATE, { PORT: String(await freePort()), SMTP_PORT: String(await freePort()) });
  const ended = new Promise((resolve) => child.removeAllListeners('exit').once('exit', resolve));
  child.kill('SIGTERM');
  await ended;
  return () => rmSync(TEMPLATE, { recursive: true, force: true });
}
