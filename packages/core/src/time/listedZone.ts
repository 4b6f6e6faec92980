import { Zone as LuxonZone } from 'luxon';

/** A change of the clock: from an instant on, so many minutes east of UTC. */
export interface ClockChange {
  at: number;
  to: number;
}

const MINUTE = 60_000;
const PREFIX = '<changes>';
/** More changes than that are no clock of people. */
const MOST = 400;
const SHAPE = new RegExp(`^${PREFIX}(-?\\d{1,4})((?:;-?\\d{1,10}:-?\\d{1,4}){0,${MOST}})$`);

/**
 * A zone given by its changes one by one, for calendar files whose clock follows no yearly rule: `<changes>60` and, for
 * each change, `;MINUTES:OFFSET`, minutes since 1970-01-01T00:00Z and minutes east of UTC from then on.
 */
export class ListedZone extends LuxonZone {
  private constructor(
    private readonly text: string,
    readonly before: number,
    readonly changes: readonly ClockChange[],
  ) {
    super();
  }

  private static readonly known = new Map<string, ListedZone | null>();

  /** The zone of a text; null when it is none. */
  static of(text: string): ListedZone | null {
    let zone = ListedZone.known.get(text);
    if (zone === undefined) {
      zone = ListedZone.read(text);
      if (ListedZone.known.size > 200) ListedZone.known.clear();
      ListedZone.known.set(text, zone);
    }
    return zone;
  }

  private static read(text: string): ListedZone | null {
    const [, before = '', rest = ''] = SHAPE.exec(text) ?? [];
    if (!before) return null;
    const changes = rest
      .split(';')
      .filter(Boolean)
      .map((one) => one.split(':').map(Number))
      .map(([at = 0, to = 0]) => ({ at: at * MINUTE, to }));
    const inOrder = changes.every(({ at }, index) => index === 0 || at > (changes[index - 1]?.at ?? 0));
    const offsets = [Number(before), ...changes.map(({ to }) => to)];
    if (!inOrder || offsets.some((offset) => Math.abs(offset) >= 24 * 60)) return null;
    return new ListedZone(text, Number(before), changes);
  }

  override get type(): string {
    return 'listed';
  }

  override get name(): string {
    return this.text;
  }

  override get isUniversal(): boolean {
    return this.changes.length === 0;
  }

  override get isValid(): boolean {
    return true;
  }

  override offsetName(): string {
    return 'Rules';
  }

  override formatOffset(instant: number): string {
    const offset = this.offset(instant);
    const size = Math.abs(offset);
    return `${offset < 0 ? '-' : '+'}${String(Math.floor(size / 60)).padStart(2, '0')}:${String(size % 60).padStart(2, '0')}`;
  }

  /** Minutes east of UTC. */
  override offset(instant: number): number {
    return offsetAt({ before: this.before, changes: this.changes }, instant);
  }

  override equals(other: LuxonZone): boolean {
    return other.type === this.type && other.name === this.name;
  }
}

/** Minutes east of UTC at an instant, by changes in their order. */
export function offsetAt({ before, changes }: { before: number; changes: readonly ClockChange[] }, instant: number): number {
  let [low, high] = [0, changes.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if ((changes[middle]?.at ?? 0) <= instant) low = middle + 1;
    else high = middle;
  }
  return changes[low - 1]?.to ?? before;
}

/** Writes changes as such a zone; those that change nothing are left out, and of too many the latest are kept. */
export function listedName({ before, changes }: { before: number; changes: readonly ClockChange[] }): string {
  const real = changes.filter(({ to }, index) => to !== (changes[index - 1]?.to ?? before));
  const kept = real.slice(-MOST);
  const first = real.length > kept.length ? (real.at(-MOST - 1)?.to ?? before) : before;
  return `${PREFIX}${first}${kept.map(({ at, to }) => `;${Math.round(at / MINUTE)}:${to}`).join('')}`;
}
