import type { MailLimits } from './limits';

const HEADER_LINE = /^[!-9;-~]{1,200}[ \t]*:/;

/**
 * A message whose body begins right after its headers, without the blank line between them (RFC 5322, 2.1), with that
 * line put in: without it the whole body would be taken for one more header and lost.
 */
export function withBlankLine(bytes: Buffer, { maxHeader }: MailLimits): Buffer {
  const end = Math.min(bytes.length, maxHeader);
  for (let at = 0, first = true; at < end; first = false) {
    const newline = bytes.indexOf(10, at);
    const next = newline < 0 ? bytes.length : newline + 1;
    const line = bytes.subarray(at, Math.min(next, at + 300)).toString('latin1');
    if (/^\r?\n?$/.test(line)) return bytes;
    const isHeader = HEADER_LINE.test(line) || (!first && /^[ \t]/.test(line)) || (first && line.startsWith('From '));
    if (!isHeader) return first ? bytes : Buffer.concat([bytes.subarray(0, at), Buffer.from('\r\n'), bytes.subarray(at)]);
    at = next;
  }
  return bytes;
}
