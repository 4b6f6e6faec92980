import { existsSync, readFileSync, readdirSync, statSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { brotliCompressSync, constants, gzipSync } from 'node:zlib';

const TEXT = /\.(?:js|css|html|svg|json|txt)$/;
/** Smaller ones are one packet anyway. */
const LEAST = 1000;

function* filesBelow(folder) {
  for (const name of readdirSync(folder)) {
    const path = join(folder, name);
    if (statSync(path).isDirectory()) yield* filesBelow(path);
    else yield path;
  }
}

/** Puts a brotli and a gzip beside every text of a folder, for whoever serves it. */
export function compress(folder) {
  for (const path of [...filesBelow(folder)].filter((one) => TEXT.test(one))) {
    const bytes = readFileSync(path);
    if (bytes.length < LEAST) continue;
    const params = {
      [constants.BROTLI_PARAM_QUALITY]: constants.BROTLI_MAX_QUALITY,
      [constants.BROTLI_PARAM_SIZE_HINT]: bytes.length,
    };
    writeFileSync(`${path}.br`, brotliCompressSync(bytes, { params }));
    writeFileSync(`${path}.gz`, gzipSync(bytes, { level: 9 }));
  }
}

/** What a window loads before Sort can be used: bytes as they are served to a browser of today, and to an old one. */
export function firstScript(folder) {
  const manifest = JSON.parse(readFileSync(join(folder, '.vite/manifest.json'), 'utf8'));
  const wanted = new Set();
  const add = (key) => {
    if (wanted.has(key)) return;
    wanted.add(key);
    for (const other of manifest[key].imports ?? []) add(other);
  };
  add('index.html');
  const sum = (ending) =>
    [...wanted].reduce((bytes, key) => {
      const path = join(folder, manifest[key].file);
      return bytes + statSync(existsSync(path + ending) ? path + ending : path).size;
    }, 0);
  return { brotli: sum('.br'), gzip: sum('.gz'), bytes: sum('') };
}
