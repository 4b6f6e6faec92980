import type { MessageFacts } from './facts';
import { wallOf, type Instant, type Zone } from '../time/zones';

/** What a message says of an event: when it begins, how long it lasts, where, and who else is named with an address. */
export interface MeetingSaid {
  /** `YYYY-MM-DD HH:MM`, or `YYYY-MM-DD HH:MM-HH:MM`; empty where no time is named. */
  when: string;
  /** Minutes it lasts, where they are said. */
  minutes: number | null;
  place: string;
  addresses: string[];
}

/**
 * What an event that is made of a message begins with. A time that is offered for a meeting comes before one that is
 * only mentioned; one that is over counts for nothing.
 * @param mine addresses of the user, who is no guest of their own event
 */
export function meetingIn(facts: MessageFacts, now: Instant, zone: Zone, mine: readonly string[] = []): MeetingSaid {
  const wall = wallOf(now, zone);
  const timed = facts.dates.filter(({ value, role }) => value.includes('T') && value > wall && role !== 'deadline');
  const said = timed.find(({ role }) => role === 'meeting') ?? timed[0];
  const end = said?.endValue?.split('T')[1];
  const sameDay = said?.endValue?.slice(0, 10) === said?.value.slice(0, 10);
  return {
    when: said ? said.value.replace('T', ' ') + (end && sameDay ? `-${end}` : '') : '',
    minutes: facts.minutes,
    place: facts.places[0]?.text ?? '',
    addresses: [...new Set(facts.people.map(({ address }) => address))].filter((one) => one && !mine.includes(one)),
  };
}
