import { createReadStream } from 'node:fs';
import { open } from 'node:fs/promises';
import { CsvError, parse } from 'csv-parse';

/** What a column can hold. `skip` leaves it out. */
export type TaskColumn =
  'title' | 'notes' | 'list' | 'tags' | 'priority' | 'estimate' | 'deadline' | 'day' | 'status' | 'id' | 'skip';

export interface CsvSample {
  encoding: BufferEncoding;
  delimiter: string;
  columns: string[];
  rows: string[][];
  /** What each column seems to hold. */
  guess: TaskColumn[];
}

export interface CsvLimits {
  maxColumns: number;
  /** Characters of one record. */
  maxRecord: number;
}
export const CSV_LIMITS: CsvLimits = { maxColumns: 200, maxRecord: 1024 * 1024 };

/** A table that cannot be read; the message is a sentence for the user. */
export class TableError extends Error {
  readonly code = 'not-a-table';
}

const SAMPLE_BYTES = 256 * 1024;
const SAMPLE_ROWS = 5;

const NAMES: [TaskColumn, RegExp][] = [
  ['title', /^(?:title|task|name|summary|subject|what|titel|aufgabe|betreff)$/i],
  ['notes', /^(?:notes?|description|details|comment|notiz(?:en)?|beschreibung)$/i],
  ['list', /^(?:list|project|folder|liste|projekt)$/i],
  ['tags', /^(?:tags?|labels?|categor(?:y|ies)|kategorien?)$/i],
  ['priority', /^(?:prio(?:rity|rität)?)$/i],
  ['estimate', /^(?:estimate|minutes|duration|effort|dauer|aufwand|minuten)$/i],
  ['deadline', /^(?:deadline|due(?: date)?|fällig(?: am)?|frist)$/i],
  ['day', /^(?:day|planned|date|start(?: date)?|tag|datum)$/i],
  ['status', /^(?:status|state|done|completed|erledigt)$/i],
  ['id', /^(?:id|uid|key|number|nummer)$/i],
];

/** Encoding from the byte order mark, or from where the zero bytes of UTF-16 stand; else UTF-8, else Latin-1. */
export function encodingOf(head: Buffer): { encoding: BufferEncoding; bigEndian: boolean } {
  if (head[0] === 0xff && head[1] === 0xfe) return { encoding: 'utf16le', bigEndian: false };
  if (head[0] === 0xfe && head[1] === 0xff) return { encoding: 'utf16le', bigEndian: true };
  const zeros = [0, 0];
  head.subarray(0, 2000).forEach((byte, at) => {
    if (byte === 0) zeros[at % 2] = (zeros[at % 2] ?? 0) + 1;
  });
  if ((zeros[1] ?? 0) > head.length / 8) return { encoding: 'utf16le', bigEndian: false };
  if ((zeros[0] ?? 0) > head.length / 8) return { encoding: 'utf16le', bigEndian: true };
  // A cut in the middle of a letter at the end of the sample is no sign of another encoding.
  const text = head.subarray(0, Math.max(0, head.length - 4)).toString('utf8');
  return { encoding: text.includes('\uFFFD') ? 'latin1' : 'utf8', bigEndian: false };
}

