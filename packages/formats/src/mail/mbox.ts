import type { Readable } from 'node:stream';

const FROM = Buffer.from('From ');

/**
 * Messages of an mbox (RFC 4155), one after the other, without holding the file in memory.
 * A quoted `>From ` is given back as `From ` (mboxrd). A message over `maxBytes` is given as null.
 */
export async function* readMbox(stream: Readable | AsyncIterable<Buffer>, maxBytes: number): AsyncGenerator<Buffer | null> {
  let lines: Buffer[] = [];
  let size = 0;
  let tooLarge = false;
  let begun = false;
  let blankBefore = true;
  for await (const line of linesOf(stream)) {
    if (blankBefore && line.subarray(0, 5).equals(FROM)) {
      if (begun && size > 0) yield tooLarge ? null : Buffer.concat(lines);
      [lines, size, tooLarge, begun] = [[], 0, false, true];
      blankBefore = false;
      continue;
    }
    blankBefore = line.length <= 2 && line.toString('latin1').trim() === '';
    if (!begun) continue;
    size += line.length;
    if (size > maxBytes) [tooLarge, lines] = [true, []];
    else lines.push(/^>+From /.test(line.subarray(0, 40).toString('latin1')) ? line.subarray(1) : line);
  }
  if (begun && size > 0) yield tooLarge ? null : Buffer.concat(lines);
}

async function* linesOf(stream: Readable | AsyncIterable<Buffer>): AsyncGenerator<Buffer> {
  let rest: Buffer[] = [];
  for await (const chunk of stream as AsyncIterable<Buffer>) {
    let from = 0;
    for (let end = chunk.indexOf(10); end >= 0; end = chunk.indexOf(10, from)) {
      const line = chunk.subarray(from, end + 1);
      yield rest.length ? Buffer.concat([...rest, line]) : line;
      rest = [];
      from = end + 1;
    }
    if (from < chunk.length) rest.push(chunk.subarray(from));
  }
  if (rest.length) yield Buffer.concat(rest);
}
