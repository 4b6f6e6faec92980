/** What of an incoming decides where like things went. */
export interface Traits {
  sender: string;
  kind: string;
  bulk: boolean;
  asks: number;
  subject: string;
}

/** One trait under which decisions are remembered, and how much it weighs. */
export interface Feature {
  key: string;
  weight: number;
  /** How a reason names it, after a number: “7 of 8 … went to Permits”. */
  says: string;
}

const MOST_WORDS = 8;
const STEM = 7;
const STOP = new Set(
  'the and for with from your you our are was were has have will can could this that not new all about into over per via der die das und für mit von den dem des ein eine einen zum zur ist sind war wir ihr sie uns bitte wegen nach noch'.split(
    ' ',
  ),
);

/** The traits of an incoming as features: the address first, then its domain, its form, and the words of its subject. */
export function featuresOf({ sender, kind, bulk, asks, subject }: Traits): Feature[] {
  const address = sender.toLowerCase();
  const domain = address.split('@')[1] ?? '';
  const form = `${kind}${bulk ? ', to many' : ''}${asks ? ', asking' : ''}`;
  const features: Feature[] = [{ key: `form:${form}`, weight: 0.6, says: bulk ? 'sent to many' : `of this form` }];
  if (address) {
    features.push({ key: `from:${address}`, weight: 1, says: 'from this address' });
    features.push({ key: `from:${address} ${form}`, weight: 0.7, says: 'like it from this address' });
  }
  if (domain) features.push({ key: `at:${domain}`, weight: 0.5, says: `from ${domain}` });
  for (const word of wordsOf(subject))
    features.push({ key: `word:${word.slice(0, STEM)}`, weight: 0.5, says: `with “${word}” in the subject` });
  return features;
}

function wordsOf(subject: string): string[] {
  const words = subject.toLowerCase().match(/\p{L}[\p{L}\p{N}-]{2,}/gu) ?? [];
  return [...new Set(words.filter((word) => !STOP.has(word)))].slice(0, MOST_WORDS);
}
