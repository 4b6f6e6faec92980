import { readFileSync } from 'node:fs';
import { readCorpus, scoreCorpus } from './packages/core/corpus/corpus';
import { instantOf } from './packages/core/src/time/zones';
for (const f of process.argv.slice(2)) {
  const s = scoreCorpus(readCorpus(readFileSync(`packages/core/corpus/${f}.txt`, 'utf8')), instantOf('2026-08-02T18:20', 'Europe/Vienna'), 'Europe/Vienna', ['Maren', 'Maren Holt']);
  let [r, n] = [0, 0];
  for (const [k, v] of Object.entries(s)) { console.log(f, k, v.right, 'of', v.wanted, 'found', v.found); for (const w of v.wrong) console.log('    ', w); r += v.right; n += Math.max(v.wanted, v.found); }
  console.log(f, r, n, Math.round(1000 * r / n) / 10);
}
