import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { readCorpus, scoreCorpus } from '../packages/core/corpus/corpus';
import { instantOf } from '../packages/core/dist';

const ZONE = 'Europe/Vienna';
const say = (line: string) => process.stdout.write(`${line}\n`);
const percent = (part: number, of: number) => `${((100 * part) / of).toFixed(1)} %`;

for (const name of ['first', 'second', 'trades', 'trades-second']) {
  const messages = readCorpus(readFileSync(join(__dirname, `../packages/core/corpus/${name}.txt`), 'utf8'));
  const scores = scoreCorpus(messages, instantOf('2026-08-02T18:20', ZONE), ZONE, ['Maren']);
  say(`\nReading, ${name} part of the corpus: ${messages.length} messages`);
  for (const [kind, { right, found, wanted, wrong }] of Object.entries(scores)) {
    say(
      `  ${kind}: precision ${percent(right, found)}, recall ${percent(right, wanted)} (${right} right, ${found} found, ${wanted} there)`,
    );
    if (process.env.SHOW) for (const line of wrong) say(`    ${line}`);
  }
}
