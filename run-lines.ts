import { readFileSync } from 'node:fs';
import { differs, readLines } from './packages/core/corpus/lines';
import { instantOf } from './packages/core/src/time/zones';
const now = instantOf('2026-08-03T09:00', 'Europe/Vienna');
const all = readLines(readFileSync(process.argv[2]!, 'utf8'));
let right = 0;
for (const one of all) { const d = differs(one, now, 'Europe/Vienna'); if (d.length) console.log(one.text, '\n    ', d.join('; ')); else right++; }
console.log(right, 'of', all.length);
