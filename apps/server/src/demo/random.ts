/** A small seeded random source (mulberry32), so that demo data are the same every time. */
export class Random {
  constructor(private state: number) {}

  /** From 0 up to, not including, 1. */
  next(): number {
    this.state = (this.state + 0x6d2b79f5) | 0;
    let mixed = Math.imul(this.state ^ (this.state >>> 15), 1 | this.state);
    mixed = (mixed + Math.imul(mixed ^ (mixed >>> 7), 61 | mixed)) ^ mixed;
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 4_294_967_296;
  }

  /** A whole number from `low` to `high`, both included. */
  between(low: number, high: number): number {
    return low + Math.floor(this.next() * (high - low + 1));
  }

  pick<T>(from: readonly T[]): T {
    const chosen = from[Math.floor(this.next() * from.length)];
    if (chosen === undefined) throw new Error('nothing to pick from');
    return chosen;
  }

  bytes(count: number): Uint8Array {
    return Uint8Array.from({ length: count }, () => this.between(0, 255));
  }
}
