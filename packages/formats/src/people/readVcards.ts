import { linesOf } from '../calendar/lines';

/** One contact (vCard 4, RFC 6350; versions 3 and 2.1 are read too). */
export interface Vcard {
  name: string;
  addresses: string[];
  phone: string;
  organisation: string;
  note: string;
}

export type VcardItem = { type: 'person'; person: Vcard } | { type: 'refused'; at: string; reason: string };

/** Bytes of one card; a longer one is refused. */
const MAX_CARD = 2 * 1024 * 1024;

/** Reads a file of vCards, one at a time; a broken one does not take the others with it. */
export async function* readVcards(input: AsyncIterable<Buffer | string>): AsyncGenerator<VcardItem> {
  let rest = '';
  let number = 0;
  for await (const chunk of input) {
    rest += (typeof chunk === 'string' ? Buffer.from(chunk) : chunk).toString('latin1');
    for (let end = endOfCard(rest); end > 0 && end < rest.length; end = endOfCard(rest)) {
      number += 1;
      yield cardOf(rest.slice(0, end), number);
      rest = rest.slice(end);
    }
    if (rest.length > MAX_CARD) {
      yield { type: 'refused', at: `card ${number + 1}`, reason: 'It is too long, or it never ends.' };
      return;
    }
  }
  if (endOfCard(rest) > 0) yield cardOf(rest, number + 1);
  else if (/\S/.test(rest) || number === 0)
    yield {
      type: 'refused',
      at: number ? `card ${number + 1}` : '',
      reason: number ? 'The file ends in the middle of it.' : 'There is no contact in this file.',
    };
}

function endOfCard(text: string): number {
  const end = /^END:VCARD[ \t]*(?:\r\n|\n|\r(?!$)|$)/im.exec(text);
  return end ? end.index + end[0].length : -1;
}

/** One content line: its name without a group, its parameters, and its value. */
interface Line {
  name: string;
  parameters: Record<string, string>;
  value: string;
}

function cardOf(latin1: string, number: number): VcardItem {
  const at = `card ${number}`;
  const lines = contentOf(latin1);
  if (!lines.some((line) => line.name === 'BEGIN' && /^vcard$/i.test(line.value.trim())))
    return { type: 'refused', at, reason: 'This is no contact.' };
  const first = (name: string) => lines.find((line) => line.name === name);
  const text = (name: string) => plain(first(name)?.value ?? '');
  const parts = (name: string) => split(first(name)?.value ?? '', ';').map((part) => plain(split(part, ',').join(' ')));
  const addresses = lines
    .filter((line) => line.name === 'EMAIL')
    .map((line) =>
      plain(line.value)
        .replace(/^mailto:/i, '')
        .trim()
        .toLowerCase(),
    )
    .filter((one) => /^[^\s@]+@[^\s@]+$/.test(one) && one.length <= 320);
  const [family, given] = parts('N');
  const organisation = parts('ORG').filter(Boolean).join(', ');
  const name = text('FN') || [given, family].filter(Boolean).join(' ') || organisation || addresses[0] || '';
  if (!name) return { type: 'refused', at, reason: 'It has neither a name nor an address.' };
  return {
    type: 'person',
    person: {
      name: name.slice(0, 200),
      addresses: [...new Set(addresses)].slice(0, 20),
      phone: text('TEL').replace(/^tel:/i, '').slice(0, 80),
      organisation: organisation.slice(0, 200),
      note: text('NOTE').slice(0, 20_000),
    },
  };
}

/** Lines of a card, decoded one by one: version 2.1 names an encoding and a character set for each. */
function contentOf(latin1: string): Line[] {
  // In quoted-printable an equals sign at the end of a line goes on in the next (RFC 2045, 6.7).
  const joined = latin1.replace(/^[^\r\n:]*ENCODING=QUOTED-PRINTABLE(?:=\r?\n|[^\r\n])*/gim, (line) =>
    line.replace(/=\r?\n/g, ''),
  );
  return linesOf(Buffer.from(joined, 'latin1')).flatMap((text) => {
    const match = /^(?:[A-Za-z0-9-]{1,60}\.)?([A-Za-z0-9-]{1,60})((?:;[^:"]*(?:"[^"]*"[^:"]*)*)?):(.*)$/s.exec(text);
    if (!match || text.length > 100_000) return [];
    const parameters = Object.fromEntries(
      split(match[2] ?? '', ';')
        .filter(Boolean)
        .map((part) => {
          // Version 2.1 writes a type without its name: EMAIL;INTERNET.
          const [name = '', value] = part.split('=', 2);
          return value === undefined
            ? [/^quoted-printable$/i.test(name) ? 'ENCODING' : 'TYPE', name]
            : [name.toUpperCase(), value];
        }),
    ) as Record<string, string>;
    return [{ name: (match[1] ?? '').toUpperCase(), parameters, value: valueOf(match[3] ?? '', parameters) }];
  });
}

function valueOf(text: string, parameters: Record<string, string>): string {
  if (!/^quoted-printable$/i.test(parameters['ENCODING'] ?? '')) return text;
  const bytes = Buffer.from(
    text.replace(/=([0-9A-F]{2})/gi, (_, code: string) => String.fromCharCode(parseInt(code, 16))),
    'latin1',
  );
  try {
    return new TextDecoder(parameters['CHARSET'] ?? 'utf-8', { fatal: true }).decode(bytes);
  } catch {
    return new TextDecoder('windows-1252').decode(bytes);
  }
}

/** Parts between marks that are not escaped. */
function split(text: string, mark: ';' | ','): string[] {
  const parts = [''];
  for (let at = 0; at < text.length; at += 1) {
    const letter = text[at] ?? '';
    if (letter === '\\') {
      parts[parts.length - 1] += letter + (text[at + 1] ?? '');
      at += 1;
    } else if (letter === mark) parts.push('');
    else parts[parts.length - 1] += letter;
  }
  return parts;
}

/** A value without its escapes (RFC 6350, 3.4). */
const plain = (text: string): string =>
  text.replace(/\\([\\,;:nN])/g, (_, letter: string) => (/n/i.test(letter) ? '\n' : letter)).trim();
