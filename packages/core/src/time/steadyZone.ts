import { IANAZone, Zone, type ZoneOffsetOptions, type ZoneOffsetFormat } from 'luxon';

const DAY = 86_400_000;
/** Since then every change of every zone is at a whole quarter of an hour, and no zone changed twice in a day. */
const STEADY_SINCE = Date.UTC(1973, 0, 1);
/** Days whose offset is remembered for each zone: a century. */
const MOST_DAYS = 36_525;

/**
 * A zone of the machine's zone database that remembers its offsets: asking for one costs as much as writing a date out.
 * Where a day begins and ends with the same offset, that is its offset all through.
 */
export class SteadyZone extends Zone {
  private static readonly made = new Map<string, SteadyZone>();
  private readonly begins = new Map<number, number>();

  private constructor(private readonly zone: IANAZone) {
    super();
  }

  /** The zone of a name; null when this machine does not know it. */
  static of(name: string): SteadyZone | null {
    let zone = SteadyZone.made.get(name);
    if (!zone) {
      if (!IANAZone.isValidZone(name)) return null;
      zone = new SteadyZone(IANAZone.create(name));
      SteadyZone.made.set(name, zone);
    }
    return zone;
  }

  override get type(): string {
    return this.zone.type;
  }

  override get name(): string {
    return this.zone.name;
  }

  override get isUniversal(): boolean {
    return this.zone.isUniversal;
  }

  override get isValid(): boolean {
    return true;
  }

  override offsetName(instant: number, options: ZoneOffsetOptions): string {
    return this.zone.offsetName(instant, options) ?? '';
  }

  override formatOffset(instant: number, format: ZoneOffsetFormat): string {
    return this.zone.formatOffset(instant, format);
  }

  /** Minutes ahead of UTC. */
  override offset(instant: number): number {
    if (!(instant >= STEADY_SINCE)) return this.zone.offset(instant);
    const day = Math.floor(instant / DAY);
    const offset = this.beginOf(day);
    return offset === this.beginOf(day + 1) ? offset : this.zone.offset(instant);
  }

  override equals(other: Zone): boolean {
    return other.type === this.type && other.name === this.name;
  }

  private beginOf(day: number): number {
    let offset = this.begins.get(day);
    if (offset === undefined) {
      offset = this.zone.offset(day * DAY);
      if (this.begins.size >= MOST_DAYS) this.begins.clear();
      this.begins.set(day, offset);
    }
    return offset;
  }
}
