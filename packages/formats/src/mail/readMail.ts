import { createHash } from 'node:crypto';
import { convert } from 'html-to-text';
import { simpleParser, type Attachment, type ParsedMail } from 'mailparser';
import { linesOf } from '../calendar/lines';
import { addressesOf, type MailAddress, cleanId, isBulk, offsetOf, referencesOf, unknownCharset } from './fields';
import { withBlankLine } from './headerEnd';
import { withSaidCharset } from './htmlCharset';
import { cleanHtml, sayHeldBack, type HeldBack } from './html';
import { MailError, MAIL_LIMITS, type MailLimits } from './limits';
import { bareText, shapeOf } from './shape';
import { structureOf } from './structure';

export interface MailAttachment {
  name: string;
  type: string;
  size: number;
  contentId: string | null;
  content: Buffer;
  hash: string;
}

/** A message read from its bytes (RFC 5322, RFC 2045). */
export interface Mail {
  /** Message-ID without brackets, or null when the header is missing. */
  messageId: string | null;
  references: string[];
  from: MailAddress | null;
  to: MailAddress[];
  subject: string;
  /** From the Date header, in milliseconds; null when it is missing or no date. */
  date: number | null;
  /** Offset of the Date header from UTC in minutes, null when unknown. */
  dateOffset: number | null;
  text: string;
  html: string | null;
  heldBack: HeldBack | null;
  attachments: MailAttachment[];
  /** Sent to many by a machine (RFC 2919 List-Id, RFC 2369 List-Unsubscribe, RFC 3834 Auto-Submitted). */
  bulk: boolean;
  invitation: boolean;
  /** The text/calendar part (RFC 6047) as text, with the METHOD of its header; or null. */
  calendar: { text: string; method: string } | null;
  /** Sentences on what could not be read. */
  problems: string[];
  hash: string;
}

const BLANK: Omit<Mail, 'hash'> = {
  messageId: null,
  references: [],
  from: null,
  to: [],
  subject: '',
  date: null,
  dateOffset: null,
  text: '',
  html: null,
  heldBack: null,
  attachments: [],
  bulk: false,
  invitation: false,
  calendar: null,
  problems: [],
};

export const sha256 = (bytes: Buffer): string => createHash('sha256').update(bytes).digest('hex');

/**
 * Reads one message. Everything odd inside it becomes a sentence in `problems`; only what is no message
 * at all is refused.
 * @param imageOf where an attached image will be found, by its hash
 * @throws MailError empty, too large, or not a message
 */
export async function readMail(
  bytes: Buffer,
  imageOf: (hash: string) => string = () => '',
  limits: MailLimits = MAIL_LIMITS,
): Promise<Mail> {
  if (bytes.length === 0 || !/\S/.test(bytes.subarray(0, 4096).toString('latin1')))
    throw new MailError('empty', 'The file is empty: there is no message in it.');
  if (bytes.length > limits.maxBytes) {
    throw new MailError(
      'too-large',
      `The message is ${Math.ceil(bytes.length / 1048576)} MB; the most that is taken is ${Math.floor(limits.maxBytes / 1048576)} MB.`,
    );
  }
  const structure = structureOf(bytes, limits);
  // Letters that no mail has are left out of a body; where they stand in the headers, it is another kind of file.
  if (!structure.hasHeader || headersOf(bytes).includes(0))
    throw new MailError('not-mail', 'This is not a mail message: it does not begin with mail headers.');
  const hash = sha256(bytes);
  if (structure.depth > limits.maxDepth || structure.parts > limits.maxParts) {
    const what = structure.depth > limits.maxDepth ? `${structure.depth} levels of nested parts` : `${structure.parts} parts`;
    return {
      ...(await readHeadersOnly(bytes)),
      hash,
      problems: [`The message has ${what}, too many to open. Its headers are read, and the original is kept unchanged.`],
    };
  }
  let parsed: ParsedMail;
  try {
    parsed = await simpleParser(withSaidCharset(withBlankLine(bytes, limits)), {
      skipImageLinks: true,
      skipTextToHtml: true,
      skipHtmlToText: true,
      maxHtmlLengthToParse: limits.maxHtml,
    });
  } catch (problem) {
    const why = problem instanceof Error ? problem.message : 'unknown';
    return unreadMail(bytes, `The message could not be opened (${why}). The original is kept unchanged.`);
  }
  return { ...fromParsed(parsed, imageOf, limits), hash };
}

