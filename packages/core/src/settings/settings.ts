import { NO_BUFFERS, type BufferSettings } from '../calendar/bufferRules';
import type { HeadsDownRules } from '../doing/headsDown';
import { FIRST_PLANNING, type PlanningRules } from '../planning/stretch';
import { FIRST_MANNER, type Manner } from '../text/manner';
import { sayClock } from '../text/say';
import { HoursError, readHours } from '../time/working';
import { addDays, mondayOf, weekOf, weekdayOf, type Day, type Zone } from '../time/zones';

/** A day on which nobody works, and what it is called. */
export interface DayOff {
  day: Day;
  name: string;
}

/** What one is reminded of, and how. */
export interface Remind {
  /** Minutes before an event that says nothing itself; null: not at all. */
  before: number | null;
  /** When time that was set aside begins. */
  blocks: boolean;
  /** As a notification of the system, too. */
  system: boolean;
  /** By mail, too. */
  mail: boolean;
}

/** How days are opened and closed. Times are `HH:MM` by the clock. */
export interface DayRules {
  /** How many things can matter most on a day. */
  most: number;
  /** When it is time to close the day; null: one is never asked. */
  closeAt: string | null;
  /** When the outline of the day is mailed; null: never. */
  mailAt: string | null;
  /** ISO weekdays on which it is. */
  mailDays: number[];
  /** ISO weekday on which the week is looked back on; null: one is never asked. */
  reviewDay: number | null;
  /** How many things a shortlist has. */
  shortlist: number;
}

export type Concentration = 'deep' | 'medium' | 'light';

/** What is held back in quiet time. */
export interface QuietRules {
  /** Sites that the extension does not let through; what lies below them belongs to them. */
  sites: string[];
}

/** What work outside is: it has its weather. */
export interface OutsideRules {
  /** Tags, categories, or words in the names of places. */
  words: string[];
  /** Where it is done when nothing else is said. */
  place: string;
}

/** What a user chose once and everything goes by. */
export interface Settings extends Manner {
  name: string;
  /** Addresses that are the user's, besides the one of the account: who asks them asks the user. */
  addresses: string[];
  zone: Zone;
  /** Whose hours stand beside one's own on Plan. */
  zones: Zone[];
  /** By ISO weekday; what lies between two stretches is a pause. */
  hours: Record<string, string[]>;
  daysOff: DayOff[];
  /** ISO weekday a week begins on: Monday, Saturday or Sunday. */
  weekStart: 1 | 6 | 7;
  /** Minutes that are set aside for a task that does not say how long it takes. */
  lengths: Record<Concentration, number>;
  /** Minutes to which everything on Plan snaps. */
  snap: 5 | 10 | 15 | 30;
  textSize: 'normal' | 'large' | 'larger';
  /** How much room things leave between them. */
  density: 'normal' | 'close';
  /** What one is reminded of besides what things say themselves, and how. */
  remind: Remind;
  /** What is kept free beside events. */
  buffers: BufferSettings;
  /** How days are planned. */
  planning: PlanningRules;
  /** How days are opened and closed. */
  day: DayRules;
  /** How long one works and pauses, heads-down. */
  headsDown: HeadsDownRules;
  /** What is held back in quiet time that says nothing else. */
  quiet: QuietRules;
  outside: OutsideRules;
  /** Keys that are other than at first, by the name of their command: `sort.drop`. */
  keys: Record<string, string>;
  /** Whether the first questions were answered or skipped. */
  begun: boolean;
}

/** What is so until something else is chosen. */
export const FIRST_SETTINGS: Omit<Settings, 'name' | 'zone' | 'hours'> = {
  addresses: [],
  zones: [],
  daysOff: [],
  weekStart: 1,
  lengths: { deep: 30, medium: 30, light: 30 },
  snap: 15,
  textSize: 'normal',
  density: 'normal',
  ...FIRST_MANNER,
  remind: { before: 10, blocks: true, system: false, mail: false },
  buffers: NO_BUFFERS,
  planning: FIRST_PLANNING,
  day: { most: 3, closeAt: '17:00', mailAt: null, mailDays: [1, 2, 3, 4, 5], reviewDay: 5, shortlist: 7 },
  headsDown: { work: 25, short: 5, long: 15, every: 4, sound: false },
  quiet: { sites: [] },
  outside: { words: [], place: '' },
  keys: {},
  begun: false,
};

/** Settings that consist of several, each of which may be chosen by itself. */
const OF_SEVERAL = ['lengths', 'remind', 'buffers', 'planning', 'day', 'headsDown', 'quiet', 'outside'] as const;

