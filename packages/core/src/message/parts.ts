/** Stretches of a message's plain text, by whose words they are. Offsets in characters, end exclusive. */
export interface Stretch {
  start: number;
  end: number;
}

interface TextLine extends Stretch {
  text: string;
}

function linesOf(text: string): TextLine[] {
  const lines: TextLine[] = [];
  for (const match of text.matchAll(/[^\n]*(?:\n|$)/g)) {
    if (match[0] === '') continue;
    lines.push({ start: match.index, end: match.index + match[0].length, text: match[0].trimEnd() });
  }
  return lines;
}

const QUOTE_LINE = /^\s*>/;
const QUOTE_LEAD = /^\s*(?:on .{6,120} wrote:|am .{6,120} schrieb .{0,120}:|.{3,120} (?:wrote|schrieb|writes):)\s*$/i;
const EARLIER_MESSAGE =
  /^\s*(?:-{2,}\s*(?:original message|ursprüngliche nachricht|forwarded message|weitergeleitete nachricht|begin forwarded message)\b.*|begin forwarded message:|_{10,})\s*$/i;
const HEADER_BLOCK = /^\s*(?:from|von):\s.+/i;
const HEADER_FOLLOWS = /^\s*(?:sent|date|to|subject|gesendet|datum|an|betreff):\s/i;
const SIGN_OFF =
  /^\s*(?:(?:kind|best|warm|many|with best|with kind) (?:regards|wishes|greetings|thanks)|regards|cheers|all the best|yours (?:sincerely|faithfully|truly)|sincerely|thanks(?: again)?|thank you|many thanks|see you(?: soon)?|best|mit (?:freundlichen|besten|herzlichen) grüßen|(?:viele|liebe|beste|herzliche|schöne) grüße|herzlich|mfg|lg|vg)\s*[,.!]?\s*$/i;
const FOOTER =
  /\b(?:unsubscribe|manage your (?:preferences|subscription)|you (?:are receiving|receive|get) this (?:mail|message|letter|newsletter|because)|view (?:this|it) in (?:your|a) browser|abmelden|abbestellen|newsletter abbestellen|confidentiality notice|this (?:e-?mail|message) (?:and any attachments )?(?:is|are|may be) (?:confidential|intended))\b/i;

/**
 * The writer's own words: without quoted replies, signature and footer.
 * A message that holds nothing but a forwarded one is read as if the forwarded one were its own.
 */
export function ownWords(text: string): Stretch[] {
  const lines = linesOf(text);
  const cut = lines.findIndex((line, at) => isEarlierMessage(line, lines[at + 1], lines[at + 2]));
  const own = bodyOf(cut < 0 ? lines : lines.slice(0, cut));
  if (cut < 0 || own.some((part) => /\p{L}{2}/u.test(text.slice(part.start, part.end)))) return own;
  const forwarded = lines.slice(cut);
  const firstBlank = forwarded.findIndex(
    (line, at) => at > 0 && line.text.trim() === '' && HEADER_FOLLOWS.test(forwarded[at - 1]?.text ?? ''),
  );
  const inner = forwarded.slice(firstBlank < 0 ? 1 : firstBlank + 1);
  const innerCut = inner.findIndex((line, at) => isEarlierMessage(line, inner[at + 1], inner[at + 2]));
  return bodyOf(innerCut < 0 ? inner : inner.slice(0, innerCut));
}

/**
 * Where the earlier messages begin that a reply carries behind its own words.
 * @returns an offset in characters; the length of the text where it carries none, or is nothing but a forwarded message
 */
export function quotedFrom(text: string): number {
  const lines = linesOf(text);
  const cut = lines.findIndex((line, at) => isEarlierMessage(line, lines[at + 1], lines[at + 2]));
  let at = cut < 0 ? lines.length : cut;
  if (cut < 0) {
    while (at > 0 && /^\s*(?:>|$)/.test(lines[at - 1]?.text ?? '')) at -= 1;
    if (!lines.slice(at).some((line) => QUOTE_LINE.test(line.text))) return text.length;
    const lead = (count: number) =>
      QUOTE_LEAD.test(
        lines
          .slice(at - count, at)
          .map((line) => line.text)
          .join(' '),
      );
    if (at > 1 && /^\s*(?:on|am)\b/i.test(lines[at - 2]?.text ?? '') && lead(2)) at -= 2;
    else if (at > 0 && lead(1)) at -= 1;
  }
  const start = lines[at]?.start ?? text.length;
  return /\p{L}{2}/u.test(text.slice(0, start)) ? start : text.length;
}

