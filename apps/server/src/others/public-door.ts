import { Injectable } from '@nestjs/common';
import { Refusal } from '../base/errors';

/** How often strangers may look and act within a minute: from one address, and at one link. */
const LIMITS = { look: { address: 120, link: 600 }, act: { address: 12, link: 30 } } as const;
const MINUTE = 60_000;
const MOST_KEPT = 10_000;

/** Counts what strangers ask for, so that a page can neither be searched nor flooded. */
@Injectable()
export class PublicDoor {
  private readonly counts = new Map<string, { count: number; until: number }>();

  /** @throws Refusal 429 */
  pass(what: keyof typeof LIMITS, address: string, link: string): void {
    const keys = [
      [`${what} address ${address}`, LIMITS[what].address],
      [`${what} link ${link.slice(0, 80)}`, LIMITS[what].link],
    ] as const;
    const now = performance.now();
    if (keys.some(([key, most]) => this.counted(key, now) >= most))
      throw new Refusal('too-many', 'This was asked for very often just now. Wait a minute, then try again.');
    for (const [key] of keys) this.count(key, now);
  }

  private counted(key: string, now: number): number {
    const known = this.counts.get(key);
    return known && known.until > now ? known.count : 0;
  }

  private count(key: string, now: number): void {
    const known = this.counts.get(key);
    if (known && known.until > now) known.count += 1;
    else {
      this.counts.delete(key);
      this.counts.set(key, { count: 1, until: now + MINUTE });
    }
    const oldest = this.counts.size > MOST_KEPT ? this.counts.keys().next().value : undefined;
    if (oldest !== undefined) this.counts.delete(oldest);
  }
}
