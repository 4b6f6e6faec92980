import { sayDay, sayMinutes, sayMoment } from '../text/say';
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

/** What somebody is asked to take over. */
export interface HandedOver {
  title: string;
  deadline: string | null;
  fixed: boolean;
  /** Minutes it is thought to take. */
  minutes: number;
  who: string;
  /** Who asks. */
  from: string;
}

/** A mail that asks somebody to take something over, to be changed before it goes. */
export function handOverText({ title, deadline, fixed, minutes, who, from }: HandedOver, today: Day): string {
  const due = deadline ? `It is due ${sayMoment(deadline, today)}${fixed ? ', and that will not move' : ''}. ` : '';
  const takes = minutes > 0 ? `I reckon with ${sayMinutes(minutes)} for it. ` : '';
  return [
    `Hello ${who.split(/[\s@]/)[0]},`,
    '',
    `could you take this over from me: “${title}”?`,
    `${due}${takes}Please tell me whether you can, and what you need for it.`,
    '',
    from,
  ].join('\n');
}
