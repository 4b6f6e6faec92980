/** A person or address named in a message. */
export interface PersonFound {
  name: string;
  address: string;
}

/** A link in a message and what it leads to. */
export interface LinkFound {
  url: string;
  kind: 'meeting' | 'document' | 'other';
}

const NOT_A_NAME = /^(?:ask|tell|call|write|contact|mail|dear|hello|hi|from|to|and|liebe|lieber|an|frag)\s+/i;
const ADDRESS =
  /(?:([\p{Lu}][\p{L}'-]+(?: [\p{Lu}][\p{L}'-]+){1,3})\s*[<(]\s*)?([\p{L}\d._%+-]{1,64}@[\p{L}\d-]+(?:\.[\p{L}\d-]+)+)/gu;

/** Addresses written in a text, each once, with the name before them when there is one. */
export function peopleIn(text: string): PersonFound[] {
  const byAddress = new Map<string, PersonFound>();
  for (const match of text.slice(0, 200_000).matchAll(ADDRESS)) {
    const address = (match[2] ?? '').toLowerCase();
    if (!byAddress.get(address)?.name) byAddress.set(address, { name: (match[1] ?? '').replace(NOT_A_NAME, ''), address });
  }
  return [...byAddress.values()];
}

const URL_FORM = /\bhttps?:\/\/[^\s<>"'“”]+[^\s<>"'“”.,;:!?)\]]/gi;
const MEETING_URL = /^https?:\/\/[^/]*\b(?:meet|call|conference|video|room|join)\b|\/(?:meet|join|call|room|conference)s?\//i;
const DOCUMENT_URL =
  /\.(?:pdf|docx?|odt|ods|xlsx?|pptx?|odp|csv|md|txt)(?:[?#]|$)|^https?:\/\/(?:docs?|files?|drive|share|cloud)\.|\/(?:docs?|files?|documents?|share)\//i;

/** Links in a text, each once. */
export function linksIn(text: string): LinkFound[] {
  const urls = new Set([...text.slice(0, 200_000).matchAll(URL_FORM)].map((match) => match[0]));
  return [...urls].map((url) => ({
    url,
    kind: MEETING_URL.test(url) ? 'meeting' : DOCUMENT_URL.test(url) ? 'document' : 'other',
  }));
}
