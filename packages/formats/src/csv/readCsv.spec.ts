import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { TableError, readCsv, sampleCsv } from './readCsv';

const folder = mkdtempSync(join(tmpdir(), 'corvun-csv-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));
const path = join(folder, 'table.csv');
const rowsOf = async (bytes: Buffer | string) => {
  writeFileSync(path, bytes);
  const rows: string[][] = [];
  for await (const { row } of readCsv(path)) rows.push(row);
  return rows;
};
const TEXT = 'Aufgabe;Frist;Dauer;Liste\nÖrtliche Begehung;2026-08-14;60;Permits\n"Zaun; Nordweg ""neu""";;30;Field season\n';

describe('tables', () => {
  it.each([
    ['UTF-8', Buffer.from(TEXT)],
    ['UTF-8 with a mark', Buffer.from(`\uFEFF${TEXT}`)],
    ['UTF-16 little-endian', Buffer.from(`\uFEFF${TEXT}`, 'utf16le')],
    ['UTF-16 big-endian', Buffer.from(`\uFEFF${TEXT}`, 'utf16le').swap16()],
    ['UTF-16 without a mark', Buffer.from(TEXT, 'utf16le')],
    ['Latin-1', Buffer.from(TEXT, 'latin1')],
  ])('reads %s, quotes and semicolons', async (_name, bytes) => {
    expect(await rowsOf(bytes)).toEqual([
      ['Örtliche Begehung', '2026-08-14', '60', 'Permits'],
      ['Zaun; Nordweg "neu"', '', '30', 'Field season'],
    ]);
    const sample = await sampleCsv(path);
    expect([sample.columns[0], sample.delimiter]).toEqual(['Aufgabe', ';']);
    expect(sample.guess).toEqual(['title', 'deadline', 'estimate', 'list']);
  });

  it('shows a few rows only, and takes the first unnamed column for the title', async () => {
    writeFileSync(path, `Thing,Due\n${'a,2026-08-01\n'.repeat(5000)}`);
    const sample = await sampleCsv(path);
    expect(sample.rows).toHaveLength(5);
    expect(sample.guess).toEqual(['title', 'deadline']);
  });

  it.each([
    ['empty', '', /empty/],
    ['with a line that never ends', `a,b\n"${'x'.repeat(3_000_000)}`, /cannot be read further/],
    ['of far too many columns', `${'c,'.repeat(100_000)}\n1,2\n`, /more than 200 columns/],
  ])('refuses a table %s with a sentence', async (_name, text, sentence) => {
    writeFileSync(path, text);
    const reading = (async () => {
      await sampleCsv(path);
      for await (const _ of readCsv(path));
    })();
    await expect(reading).rejects.toThrow(TableError);
    await expect(reading).rejects.toThrow(sentence);
  });
});
