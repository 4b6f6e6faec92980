import { StringDecoder } from 'node:string_decoder';
import ICAL from 'ical.js';

/** One contact (vCard 4, RFC 6350; version 3 is read too). */
export interface Vcard {
  name: string;
  addresses: string[];
  phone: string;
  organisation: string;
  note: string;
}

export type VcardItem = { type: 'person'; person: Vcard } | { type: 'refused'; at: string; reason: string };

/** Characters of one card without its photo; a longer one is refused. */
const MAX_CARD = 2 * 1024 * 1024;

/** Reads a file of vCards, one at a time; a broken one does not take the others with it. */
export async function* readVcards(input: AsyncIterable<Buffer | string>): AsyncGenerator<VcardItem> {
  const decoder = new StringDecoder('utf8');
  let rest = '';
  let number = 0;
  for await (const chunk of input) {
    rest += typeof chunk === 'string' ? chunk : decoder.write(chunk);
    for (;;) {
      const end = /^END:VCARD[ \t]*\r?(?:\n|$)/im.exec(rest);
      if (!end || (end[0].endsWith('D') && rest.length === end.index + end[0].length)) break;
      number += 1;
      yield cardOf(rest.slice(0, end.index + end[0].length), number);
      rest = rest.slice(end.index + end[0].length);
    }
    if (rest.length > MAX_CARD) {
      yield { type: 'refused', at: `card ${number + 1}`, reason: 'It is too long, or it never ends.' };
      return;
    }
  }
  rest += decoder.end();
  if (/^END:VCARD/im.test(rest)) yield cardOf(rest, number + 1);
  else if (/\S/.test(rest) || number === 0)
    yield {
      type: 'refused',
      at: number ? `card ${number + 1}` : '',
      reason: number ? 'The file ends in the middle of it.' : 'There is no contact in this file.',
    };
}

function cardOf(text: string, number: number): VcardItem {
  const at = `card ${number}`;
  try {
    // A photo is often most of a card and is not kept.
    const lean = text.replace(/^(?:PHOTO|LOGO|SOUND|KEY)[;:][^\r\n]*(?:\r?\n[ \t][^\r\n]*)*\r?\n/gim, '').trim();
    const parsed = ICAL.parse(lean) as ConstructorParameters<typeof ICAL.Component>[0];
    const card = new ICAL.Component(parsed);
    if (card.name !== 'vcard') return { type: 'refused', at, reason: 'This is no contact.' };
    const text1 = (name: string) => {
      const value = card.getFirstPropertyValue(name);
      return (Array.isArray(value) ? value.flat().filter(Boolean).join(', ') : String(value ?? '')).trim();
    };
    const addresses = card
      .getAllProperties('email')
      .map((one) =>
        String(one.getFirstValue() ?? '')
          .replace(/^mailto:/i, '')
          .trim()
          .toLowerCase(),
      )
      .filter((one) => /^[^\s@]+@[^\s@]+$/.test(one) && one.length <= 320);
    const names = card.getFirstPropertyValue('n');
    const parts = Array.isArray(names) ? (names as (string | string[])[]).map((one) => [one].flat().join(' ')) : [];
    const name = text1('fn') || [parts[1], parts[0]].filter(Boolean).join(' ') || text1('org') || addresses[0] || '';
    if (!name) return { type: 'refused', at, reason: 'It has neither a name nor an address.' };
    return {
      type: 'person',
      person: {
        name: name.slice(0, 200),
        addresses: [...new Set(addresses)].slice(0, 20),
        phone: text1('tel').replace(/^tel:/i, '').slice(0, 80),
        organisation: text1('org').slice(0, 200),
        note: text1('note').slice(0, 20_000),
      },
    };
  } catch (problem) {
    return { type: 'refused', at, reason: `It cannot be read: ${problem instanceof Error ? problem.message : 'unknown'}.` };
  }
}