/**
 * What the headers of a message say, for one whose body cannot be read.
 * @param problem a sentence that says why
 */
export async function readHeaders(bytes: Buffer, problem: string): Promise<Mail> {
  try {
    return { ...(await readHeadersOnly(bytes)), hash: sha256(bytes), problems: [problem] };
  } catch {
    return unreadMail(bytes, problem);
  }
}

/** What is kept of a message of which nothing can be read. @param problem a sentence that says why */
export const unreadMail = (bytes: Buffer, problem: string): Mail => ({
  ...BLANK,
  hash: sha256(bytes),
  subject: 'Unreadable message',
  problems: [problem],
});

async function readHeadersOnly(bytes: Buffer): Promise<Omit<Mail, 'hash'>> {
  const text = bytes.subarray(0, 262_144).toString('latin1');
  const end = /\r?\n\r?\n/.exec(text)?.index ?? text.length;
  const head = text
    .slice(0, end)
    .replace(/\r?\n[ \t]+/g, ' ')
    .split(/\r?\n/)
    .filter((line) => !/^content-/i.test(line))
    .join('\r\n');
  const parsed = await simpleParser(Buffer.from(`${head}\r\n\r\n`, 'latin1'), {});
  return { ...fromParsed(parsed, () => '', MAIL_LIMITS), text: '' };
}

function fromParsed(parsed: ParsedMail, imageOf: (hash: string) => string, limits: MailLimits): Omit<Mail, 'hash'> {
  const problems: string[] = [];
  const all = parsed.attachments.filter((part) => Buffer.isBuffer(part.content));
  const attachments = all.slice(0, limits.maxAttachments).map(asAttachment);
  if (all.length > attachments.length)
    problems.push(`Only the first ${attachments.length} of ${all.length} attachments are shown; the original holds all.`);
  const body = bodyOf(parsed, attachments, imageOf, limits, problems);
  const validDate = parsed.date instanceof Date && !Number.isNaN(parsed.date.getTime()) && parsed.headers.has('date');
  if (!validDate) problems.push('The message has no readable date; the time of arrival is used.');
  const charset = unknownCharset(parsed);
  if (charset) problems.push(`The message names the character set “${charset}”, which is unknown; some letters may be wrong.`);
  return {
    messageId: cleanId(parsed.messageId),
    references: referencesOf(parsed),
    from: addressesOf(parsed.from)[0] ?? null,
    to: [...addressesOf(parsed.to), ...addressesOf(parsed.cc)],
    subject: subjectOf(parsed, limits, problems),
    date: validDate ? (parsed.date as Date).getTime() : null,
    dateOffset: offsetOf(parsed),
    ...body,
    attachments: attachments.map(({ related: _related, parameters: _parameters, ...part }) => part),
    bulk: isBulk(parsed),
    invitation: attachments.some((part) => part.type === 'text/calendar'),
    calendar: calendarOf(attachments, limits),
    problems,
  };
}

/** The subject; of one that is a text of its own the beginning. */
function subjectOf(parsed: ParsedMail, { maxSubject }: MailLimits, problems: string[]): string {
  const subject = withoutNul(parsed.subject ?? '')
    .replace(/\s+/g, ' ')
    .trim();
  if (subject.length <= maxSubject) return subject;
  problems.push(`The subject has ${subject.length} letters; its end is left out here and kept in the original.`);
  return `${subject.slice(0, maxSubject - 1).trimEnd()}…`;
}

const withoutNul = (text: string): string => text.replace(/\0/g, '');

/** The bytes of the first lines that may be headers. */
function headersOf(bytes: Buffer): Buffer {
  const head = bytes.subarray(0, 4096);
  const end = /\r?\n\r?\n/.exec(head.toString('latin1'))?.index;
  return end === undefined ? head : head.subarray(0, end);
}

/** The calendar part, unfolded before it is decoded: folds may cut a letter in two (RFC 5545, 3.1). */
function calendarOf(attachments: ReadAttachment[], limits: MailLimits): Mail['calendar'] {
  const part = attachments.find((one) => one.type === 'text/calendar' && one.size <= limits.maxCalendar);
  if (!part) return null;
  const { charset = 'utf-8', method = '' } = part.parameters;
  const isUtf8 = /^(?:utf-?8|us-ascii)?$/i.test(charset);
  return { text: isUtf8 ? linesOf(part.content).join('\r\n') : decodedAs(part.content, charset), method };
}