function isEarlierMessage(line: TextLine, next: TextLine | undefined, afterNext: TextLine | undefined): boolean {
  if (EARLIER_MESSAGE.test(line.text)) return true;
  return HEADER_BLOCK.test(line.text) && [next, afterNext].some((follower) => HEADER_FOLLOWS.test(follower?.text ?? ''));
}

function bodyOf(lines: TextLine[]): Stretch[] {
  const parts: Stretch[] = [];
  let end = lines.findIndex(
    (line, at) => line.text === '--' || (SIGN_OFF.test(line.text) && restIsSignature(lines.slice(at + 1))),
  );
  if (end < 0) end = lines.length;
  for (const [at, line] of lines.slice(0, end).entries()) {
    if (FOOTER.test(line.text)) {
      const blockEnds = at > lines.length / 2;
      if (blockEnds) break;
      continue;
    }
    const wrappedLead =
      QUOTE_LEAD.test(`${line.text} ${lines[at + 1]?.text ?? ''}`) && QUOTE_LINE.test(lines[at + 2]?.text ?? '');
    if (QUOTE_LINE.test(line.text) || QUOTE_LEAD.test(line.text) || wrappedLead) continue;
    const last = parts.at(-1);
    if (last?.end === line.start) last.end = line.end;
    else parts.push({ start: line.start, end: line.end });
  }
  return parts;
}

/** After a sign-off only short lines, quotes or a footer may follow; else it was a line of the text. */
function restIsSignature(rest: TextLine[]): boolean {
  const said = rest.filter((line) => line.text.trim() && !QUOTE_LINE.test(line.text));
  const postscript = said.findIndex((line) => /^\s*p\.?\s?s\.?\b/i.test(line.text));
  return postscript < 0 && said.slice(0, 8).every((line) => line.text.length < 72 || FOOTER.test(line.text));
}

const NOT_AN_END =
  /(?:\b(?:e\.g|i\.e|mr|mrs|ms|dr|no|nr|approx|ca|etc|vs|st|bzw|z\.\s?B|d\.\s?h|u\.\s?a|usw|evtl|inkl|Tel|Abs)|\b[A-Z])\.$/i;
/** A number with a full stop is an ordinal only before a month or a small letter ("14. August"). */
const ORDINAL = /\b\d{1,2}\.$/;
const ORDINAL_SMALL = /^\s+(?:\p{Ll}|(?:Jan|Feb|Mär|Apr|Mai|Jun|Jul|Aug|Sep|Okt|Nov|Dez))/u;

/** Sentences in a stretch: ended by a mark, a blank line, or a list item. */
export function sentencesIn(text: string, { start, end }: Stretch): Stretch[] {
  const found: Stretch[] = [];
  let from = start;
  const push = (to: number) => {
    const raw = text.slice(from, to);
    const lead = /^[\s>*•–-]*(?:\d{1,2}[.)]\s+)?/.exec(raw)?.[0].length ?? 0;
    const trimmed = raw.trimEnd().length;
    if (trimmed > lead) found.push({ start: from + lead, end: from + trimmed });
    from = to;
  };
  const breaks =
    /[.!?]+["”’)]*(?=\s|$)|\n\s*\n|\n(?=\s*(?:[-*•–]|\d{1,2}[.)])\s)|(?<=[,:;])\n(?=\S)|\n(?=[A-Z][a-z]{1,20}: )|(?<=\p{L}:) (?=\p{Lu}\p{Ll}{1,20}: )/gu;
  for (const match of text.slice(start, end).matchAll(breaks)) {
    const to = start + match.index + match[0].length;
    const so = text.slice(from, to);
    if (
      match[0] === '.' &&
      NOT_AN_END.test(so) &&
      !/^\s*\n\s*\n/.test(text.slice(to)) &&
      !/^\s+(?:Please|Could|Can|Bitte|Would|We|I|Wir|Ich)\b/.test(text.slice(to))
    )
      continue;
    if (match[0] === '.' && ORDINAL.test(so) && ORDINAL_SMALL.test(text.slice(to, to + 12))) continue;
    push(to);
  }
  push(end);
  return found;
}