/** A choice of settings: of those that consist of several, only some of them may be said. */
export type SettingsChoice = Omit<Partial<Settings>, (typeof OF_SEVERAL)[number]> & {
  [K in (typeof OF_SEVERAL)[number]]?: Partial<Settings[K]> | undefined;
};

/** Settings with a choice made upon them; what the choice leaves out stays. */
export function withChoices<T extends Partial<Settings>>(settings: T, choice: SettingsChoice): T {
  const several: [string, unknown][] = OF_SEVERAL.filter((name) => choice[name]).map((name) => {
    const said = Object.entries(choice[name] ?? {}).filter(([, value]) => value !== undefined);
    return [name, { ...FIRST_SETTINGS[name], ...settings[name], ...Object.fromEntries(said) }];
  });
  return Object.assign({}, settings, choice, Object.fromEntries(several));
}

/** The name of the day off that a day is; null where it is none. */
export function dayOffNamed(day: Day, daysOff: readonly DayOff[]): string | null {
  const found = daysOff.find((one) => one.day === day);
  return found ? found.name || 'Day off' : null;
}

/** Days off with more of them: in order, each day once; a name that is given anew wins. */
export function withDaysOff(daysOff: readonly DayOff[], more: readonly DayOff[]): DayOff[] {
  const all = new Map([...daysOff, ...more].map((one) => [one.day, one]));
  return [...all.values()].sort((a, b) => (a.day < b.day ? -1 : 1));
}

/** The day on which the week of a day begins, for whom weeks begin on `weekStart` (ISO weekday). */
export function weekBegin(day: Day, weekStart: number): Day {
  return addDays(day, -((weekdayOf(day) - weekStart + 7) % 7));
}

/** The first of so many days that show a working week: with five of them its first working day, else the day it begins on. */
export function firstShown(day: Day, count: number, { weekStart, hours }: Pick<Settings, 'weekStart' | 'hours'>): Day {
  if (count < 5) return day;
  const begin = weekBegin(day, weekStart);
  if (count >= 7) return begin;
  const works = [0, 1, 2].find((ahead) => (hours[weekdayOf(addDays(begin, ahead))] ?? []).length > 0);
  const first = works === undefined ? mondayOf(weekOf(day)) : addDays(begin, works);
  return day < first || day > addDays(first, count - 1) ? begin : first;
}

/** A clock time as it is typed, `9`, `9:00` or `5:30 pm`, as `HH:MM`. */
function whole(typed: string): string {
  const [, hour = '', minutes = '00', half = ''] = /^(\d{1,2})(?::(\d{2}))?\s*([ap]m)?$/i.exec(typed) ?? [];
  if (!half) return `${hour}:${minutes}`;
  return `${(Number(hour) % 12) + (half.toLowerCase() === 'pm' ? 12 : 0)}:${minutes}`;
}

const BETWEEN_STRETCHES = /\s*(?:[,;]|\band\b)\s*/i;

/**
 * Working hours of a day as they are typed: `9-12, 12:45–17:30`, `9am-5pm`; nothing, or a word for it, is a day without.
 * @returns stretches as `HH:MM-HH:MM`, one after the other
 * @throws HoursError with a sentence for the user
 */
export function readStretches(text: string): string[] {
  if (/^\s*(?:none|free|off|–|-)?\s*$/i.test(text)) return [];
  const stretches = text.split(BETWEEN_STRETCHES).map((part) => {
    const [, from = '', to = ''] =
      /^\s*(\d{1,2}(?::\d{2})?(?:\s*[ap]m)?)\s*(?:-|–|to)\s*(\d{1,2}(?::\d{2})?(?:\s*[ap]m)?)\s*$/i.exec(part) ?? [];
    return readHours(from ? `${whole(from)}-${whole(to).replace(/^0:00$/, '24:00')}` : part.slice(0, 40));
  });
  const early = stretches.findIndex((one, at) => at > 0 && one.slice(0, 5) < (stretches[at - 1] ?? '').slice(6));
  if (early > 0)
    throw new HoursError(
      `${stretches[early]?.slice(0, 5)} is before ${stretches[early - 1]?.slice(6)}: write one after the other.`,
    );
  return stretches;
}

/** Stretches as they are typed: `9:00–12:00, 12:45–17:30`, by the clock of the reader. */
export const sayStretches = (stretches: readonly string[]): string =>
  stretches.map((one) => one.split('-').map(sayClock).join('–')).join(', ');

/** Minutes of work in a day's stretches. */
export const workMinutes = (stretches: readonly string[]): number =>
  stretches.reduce((sum, one) => {
    const [from = 0, to = 0] = one.split('-').map((time) => Number(time.slice(0, 2)) * 60 + Number(time.slice(3)));
    return sum + to - from;
  }, 0);
