import type { Concentration } from '../settings/settings';

/** What is compared of tasks. Lengths in minutes. */
export interface Estimated {
  title: string;
  listId: string | null;
  tags: readonly string[];
  concentration: Concentration;
  estimate: number | null;
}

/** A task that is done, with what it took. */
export interface Took extends Estimated {
  spent: number;
}

/** What tasks like one took. */
export interface BetterEstimate {
  /** Minutes it would take, going by them. */
  minutes: number;
  /** How many times as long as planned they took, in the middle; null: they are the same task, and it is what they took. */
  ratio: number | null;
  /** How many they are. */
  count: number;
  /** What makes them like it. */
  like: 'title' | 'tag' | 'list' | 'concentration';
}

/** How many of a kind make a rule. */
const LEAST: Record<BetterEstimate['like'], number> = { title: 3, tag: 4, list: 5, concentration: 8 };
/** One is off that much before it is said. */
const OFF = 0.2;
const LEAST_MINUTES = 5;

const plain = (title: string) => title.trim().toLowerCase();

/**
 * A better figure than the one that stands there, from what tasks like it took: the same task; else those of its list with a
 * tag of it; else of its list; else of its kind of work. Null where there are too few of them, or they say the same.
 */
export function betterEstimate(task: Estimated, done: readonly Took[]): BetterEstimate | null {
  const took = done.filter(({ spent }) => spent > 0);
  const same = took.filter(({ title }) => plain(title) === plain(task.title));
  if (same.length >= LEAST.title) {
    const minutes = rounded(middle(same.map(({ spent }) => spent)));
    return worthSaying(minutes, task.estimate) ? { minutes, ratio: null, count: same.length, like: 'title' } : null;
  }
  if (task.estimate === null) return null;
  const planned = took.filter(({ estimate }) => estimate !== null && estimate > 0);
  const ofList = planned.filter(({ listId }) => listId !== null && listId === task.listId);
  const kinds: [BetterEstimate['like'], readonly Took[]][] = [
    ['tag', ofList.filter(({ tags }) => tags.some((tag) => task.tags.includes(tag)))],
    ['list', ofList],
    ['concentration', planned.filter(({ concentration }) => concentration === task.concentration)],
  ];
  const [like, found] = kinds.find(([name, all]) => all.length >= LEAST[name]) ?? [];
  if (!like || !found) return null;
  const ratio = middle(found.map(({ spent, estimate }) => spent / (estimate ?? spent)));
  const minutes = rounded(task.estimate * ratio);
  return worthSaying(minutes, task.estimate) ? { minutes, ratio: Math.round(ratio * 10) / 10, count: found.length, like } : null;
}

const worthSaying = (minutes: number, estimate: number | null) =>
  estimate === null || (Math.abs(minutes - estimate) >= LEAST_MINUTES && Math.abs(minutes / estimate - 1) >= OFF);

/** The median: one that took a whole day does not change it. */
function middle(numbers: readonly number[]): number {
  const sorted = [...numbers].sort((a, b) => a - b);
  const half = sorted.length / 2;
  const upper = sorted[Math.floor(half)] ?? 0;
  return sorted.length % 2 ? upper : ((sorted[half - 1] ?? 0) + upper) / 2;
}

/** To five minutes up to an hour, to a quarter of an hour above. */
function rounded(minutes: number): number {
  const step = minutes > 60 ? 15 : 5;
  return Math.max(step, Math.round(minutes / step) * step);
}
