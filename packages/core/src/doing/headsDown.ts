import { MINUTE, type Instant } from '../time/zones';

/** How long one works and pauses. Minutes. */
export interface HeadsDownRules {
  work: number;
  short: number;
  long: number;
  /** After how many stretches of work the pause is a long one. */
  every: number;
  /** Whether a sound is heard at each turn. */
  sound: boolean;
}

/** `work`; a pause; or `over`: the pause is over and one has not gone on yet, which counts nothing. */
export type Phase = 'work' | 'short' | 'long' | 'over';

/** Where the interval timer stands. */
export interface Turn {
  phase: Phase;
  from: Instant;
  /** When it turns by itself; null: it waits. */
  until: Instant | null;
  /** Stretches of work that are over. */
  round: number;
}

export const firstTurn = (rules: HeadsDownRules, now: Instant): Turn => ({
  ...{ phase: 'work', from: now, until: now + rules.work * MINUTE, round: 0 },
});

/** The turn after this one, beginning where it ended, however late that is noticed. */
function next(turn: Turn, rules: HeadsDownRules, at: Instant): Turn {
  if (turn.phase !== 'work') return { phase: 'over', from: at, until: null, round: turn.round };
  const round = turn.round + 1;
  const phase = round % rules.every === 0 ? 'long' : 'short';
  return { phase, from: at, until: at + rules[phase] * MINUTE, round };
}

/** All turns there were until `now`, this one first: work turns into a pause by itself, a pause waits when it is over. */
export function turnsUntil(turn: Turn, rules: HeadsDownRules, now: Instant): Turn[] {
  const turns = [turn];
  for (let at = turn; at.until !== null && at.until <= now;) {
    at = next(at, rules, at.until);
    turns.push(at);
  }
  return turns;
}

/** Goes on now: out of work into a pause, out of a pause into work. */
export function goOn(turn: Turn, rules: HeadsDownRules, now: Instant): Turn {
  if (turn.phase === 'work') return next(turn, rules, now);
  return { ...firstTurn(rules, now), round: turn.round };
}