/** The first rows of a table, and what its columns seem to hold; nothing is written. @throws TableError */
export async function sampleCsv(path: string, limits: CsvLimits = CSV_LIMITS): Promise<CsvSample> {
  const head = await firstBytes(path);
  if (!head.length) throw new TableError('The file is empty: there is no table in it.');
  const { encoding, bigEndian } = encodingOf(head);
  const text = decode(head, encoding, bigEndian);
  const first = /^[^\r\n]*/.exec(text)?.[0] ?? '';
  if (text.length > limits.maxRecord && first.length > limits.maxRecord) throw new TableError('The first line never ends.');
  const delimiter = delimiterOf(first);
  if (first.split(delimiter).length > limits.maxColumns)
    throw new TableError(`The table has more than ${limits.maxColumns} columns.`);
  const rows: string[][] = [];
  for await (const row of records(path, { encoding, bigEndian, delimiter }, limits)) {
    rows.push(row);
    if (rows.length > SAMPLE_ROWS) break;
  }
  const columns = rows[0] ?? [];
  if (!columns.length) throw new TableError('There is no table in this file.');
  const used = new Set<TaskColumn>();
  const guess = columns.map((name): TaskColumn => {
    const found = NAMES.find(([column, pattern]) => !used.has(column) && pattern.test(name.trim()))?.[0] ?? 'skip';
    used.add(found);
    return found;
  });
  if (!used.has('title') && guess.length) guess[Math.max(0, guess.indexOf('skip'))] = 'title';
  return { encoding: bigEndian ? 'utf16le' : encoding, delimiter, columns, rows: rows.slice(1), guess };
}

interface Shape {
  encoding: BufferEncoding;
  bigEndian: boolean;
  delimiter: string;
}

/** Every record of a table after its header, with its line. @throws TableError naming the line */
export async function* readCsv(path: string, limits: CsvLimits = CSV_LIMITS): AsyncGenerator<{ line: number; row: string[] }> {
  const head = await firstBytes(path);
  const { encoding, bigEndian } = encodingOf(head);
  const delimiter = delimiterOf(/^[^\r\n]*/.exec(decode(head, encoding, bigEndian))?.[0] ?? '');
  let line = 0;
  for await (const row of records(path, { encoding, bigEndian, delimiter }, limits)) {
    line += 1;
    if (line > 1) yield { line, row };
  }
}

async function* records(path: string, shape: Shape, limits: CsvLimits): AsyncGenerator<string[]> {
  const input = createReadStream(path);
  const parser = parse({
    delimiter: shape.delimiter,
    bom: true,
    relax_column_count: true,
    relax_quotes: true,
    skip_empty_lines: true,
    max_record_size: limits.maxRecord,
  });
  const decoder = decoderOf(shape);
  input.on('data', (chunk) => {
    if (!parser.write(decoder(chunk as Buffer))) input.pause();
  });
  parser.on('drain', () => input.resume());
  input.on('end', () => parser.end());
  input.on('error', (problem) => parser.destroy(problem));
  try {
    for await (const row of parser as AsyncIterable<string[]>) {
      if (row.length > limits.maxColumns) throw new TableError(`A row has more than ${limits.maxColumns} columns.`);
      yield row;
    }
  } catch (problem) {
    if (problem instanceof CsvError) throw new TableError(`The table cannot be read further: ${problem.message}.`);
    throw problem;
  } finally {
    input.destroy();
    parser.destroy();
  }
}

/** Decodes chunk by chunk; a letter cut in two waits for its other half. */
function decoderOf({ encoding, bigEndian }: Shape): (chunk: Buffer) => string {
  const decoder = new TextDecoder(bigEndian ? 'utf-16be' : encoding === 'utf16le' ? 'utf-16le' : encoding);
  return (chunk) => decoder.decode(chunk, { stream: true });
}

const decode = (bytes: Buffer, encoding: BufferEncoding, bigEndian: boolean) =>
  decoderOf({ encoding, bigEndian, delimiter: ',' })(bytes).replace(/^\uFEFF/, '');

function delimiterOf(line: string): string {
  const counted = [',', ';', '\t', '|'].map((mark) => ({ mark, count: line.split(mark).length }));
  return counted.sort((a, b) => b.count - a.count)[0]?.mark ?? ',';
}

async function firstBytes(path: string): Promise<Buffer> {
  const file = await open(path, 'r');
  try {
    const { buffer, bytesRead } = await file.read(Buffer.alloc(SAMPLE_BYTES), 0, SAMPLE_BYTES, 0);
    return buffer.subarray(0, bytesRead);
  } finally {
    await file.close();
  }
}
