import { sayDay } from '../text/say';
import type { Day } from '../time/zones';

/** Somebody a task can wait on. */
export interface Who {
  name: string;
  addresses: readonly string[];
}

const plain = (text: string) => text.trim().toLowerCase();

/** Whether what was written for whom one waits on means somebody: their name, its first part, or an address of theirs. */
export function isMeant(said: string, { name, addresses }: Who): boolean {
  const wanted = plain(said);
  if (!wanted) return false;
  return plain(name) === wanted || plain(name).startsWith(`${wanted} `) || addresses.some((one) => plain(one) === wanted);
}

/** What somebody was asked for. */
export interface Asked {
  title: string;
  who: string;
  since: Day | null;
  until: Day | null;
  /** Who asks. */
  from: string;
}

/** A mail that asks once more, to be changed before it goes. */
export function nudgeText({ title, who, since, until, from }: Asked, today: Day): string {
  const when = since && since < today ? `on ${sayDay(since, today)} ` : '';
  const hoped = until ? `I ${until < today ? 'had hoped' : 'hope'} for it by ${sayDay(until, today)}. ` : '';
  return [
    `Hello ${who.split(/[\s@]/)[0]},`,
    '',
    `${when ? `${when}I asked you for this` : 'I wait for this from you'}: “${title}”.`,
    `${hoped}When can I count on it, and is there anything you need for it?`,
    '',
    from,
  ]
    .join('\n')
    .replace(/\n(on )/, (_, on: string) => `\n${on.charAt(0).toUpperCase()}${on.slice(1)}`);
}
