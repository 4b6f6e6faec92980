/** Parts of one message that are looked at, and bytes of each that may say its character set. */
const MOST_PARTS = 50;
const MOST_LOOKED_AT = 8192;
const MOST_HEADER = 65_536;

const isUtf8 = (bytes: Buffer): boolean => {
  try {
    // The end may be in the middle of a letter.
    new TextDecoder('utf-8', { fatal: true }).decode(bytes, { stream: true });
    return true;
  } catch {
    return false;
  }
};

/**
 * A message in which each HTML part that names its character set only inside (`<meta charset>`, WHATWG HTML, 4.2.5.4) names it
 * in its header, too, where the parser looks for it.
 */
export function withSaidCharset(bytes: Buffer): Buffer {
  const text = bytes.toString('latin1');
  const found = /^content-type[ \t]*:(?:[^\r\n]|\r?\n[ \t])*?text\/html(?:[^\r\n]|\r?\n[ \t])*/gim;
  const put: { at: number; charset: string }[] = [];
  let looked = 0;
  for (let match = found.exec(text); match && looked < MOST_PARTS; match = found.exec(text), looked += 1) {
    if (/charset\s*=/i.test(match[0])) continue;
    const charset = saidInside(bytes, text, match.index, found.lastIndex);
    if (charset) put.push({ at: found.lastIndex, charset });
  }
  if (!put.length) return bytes;
  const parts: Buffer[] = [];
  let from = 0;
  for (const { at, charset } of put) {
    parts.push(bytes.subarray(from, at), Buffer.from(`; charset=${charset}`));
    from = at;
  }
  return Buffer.concat([...parts, bytes.subarray(from)]);
}

/** The character set that a part says of itself; empty where it says none, or is UTF-8 all the same. */
function saidInside(bytes: Buffer, text: string, from: number, to: number): string {
  const rest = text.slice(to, to + MOST_HEADER);
  const end = /\r?\n\r?\n/.exec(rest);
  if (!end) return '';
  const before = text.slice(Math.max(0, from - MOST_HEADER), from);
  const start = Math.max(before.lastIndexOf('\n\n'), before.lastIndexOf('\r\n\r\n'), 0);
  const header = before.slice(start) + text.slice(from, to + end.index);
  const encoding = /^content-transfer-encoding[ \t]*:\s*([\w-]+)/im.exec(header)?.[1]?.toLowerCase() ?? '';
  const at = to + end.index + end[0].length;
  const body = decoded(bytes.subarray(at, at + MOST_LOOKED_AT), encoding);
  const charset = /<meta\s[^>]*charset\s*=\s*["']?\s*([\w:.-]{1,40})/i.exec(body.toString('latin1'))?.[1] ?? '';
  if (!charset || isUtf8(body)) return '';
  try {
    new TextDecoder(charset);
    return charset;
  } catch {
    return '';
  }
}

function decoded(body: Buffer, encoding: string): Buffer {
  const text = body.toString('latin1');
  if (encoding === 'base64') return Buffer.from(text.replace(/[^A-Za-z0-9+/=]/g, ''), 'base64');
  if (encoding !== 'quoted-printable') return body;
  const plain = text.replace(/=\r?\n/g, '');
  return Buffer.from(
    plain.replace(/=([0-9A-F]{2})/gi, (_, hex: string) => String.fromCharCode(parseInt(hex, 16))),
    'latin1',
  );
}
