import type { MailLimits } from './limits';

/** How a message is built, from a quick look at its bytes. */
export interface MailStructure {
  depth: number;
  parts: number;
  hasHeader: boolean;
}

const HEADER_LINE = /^[!-9;-~]+:/;

/**
 * Counts nesting before the parser opens anything: the parser keeps a node for every open level, and
 * two hundred levels of multiparts cost it quadratic time.
 */
export function structureOf(bytes: Buffer, { maxHeader }: MailLimits): MailStructure {
  const head = bytes.subarray(0, Math.min(bytes.length, maxHeader)).toString('latin1');
  const hasHeader = HEADER_LINE.test(head.replace(/^(?:From .*\r?\n)?/, ''));
  const open: string[] = [];
  let depth = 0;
  let parts = 0;
  if (bytes.includes('boundary', 0, 'latin1') || /boundary/i.test(head)) {
    const declared = new Set<string>();
    for (const line of linesWithMarks(bytes)) {
      const boundary = /boundary\s*=\s*(?:"([^"]{1,200})"|([^\s;"]{1,200}))/i.exec(line);
      if (boundary && !line.startsWith('--')) declared.add(boundary[1] ?? boundary[2] ?? '');
      if (!line.startsWith('--')) continue;
      const mark = line.slice(2).trimEnd();
      if (declared.has(mark)) {
        parts += 1;
        const at = open.indexOf(mark);
        if (at >= 0) open.length = at + 1;
        else open.push(mark);
        depth = Math.max(depth, open.length);
      } else if (mark.endsWith('--') && open.includes(mark.slice(0, -2))) {
        open.length = open.indexOf(mark.slice(0, -2));
      }
    }
  }
  return { depth, parts, hasHeader };
}

/** Lines that can declare or be a boundary; base64 lines are passed over without being decoded. */
function* linesWithMarks(bytes: Buffer): Generator<string> {
  for (let at = 0; at < bytes.length;) {
    let end = bytes.indexOf(10, at);
    if (end < 0) end = bytes.length;
    const isDelimiter = bytes[at] === 45 && bytes[at + 1] === 45;
    if (isDelimiter || (end - at < 1000 && bytes.subarray(at, end).includes('oundary')))
      yield bytes
        .subarray(at, Math.min(end, at + 1000))
        .toString('latin1')
        .trimEnd();
    at = end + 1;
  }
}
