import { readdirSync } from 'node:fs';
import { join } from 'node:path';
import { ExportService } from '../src/data/export.service';
import type { User } from '../src/accounts/user.entity';
import { ownServer, until } from './harness';

const here = ownServer();
const left = () => readdirSync(join(here.server.data, 'uploads'));

it('two exports are written at once, a third waits for its turn, and one that nobody reads any more leaves nothing', async () => {
  const { id } = (await here.maren.get<{ id: string }>('/me')).body;
  const service = here.server.app.get(ExportService);
  const all = [0, 1].map(() => service.stream({ id } as User));
  expect((await here.maren.get('/data/export')).status).toBe(409);
  for (const one of all) {
    await new Promise((resolve) => one.once('readable', resolve));
    one.destroy();
    await new Promise((resolve) => one.once('close', resolve));
  }
  expect(left()).toEqual([]);
  expect((await here.maren.get('/data/export')).status).toBe(200);
  await until(() => Promise.resolve(left().length === 0), 'what was needed meanwhile to go');
});
