import { Refusal } from '../base/errors';

export interface TryLimits {
  /** Wrong passwords for one account, and from one address, before a pause. */
  perAccount: number;
  perAddress: number;
  /** Milliseconds of that pause. */
  pause: number;
  /** Passwords hashed at the same time: each takes 32 MB and a tenth of a second of a core. */
  atOnce: number;
  /** Sign-ins that wait for their turn; more are refused at once. */
  waiting: number;
}
export const TRY_LIMITS: TryLimits = { perAccount: 8, perAddress: 40, pause: 5 * 60_000, atOnce: 2, waiting: 30 };

const MOST_KEPT = 10_000;
const tooMany = () => new Refusal('too-many', 'Too many tries. Wait five minutes, then try again.');

/** Counts tries of passwords before they are hashed, so that many at once are not many guesses, and hashes a few at a time. */
export class Tries {
  private readonly counts = new Map<string, { count: number; until: number }>();
  private running = 0;
  private readonly queue: (() => void)[] = [];

  constructor(private readonly limits: TryLimits = TRY_LIMITS) {}

  /**
   * Runs one try; it counts as wrong until it turns out to be right.
   * @param check gives null for a wrong password
   * @throws Refusal 429 when there were too many
   */
  async attempt<T>(account: string, address: string, check: () => Promise<T | null>): Promise<T | null> {
    const keys = [`account ${account}`, `address ${address}`] as const;
    const now = Date.now();
    if (this.counted(keys[0], now) >= this.limits.perAccount || this.counted(keys[1], now) >= this.limits.perAddress)
      throw tooMany();
    for (const key of keys) this.count(key, now);
    const result = await this.inTurn(check);
    if (result !== null) {
      this.counts.delete(keys[0]);
      const from = this.counts.get(keys[1]);
      if (from) from.count -= 1;
    }
    return result;
  }

  private counted(key: string, now: number): number {
    const known = this.counts.get(key);
    return known && known.until > now ? known.count : 0;
  }

  private count(key: string, now: number): void {
    const count = this.counted(key, now) + 1;
    // The oldest goes first: a flood of names must not wipe what is counted for the others.
    this.counts.delete(key);
    this.counts.set(key, { count, until: now + this.limits.pause });
    const oldest = this.counts.size > MOST_KEPT ? this.counts.keys().next().value : undefined;
    if (oldest !== undefined) this.counts.delete(oldest);
  }

  private async inTurn<T>(work: () => Promise<T>): Promise<T> {
    if (this.running >= this.limits.atOnce) {
      if (this.queue.length >= this.limits.waiting) throw tooMany();
      await new Promise<void>((resolve) => this.queue.push(resolve));
    } else this.running += 1;
    try {
      return await work();
    } finally {
      const next = this.queue.shift();
      if (next) next();
      else this.running -= 1;
    }
  }
}
