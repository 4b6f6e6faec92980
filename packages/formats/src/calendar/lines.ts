import { CalendarError } from './calendarError';

/**
 * Content lines of an iCalendar or vCard stream (RFC 5545, 3.1), unfolded and decoded. Unfolding comes first and works on
 * bytes: writers fold after 75 of them, in the middle of a letter too. What is not UTF-8 is read as Latin-1.
 * @param maxLine characters of one line; a longer one is refused
 * @throws CalendarError when a line never ends, or the whole is larger than `maxBytes`
 */
export async function* contentLines(
  input: AsyncIterable<Buffer | string>,
  { maxLine, maxBytes }: { maxLine: number; maxBytes: number },
): AsyncGenerator<string> {
  let rest = '';
  let size = 0;
  for await (const chunk of input) {
    size += chunk.length;
    if (size > maxBytes) throw new CalendarError(`The calendar is larger than ${maxBytes / 1048576} MB.`);
    // Latin-1 gives each byte a letter of its own, so that nothing is decoded before it is whole.
    const bytes = typeof chunk === 'string' ? Buffer.from(chunk) : chunk;
    const text = rest + bytes.toString('latin1');
    const end = endOfWhole(text);
    rest = text.slice(end);
    if (rest.length > maxLine) throw new CalendarError('This is not an iCalendar file: a line in it never ends.');
    if (end > 0) yield* linesIn(text.slice(0, end));
  }
  if (rest) yield* linesIn(rest);
}

/** The content lines of a whole text. */
export function linesOf(text: Buffer | string): string[] {
  return [...linesIn((typeof text === 'string' ? Buffer.from(text) : text).toString('latin1'))];
}

/** Behind the last line that is certainly whole: what follows it is there, and is no continuation. */
function endOfWhole(text: string): number {
  for (let at = text.length - 1; at > 0; at -= 1) {
    at = Math.max(text.lastIndexOf('\n', at - 1), text.lastIndexOf('\r', at - 1));
    if (at < 0) return 0;
    const next = text.charCodeAt(at + 1);
    const isCut = text[at] === '\r' && text[at + 1] === '\n';
    if (!isCut && next !== 32 && next !== 9) return at + 1;
  }
  return 0;
}

function* linesIn(latin1: string): Generator<string> {
  const unfolded = latin1.replace(/^ï»¿/, '').replace(/(?:\r\n|\n|\r)[ \t]/g, '');
  for (const line of unfolded.replace(/(?:\r\n|\n|\r)$/, '').split(/\r\n|\n|\r/)) yield decoded(line);
}

const strict = new TextDecoder('utf-8', { fatal: true });

/** Text of bytes that were read as Latin-1. */
export function decoded(latin1: string): string {
  if (!/[\u0080-\u00ff]/.test(latin1)) return latin1;
  const bytes = Buffer.from(latin1, 'latin1');
  try {
    return strict.decode(bytes);
  } catch {
    return new TextDecoder('windows-1252').decode(bytes);
  }
}
