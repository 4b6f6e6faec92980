import { Zone as LuxonZone } from 'luxon';

/**
 * A zone given by its rules, written as POSIX TZ does (IEEE 1003.1, 8.3; RFC 8536, 3.3): `<-05>5`, or with the dates of
 * its changes `<-05>5<-04>,M3.2.0/2,M11.1.0/2`. Calendar files define zones that no zone of this machine agrees with.
 */
export class PosixZone extends LuxonZone {
  private constructor(
    private readonly text: string,
    private readonly standard: number,
    private readonly summer: { offset: number; from: Change; until: Change } | null,
  ) {
    super();
  }

  private static readonly known = new Map<string, PosixZone | null>();

  /** The zone of a text; null when it is none. */
  static of(text: string): PosixZone | null {
    const known = PosixZone.known.get(text);
    if (known !== undefined) return known;
    if (PosixZone.known.size > 1000) PosixZone.known.clear();
    const zone = PosixZone.read(text);
    PosixZone.known.set(text, zone);
    return zone;
  }

  private static read(text: string): PosixZone | null {
    const match = SHAPE.exec(text);
    if (!match) return null;
    const standard = -minutesOf(match[1] ?? '');
    if (!match[2]) return new PosixZone(text, standard, null);
    const [from, until] = [changeOf(match[4] ?? ''), changeOf(match[5] ?? '')];
    if (!from || !until) return null;
    return new PosixZone(text, standard, { offset: match[3] ? -minutesOf(match[3]) : standard + 60, from, until });
  }

  override get type(): string {
    return 'posix';
  }

  override get name(): string {
    return this.text;
  }

  override get isUniversal(): boolean {
    return this.summer === null;
  }

  override get isValid(): boolean {
    return true;
  }

  override offsetName(): string {
    return this.text;
  }

  override formatOffset(instant: number): string {
    const offset = this.offset(instant);
    const size = Math.abs(offset);
    return `${offset < 0 ? '-' : '+'}${String(Math.floor(size / 60)).padStart(2, '0')}:${String(size % 60).padStart(2, '0')}`;
  }

  /** Minutes east of UTC. */
  override offset(instant: number): number {
    if (!this.summer) return this.standard;
    const { offset, from, until } = this.summer;
    const year = new Date(instant + this.standard * 60_000).getUTCFullYear();
    const begin = wallOfChange(from, year) - this.standard * 60_000;
    const end = wallOfChange(until, year) - offset * 60_000;
    const isSummer = begin < end ? instant >= begin && instant < end : instant >= begin || instant < end;
    return isSummer ? offset : this.standard;
  }

  /** The rules, for a calendar file: offsets in minutes, and of each change its yearly rule and its first date in 1970. */
  describe(): { standard: number; summer: { offset: number; from: Described; until: Described } | null } {
    const { standard, summer } = this;
    return {
      standard,
      summer: summer && { offset: summer.offset, from: describe(summer.from), until: describe(summer.until) },
    };
  }

  override equals(other: LuxonZone): boolean {
    return other.type === this.type && other.name === this.name;
  }
}

/** A change of the clock: the nth weekday of a month (5 is the last), Sunday is 0, at minutes after midnight. */
interface Change {
  month: number;
  nth: number;
  weekday: number;
  minutes: number;
}

const OFFSET = '[+-]?\\d{1,2}(?::\\d{2})?';
const NAME = '<[A-Za-z0-9+-]{1,20}>';
const SHAPE = new RegExp(`^${NAME}(${OFFSET})(?:(${NAME})(${OFFSET})?,(M[^,]+),(M[^,]+))?$`);

function minutesOf(text: string): number {
  const [hours = '0', minutes = '0'] = text.replace(/^[+-]/, '').split(':');
  return (text.startsWith('-') ? -1 : 1) * (Number(hours) * 60 + Number(minutes));
}

function changeOf(text: string): Change | null {
  const match = /^M(\d{1,2})\.([1-5])\.([0-6])(?:\/([+-]?\d{1,3}(?::\d{2})?))?$/.exec(text);
  const month = Number(match?.[1]);
  if (!match || month < 1 || month > 12) return null;
  return { month, nth: Number(match[2]), weekday: Number(match[3]), minutes: match[4] ? minutesOf(match[4]) : 120 };
}

interface Described {
  rule: string;
  first: string;
}

function describe(change: Change): Described {
  const weekday = ['SU', 'MO', 'TU', 'WE', 'TH', 'FR', 'SA'][change.weekday] ?? 'SU';
  const first = new Date(wallOfChange(change, 1970))
    .toISOString()
    .replace(/[-:]|\.\d{3}Z/g, '')
    .slice(4);
  return { rule: `FREQ=YEARLY;BYMONTH=${change.month};BYDAY=${change.nth === 5 ? -1 : change.nth}${weekday}`, first };
}

function wallOfChange({ month, nth, weekday, minutes }: Change, year: number): number {
  const first = new Date(Date.UTC(year, month - 1, 1));
  const days = new Date(Date.UTC(year, month, 0)).getUTCDate();
  let day = 1 + ((weekday - first.getUTCDay() + 7) % 7) + (nth - 1) * 7;
  if (day > days) day -= 7;
  return Date.UTC(year, month - 1, day) + minutes * 60_000;
}

/** Writes an offset in minutes east of UTC as a zone without changes, or the parts of one with them. */
export function posixName(offset: number): string {
  const size = Math.abs(offset);
  const text = `${Math.floor(size / 60)}${size % 60 ? `:${String(size % 60).padStart(2, '0')}` : ''}`;
  const name = `${offset < 0 ? '-' : '+'}${String(Math.floor(size / 60)).padStart(2, '0')}${size % 60 ? String(size % 60).padStart(2, '0') : ''}`;
  return `<${name}>${offset > 0 ? '-' : ''}${text}`;
}