function decodedAs(bytes: Buffer, charset: string): string {
  try {
    return new TextDecoder(charset).decode(bytes);
  } catch {
    return linesOf(bytes).join('\r\n');
  }
}

interface ReadAttachment extends MailAttachment {
  related: boolean;
  /** Of its Content-Type. */
  parameters: Record<string, string>;
}

function asAttachment(part: Attachment): ReadAttachment {
  const type = (part.contentType || 'application/octet-stream').toLowerCase();
  const fallback =
    type === 'message/rfc822' ? 'attached message.eml' : type === 'text/calendar' ? 'invitation.ics' : 'attachment';
  return {
    // Path parts and control characters in a name would reach outside when the file is saved.
    name:
      (part.filename ?? fallback)
        .replace(/[\u0000-\u001f\u007f<>:"|?*]/g, '')
        .split(/[/\\]/)
        .pop()
        ?.trim()
        .slice(-160) || fallback,
    type,
    size: part.content.length,
    contentId: part.cid ?? null,
    content: part.content,
    hash: sha256(part.content),
    related: part.related ?? false,
    parameters: parametersOf(part),
  };
}

function parametersOf(part: Attachment): Record<string, string> {
  const type = part.headers.get('content-type') as { params?: Record<string, string> } | undefined;
  return Object.fromEntries(Object.entries(type?.params ?? {}).map(([name, value]) => [name.toLowerCase(), String(value)]));
}

function bodyOf(
  parsed: ParsedMail,
  attachments: ReadAttachment[],
  imageOf: (hash: string) => string,
  limits: MailLimits,
  problems: string[],
): Pick<Mail, 'text' | 'html' | 'heldBack'> {
  const html = typeof parsed.html === 'string' ? withoutNul(parsed.html) : '';
  const image = (contentId: string) => {
    const part = attachments.find((one) => one.contentId === contentId && /^image\/(?:png|jpe?g|gif|webp)$/.test(one.type));
    return part ? imageOf(part.hash) || null : null;
  };
  const shape = shapeOf(html, { maxDepth: limits.maxHtmlDepth, maxElements: limits.maxHtmlElements });
  const wild =
    html.length > limits.maxHtml
      ? 'long'
      : shape.depth > limits.maxHtmlDepth
        ? 'deeply nested'
        : shape.elements > limits.maxHtmlElements
          ? 'large'
          : '';
  if (wild) problems.push(`The formatted version is too ${wild} to clean, so only its text is shown.`);
  const clean = html && !wild ? cleanHtml(html, image) : null;
  const written = withoutNul(parsed.text ?? '').replace(/\r\n?/g, '\n');
  const text = written.trim() ? written : clean ? textOf(clean.html, shape.tables) : bareText(html);
  if (text.length > limits.maxText) problems.push('The text is very long; its end is left out here and kept in the original.');
  if (clean && sayHeldBack(clean.heldBack))
    return { text: text.slice(0, limits.maxText).trim(), html: clean.html || null, heldBack: clean.heldBack };
  return { text: text.slice(0, limits.maxText).trim(), html: clean?.html || null, heldBack: null };
}

/** Tables inside tables up to which they are laid out as tables; newsletters nest them to place boxes. */
const MOST_TABLES = 3;

function textOf(html: string, tables: number): string {
  return convert(html.replace(/ (?:col|row)span="\d+"/g, ''), {
    wordwrap: false,
    limits: { maxInputLength: MAIL_LIMITS.maxHtml, maxDepth: 100 },
    selectors: [
      { selector: 'a', options: { hideLinkHrefIfSameAsText: true } },
      { selector: 'img', format: 'skip' },
      ...['h1', 'h2', 'h3', 'h4'].map((selector) => ({ selector, options: { uppercase: false } })),
      ...(tables <= MOST_TABLES
        ? [{ selector: 'table', format: 'dataTable', options: { uppercaseHeaderCells: false } }]
        : ['table', 'tr', 'td'].map((selector) => ({ selector, format: 'block' }))),
    ],
  });
}
