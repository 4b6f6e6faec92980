import { sayDay, sayMinutes, sayTime } from '../../text/say';
import { dayOf, type Instant, type Zone } from '../../time/zones';
import type { Unplaced } from './problem';

export interface SayingOf {
  /** What a task is called; its id where it has no name. */
  nameOf: (id: string) => string;
  zone: Zone;
  now: Instant;
}

/** Why a task has no place, as a sentence. */
export function sayWhyNot({ why, minutes, mend }: Unplaced, { nameOf }: SayingOf): string {
  const others = mend?.kind === 'after' ? mend.tasks.map((id) => `“${nameOf(id)}”`).join(' and ') : '';
  switch (why) {
    case 'circle':
      return `It waits for ${others}, and in the end that waits for it.`;
    case 'after-unknown':
      return `It comes after ${others}, which is not among the tasks.`;
    case 'after-unplaced':
      return `It comes after ${others}, which has no place.`;
    case 'passed':
      return 'Its fixed deadline has passed.';
    case 'no-time':
      return `There are not ${sayMinutes(minutes)} of free working time for it.`;
    case 'no-gap':
      return `No gap is ${sayMinutes(minutes)} long, and it is to be done in one piece.`;
    case 'deadline':
      return `There are not ${sayMinutes(minutes)} free before its fixed deadline.`;
    case 'limit':
      return `It takes ${sayMinutes(minutes)}, more than the limit for a day leaves.`;
    case 'taken':
      return 'What matters more, or is due sooner, takes the time it would need.';
    case 'crowded':
      return 'All the time it could have is taken: what stands there counts for more together.';
    case 'not-worth':
      return 'The first time that is free for it is so late that it can as well stay open.';
  }
}

/** The smallest change that would let it in, as a sentence; empty where there is none. */
export function sayMend({ mend }: Unplaced, { nameOf, zone, now }: SayingOf): string {
  const moment = (at: Instant) => `${sayDay(dayOf(at, zone), dayOf(now, zone))} ${sayTime(at, zone)}`;
  switch (mend?.kind) {
    case 'split':
      return `In parts of ${sayMinutes(mend.minChunk)} it would fit.`;
    case 'shorten':
      return `With ${sayMinutes(mend.minutes)} it would fit.`;
    case 'deadline':
      return `With time until ${moment(mend.to)} it would fit.`;
    case 'limit':
      return `With ${sayMinutes(mend.minutes)} more on a day it would fit.`;
    case 'displace':
      return `In place of ${mend.tasks.map((id) => `“${nameOf(id)}”`).join(' and ')} it would fit.`;
    case 'after':
      return `If it did not have to wait for ${mend.tasks.map((id) => `“${nameOf(id)}”`).join(' and ')}, it could be placed.`;
    case 'anyway':
      return `It would be done by ${moment(mend.end)}.`;
    case 'longer':
      return `It takes ${sayMinutes(mend.minutes)} of more working time, or a longer stretch.`;
    default:
      return '';
  }
}
