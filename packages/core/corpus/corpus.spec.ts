import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { instantOf } from '../src/time/zones';
import { readCorpus, scoreCorpus, type Score } from './corpus';
import { differs, readLines } from './lines';

const ZONE = 'Europe/Vienna';
const WRITTEN = instantOf('2026-08-02T18:20', ZONE);

const corpus = (name: string) => readCorpus(readFileSync(join(__dirname, `${name}.txt`), 'utf8'));
const enough = ({ right, found, wanted, wrong }: Score, least: number) => ({
  precise: right / found >= least,
  complete: right / wanted >= least,
  wrong,
});

describe('the marks of a corpus', () => {
  it('are taken out of the text, and keep their places', () => {
    const [only] = readCorpus('=== mail bulk\nHi,\n\n[? send it [by 2026-08-07: Friday]? ?] Takes [takes 5: five minutes].\n');
    expect(only?.bulk).toBe(true);
    expect(only?.text).toBe('Hi,\n\nsend it Friday? Takes five minutes.');
    expect(only?.marks.map(({ kind, value, start, end }) => [kind, value, only.text.slice(start, end)])).toEqual([
      ['date', 'deadline 2026-08-07', 'Friday'],
      ['ask', '', 'send it Friday?'],
      ['duration', '5', 'five minutes'],
    ]);
  });

  it('must be closed', () => {
    expect(() => readCorpus('=== mail\n[? send it')).toThrow('not closed');
  });
});

describe.each<[string, number]>([
  ['first', 0.96],
  ['second', 0.9],
  ['trades', 0.92],
  ['trades-second', 0.94],
  ['trades-third', 0.94],
])('the readers on the %s part of the corpus', (name, least) => {
  const scores = scoreCorpus(corpus(name), WRITTEN, ZONE, ['Maren']);
  it.each(['ask', 'date', 'duration'] as const)('find nearly every %s, and little else', (kind) => {
    expect(enough(scores[kind], least)).toEqual({
      precise: true,
      complete: true,
      wrong: expect.any(Array) as string[],
    });
  });
});

describe.each(['lines', 'lines-second', 'lines-third'])('the capture line on %s', (name) => {
  it('reads 97 of 100 as they are meant', () => {
    const lines = readLines(readFileSync(join(__dirname, `${name}.txt`), 'utf8'));
    const wrong = lines.flatMap((line) =>
      differs(line, instantOf('2026-08-03T09:00', ZONE), ZONE).map((one) => `${line.text}: ${one}`),
    );
    expect(lines.length).toBeGreaterThan(50);
    expect(wrong.length <= lines.length * 0.03 ? [] : wrong).toEqual([]);
  });
});
