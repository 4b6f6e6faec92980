import { join } from 'node:path';
import { firstScript } from './compress.mjs';
import { root } from './setup.mjs';

/** What a window may load before Sort can be used. Bytes, as they are served. */
const MOST = 180_000;

const { brotli } = firstScript(join(root, 'apps/web/dist'));
process.stdout.write(`${brotli} of ${MOST} bytes before Sort can be used\n`);
if (brotli > MOST) {
  process.stdout.write(
    'What is not needed for the first message belongs into a part that is loaded later; see apps/web/src/places.tsx.\n',
  );
  process.exit(1);
}
