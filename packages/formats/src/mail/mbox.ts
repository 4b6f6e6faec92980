import type { Readable } from 'node:stream';

const FROM = Buffer.from('From ');
/** Looked at of a line that may be a separator. */
const LONGEST = 400;
const DAY = '(?:Mon|Tue|Wed|Thu|Fri|Sat|Sun)';
const MONTH = '(?:Jan|Feb|Mar|Apr|May|Jun|Jul|Aug|Sep|Oct|Nov|Dec)';
const CLOCK = '\\d{1,2}:\\d{2}(?::\\d{2})?';
const ZONE = '(?: +[A-Za-z+-][A-Za-z0-9+-]{0,8})?';
/** A separator ends in a date (RFC 4155, appendix A; RFC 5322 dates are seen, too). A sentence that begins with "From" does not. */
const SEPARATOR = new RegExp(
  `^From (?:\\S.*? )?(?:${DAY} +${MONTH} +\\d{1,2} +${CLOCK}${ZONE} +\\d{4}|${DAY}, +\\d{1,2} +${MONTH} +\\d{4} +${CLOCK})${ZONE}\\s*$`,
);

/** Whether a line parts two messages; the blank line before it is often missing. */
const isSeparator = (line: Buffer): boolean =>
  line.subarray(0, 5).equals(FROM) && line.length <= LONGEST && SEPARATOR.test(line.toString('latin1'));

/**
 * Messages of an mbox (RFC 4155), one after the other, without holding the file in memory.
 * A quoted `>From ` is given back as `From ` (mboxrd). A message over `maxBytes` is given as null.
 */
export async function* readMbox(stream: Readable | AsyncIterable<Buffer>, maxBytes: number): AsyncGenerator<Buffer | null> {
  let lines: Buffer[] = [];
  let size = 0;
  let tooLarge = false;
  let dated: boolean | null = null;
  let blankBefore = true;
  for await (const line of linesOf(stream)) {
    const begins = line.subarray(0, 5).equals(FROM);
    // Writers without dates are told by their first line; of theirs, every line after a blank one has to be believed.
    const parts = begins && (dated === null || (dated ? isSeparator(line) : blankBefore));
    blankBefore = line.length <= 2 && line.toString('latin1').trim() === '';
    if (parts) {
      if (dated !== null && size > 0) yield tooLarge ? null : Buffer.concat(lines);
      dated ??= isSeparator(line);
      [lines, size, tooLarge] = [[], 0, false];
      continue;
    }
    if (dated === null) continue;
    size += line.length;
    if (size > maxBytes) [tooLarge, lines] = [true, []];
    else lines.push(/^>+From /.test(line.subarray(0, 40).toString('latin1')) ? line.subarray(1) : line);
  }
  if (dated !== null && size > 0) yield tooLarge ? null : Buffer.concat(lines);
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
