import { Injectable } from '@nestjs/common';
import { Refusal } from '../base/errors';

const MINUTE = 60_000;
const DAY = 86_400_000;
/** How often strangers may look and act within a minute, and act within a day: from one address, and at one link. */
const LIMITS = {
  look: [{ within: MINUTE, address: 120, link: 600 }],
  act: [
    { within: MINUTE, address: 12, link: 30 },
    { within: DAY, address: 120, link: 400 },
  ],
} as const;
const MOST_KEPT = 10_000;

/** Counts what strangers ask for, so that a page can neither be searched nor flooded. */
@Injectable()
export class PublicDoor {
  private readonly counts = new Map<string, { count: number; until: number }>();

  /** @throws Refusal 429 */
  pass(what: keyof typeof LIMITS, address: string, link: string): void {
    const keys = LIMITS[what].flatMap((limit) => [
      { key: `${what} ${limit.within} address ${address}`, most: limit.address, within: limit.within },
      { key: `${what} ${limit.within} link ${link.slice(0, 80)}`, most: limit.link, within: limit.within },
    ]);
    const now = performance.now();
    const full = keys.find(({ key, most }) => this.counted(key, now) >= most);
    if (full)
      throw new Refusal(
        'too-many',
        `This was asked for very often just now. Wait ${full.within === MINUTE ? 'a minute' : 'a day'}, then try again.`,
      );
    for (const { key, within } of keys) this.count(key, now, within);
  }

  private counted(key: string, now: number): number {
    const known = this.counts.get(key);
    return known && known.until > now ? known.count : 0;
  }

  private count(key: string, now: number, within: number): void {
    const known = this.counts.get(key);
    if (known && known.until > now) known.count += 1;
    else {
      this.counts.delete(key);
      this.counts.set(key, { count: 1, until: now + within });
    }
    const oldest = this.counts.size > MOST_KEPT ? this.counts.keys().next().value : undefined;
    if (oldest !== undefined) this.counts.delete(oldest);
  }
}
