import { readdirSync } from 'node:fs';
import { join } from 'node:path';

const TESTS = join(__dirname, '..');
const GROUPS = 8;

/**
 * Runs every eighth file of the server's tests in one registry of modules: to load the server takes longer than most of them.
 * Each finds the environment as it was, and begins when the one before has ended.
 * @param at from 1
 */
export function group(at: number): void {
  const files = readdirSync(TESTS)
    .filter((name) => name.endsWith('.spec.ts'))
    .sort()
    .filter((_, index) => index % GROUPS === at - 1);
  for (const name of files)
    describe(name, () => {
      const before = { ...process.env };
      afterAll(() => {
        for (const key of Object.keys(process.env)) if (!(key in before)) delete process.env[key];
        Object.assign(process.env, before);
      });
      // eslint-disable-next-line @typescript-eslint/no-require-imports -- hooks of the file belong to its group only when it is loaded here
      require(join(TESTS, name));
    });
}
