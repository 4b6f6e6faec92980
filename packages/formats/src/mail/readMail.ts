import { createHash } from 'node:crypto';
import { convert } from 'html-to-text';
import { simpleParser, type AddressObject, type Attachment, type ParsedMail } from 'mailparser';
import { cleanHtml, sayHeldBack, type HeldBack } from './html';
import { MailError, MAIL_LIMITS, type MailLimits } from './limits';
import { structureOf } from './structure';

export interface MailAddress {
  name: string;
  address: string;
}

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
  /** The text/calendar part (RFC 6047), or null. */
  calendar: string | null;
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
  if (!structure.hasHeader || bytes.subarray(0, 4096).includes(0))
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
    parsed = await simpleParser(bytes, {
      skipImageLinks: true,
      skipTextToHtml: true,
      skipHtmlToText: true,
      maxHtmlLengthToParse: limits.maxHtml,
    });
  } catch (problem) {
    const why = problem instanceof Error ? problem.message : 'unknown';
    return {
      ...BLANK,
      hash,
      subject: 'Unreadable message',
      problems: [`The message could not be opened (${why}). The original is kept unchanged.`],
    };
  }
  return { ...fromParsed(parsed, imageOf, limits), hash };
}

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
    subject: (parsed.subject ?? '').replace(/\s+/g, ' ').trim().slice(0, 1000),
    date: validDate ? (parsed.date as Date).getTime() : null,
    dateOffset: offsetOf(parsed),
    ...body,
    attachments: attachments.map(({ related: _related, ...part }) => part),
    bulk: isBulk(parsed),
    invitation: attachments.some((part) => part.type === 'text/calendar'),
    calendar: calendarOf(attachments, limits),
    problems,
  };
}

function calendarOf(attachments: ReadAttachment[], limits: MailLimits): string | null {
  const part = attachments.find((one) => one.type === 'text/calendar' && one.size <= limits.maxCalendar);
  return part ? part.content.toString('utf8') : null;
}

interface ReadAttachment extends MailAttachment {
  related: boolean;
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
  };
}

function bodyOf(
  parsed: ParsedMail,
  attachments: ReadAttachment[],
  imageOf: (hash: string) => string,
  limits: MailLimits,
  problems: string[],
): Pick<Mail, 'text' | 'html' | 'heldBack'> {
  const html = typeof parsed.html === 'string' ? parsed.html : '';
  const image = (contentId: string) => {
    const part = attachments.find((one) => one.contentId === contentId && /^image\/(?:png|jpe?g|gif|webp)$/.test(one.type));
    return part ? imageOf(part.hash) || null : null;
  };
  const tooLong = html.length > limits.maxHtml;
  if (tooLong) problems.push('The formatted version is too long to clean, so only the text is shown.');
  const clean = html && !tooLong ? cleanHtml(html, image) : null;
  const written = (parsed.text ?? '').replace(/\r\n?/g, '\n');
  const text = written.trim() ? written : clean ? textOf(clean.html) : '';
  if (text.length > limits.maxText) problems.push('The text is very long; its end is left out here and kept in the original.');
  if (clean && sayHeldBack(clean.heldBack))
    return { text: text.slice(0, limits.maxText).trim(), html: clean.html || null, heldBack: clean.heldBack };
  return { text: text.slice(0, limits.maxText).trim(), html: clean?.html || null, heldBack: null };
}

function textOf(html: string): string {
  return convert(html, {
    wordwrap: false,
    limits: { maxInputLength: MAIL_LIMITS.maxHtml, maxDepth: 100 },
    selectors: [
      { selector: 'a', options: { hideLinkHrefIfSameAsText: true } },
      { selector: 'img', format: 'skip' },
      ...['h1', 'h2', 'h3', 'h4'].map((selector) => ({ selector, options: { uppercase: false } })),
      { selector: 'table', format: 'dataTable', options: { uppercaseHeaderCells: false } },
    ],
  });
}

function addressesOf(field: AddressObject | AddressObject[] | undefined): MailAddress[] {
  const groups = field === undefined ? [] : Array.isArray(field) ? field : [field];
  return groups
    .flatMap((group) => group.value)
    .flatMap((entry) => entry.group ?? [entry])
    .filter((entry) => entry.address || entry.name)
    .map((entry) => ({ name: (entry.name ?? '').slice(0, 200), address: (entry.address ?? '').toLowerCase().slice(0, 320) }));
}

const cleanId = (id: string | undefined): string | null => id?.trim().replace(/^<|>$/g, '').slice(0, 500) || null;

function referencesOf(parsed: ParsedMail): string[] {
  const ids = parsed.references === undefined ? [] : Array.isArray(parsed.references) ? parsed.references : [parsed.references];
  return [...new Set([...ids, parsed.inReplyTo ?? ''].map((id) => cleanId(id)).filter((id): id is string => id !== null))].slice(
    -50,
  );
}

function isBulk(parsed: ParsedMail): boolean {
  const { headers } = parsed;
  const said = (key: string) =>
    headerLine(parsed, key)
      .replace(/^[^:]*:/, '')
      .trim()
      .toLowerCase();
  const auto = said('auto-submitted') || 'no';
  return (
    headers.has('list') ||
    headers.has('list-unsubscribe') ||
    headers.has('list-id') ||
    auto !== 'no' ||
    /\b(?:bulk|list|junk)\b/.test(said('precedence'))
  );
}

function headerLine(parsed: ParsedMail, key: string): string {
  return parsed.headerLines.find((header) => header.key === key)?.line ?? '';
}

function offsetOf(parsed: ParsedMail): number | null {
  const zone = /([+-])(\d{2})(\d{2})\b/.exec(headerLine(parsed, 'date'));
  return zone ? (zone[1] === '-' ? -1 : 1) * (Number(zone[2]) * 60 + Number(zone[3])) : null;
}

function unknownCharset(parsed: ParsedMail): string | null {
  const charset = /charset\s*=\s*"?([^\s";]+)/i.exec(headerLine(parsed, 'content-type'))?.[1];
  if (!charset) return null;
  try {
    new TextDecoder(charset);
    return null;
  } catch {
    return /^(?:utf-?7|cp\d+|windows-\d+|x-|mac|iso-2022)/i.test(charset) ? null : charset.slice(0, 40);
  }
}
