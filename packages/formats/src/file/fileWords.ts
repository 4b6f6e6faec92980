import { bareText } from '../mail/shape';

/** Of a longer file the beginning is found. */
export const MOST_WORDS = 20_000;
const READABLE = /\.(?:txt|text|md|markdown|csv|tsv|log|ics|vcf|json|xml|html?|ya?ml)$/i;
const MARKUP = /^(?:text\/html|application\/xhtml)|\.html?$/i;

/**
 * The words of a file by which it is found: its text where it is text, nothing where it is anything else.
 * @param type media type (RFC 6838)
 * @param bytes its content, or the beginning of it
 */
export function fileWords(name: string, type: string, bytes: Uint8Array): string {
  if (!/^text\//i.test(type) && !READABLE.test(name)) return '';
  const text = decoded(bytes.subarray(0, MOST_WORDS * 4));
  if (text.includes('\0')) return '';
  const plain = MARKUP.test(type) || MARKUP.test(name) ? bareText(text) : text;
  return plain.replace(/\s+/g, ' ').trim().slice(0, MOST_WORDS);
}

/** UTF-8 where it is, else Latin-1; what a cut through a letter leaves at the end does not count. */
function decoded(bytes: Uint8Array): string {
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(bytes, { stream: true });
  } catch {
    return new TextDecoder('latin1').decode(bytes);
  }
}
