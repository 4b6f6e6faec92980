import type { Priority } from '../capture/draft';
import { featuresOf, type Feature, type Traits } from './features';
import { DESTINATIONS, type Destination } from '../decide/destinations';

/** One decision of the past, with the traits of what was decided. */
export interface Past {
  id: string;
  traits: Traits;
  to: Destination;
  list: string | null;
  tags: readonly string[];
  priority: Priority;
  /** Minutes it really took, where that is known. */
  minutes: number | null;
  /** Days from the decision to the day it was put on; null or absent where it got none. */
  ahead?: number | null;
}

/** A place things went to, how likely it is for this one, and what speaks for it. */
export interface Guess {
  to: Destination;
  list: string | null;
  /** 0 to 1, over all places. */
  chance: number;
  reasons: string[];
}

export interface Recalled {
  guesses: Guess[];
  /** Chance of each list over all destinations, likeliest first; null is no list. */
  lists: { list: string | null; chance: number }[];
  tags: string[];
  priority: Priority;
  /** Middle of how long like things took, and of how many. */
  took: { minutes: number; of: number } | null;
  /** Middle of how many days ahead like things were put, where most of them got a day; whether most got a time, too. */
  ahead: { days: number; of: number; timed: boolean } | null;
  /** Decisions that share a sender, domain or word with this one. */
  alike: number;
}

/** The newest so many decisions of a feature count; each older one less. */
const WINDOW = 60;
const FADING = 0.93;
const OVERALL = 'all';
const OVERALL_WINDOW = 200;
const OVERALL_FADING = 0.985;
/** How many decisions the overall share of a place is worth against a feature's own. */
const PULL = 0.4;
/** How much surer the features are together than one by one. */
const SHARPER = 1.6;
const WORN = 0.6;
const MOST_COUNTS = 5000;
const LEAST_TAGGED = 3;
const TAGGED_SHARE = 0.6;
const LEAST_TIMED = 3;
const DAY_SHARE = 0.6;

interface Candidate {
  past: Past;
  share: number;
  score: number;
  gain: number;
  for: { feature: Feature; gain: number }[];
}

/** How often things with a feature went to each place, newer ones counting more. */
interface Counted {
  total: number;
  number: number;
  places: Map<string, { past: Past; weight: number; number: number }>;
}

const placeOf = (one: { to: Destination; list: string | null }) => `${one.to}\n${one.list ?? ''}`;

/**
 * What one user decided, remembered by its traits. Learning and forgetting are exact: what was forgotten leaves no trace.
 * Each feature has an opinion: how often things with it went to each place, drawn towards the overall shares where it was
 * seen seldom. The opinions are pooled (a weighted geometric mean). Newer decisions count more, so that a new habit wins
 * after a few.
 */
export class Memory {
  private readonly known = new Map<string, Past>();
  private readonly byFeature = new Map<string, Past[]>();
  /** What was counted for a feature, until something is learnt or forgotten of it: a page of the inbox asks a hundred times. */
  private readonly counts = new Map<string, Counted>();

  get size(): number {
    return this.known.size;
  }

  /** Learns a decision; one with the same id is replaced. */
  learn(past: Past): void {
    this.forget(past.id);
    this.known.set(past.id, past);
    for (const key of keysOf(past)) {
      this.counts.delete(key);
      const list = this.byFeature.get(key);
      if (list) list.push(past);
      else this.byFeature.set(key, [past]);
    }
  }

  /** Forgets a decision that was taken back. */
  forget(id: string): void {
    const past = this.known.get(id);
    if (!past) return;
    this.known.delete(id);
    for (const key of keysOf(past)) {
      this.counts.delete(key);
      const list = this.byFeature.get(key);
      // What is forgotten is nearly always the newest.
      const at = list?.lastIndexOf(past) ?? -1;
      list?.splice(at, 1);
      if (!list?.length) this.byFeature.delete(key);
    }
  }

  /** Where like things went. */
  recall(traits: Traits): Recalled {
    const features = featuresOf(traits);
    const overall = this.counted(OVERALL, OVERALL_WINDOW, OVERALL_FADING);
    const places = new Map<string, Candidate>();
    const candidate = (past: Past, share: number): Candidate => ({ past, share, score: Math.log(share), gain: 0, for: [] });
    for (const [place, { past, weight }] of overall.places) {
      const share = weight / overall.total;
      places.set(place, candidate(past, share));
    }
    const floor = 0.5 / (overall.total + 1);
    let [alike, weighed] = [0, 0];
    for (const feature of features) {
      const seen = this.counted(feature.key, WINDOW, FADING);
      // A word that most subjects have says nothing.
      const worn = feature.key.startsWith('word:') && (this.byFeature.get(feature.key)?.length ?? 0) > this.size * WORN;
      if (!seen.total || worn) continue;
      if (!feature.key.startsWith('form:')) alike = Math.max(alike, seen.number);
      for (const [place, { past }] of seen.places) if (!places.has(place)) places.set(place, candidate(past, floor));
      const weight = (feature.weight * seen.total) / (seen.total + PULL);
      for (const [place, entry] of places) {
        const own = seen.places.get(place)?.weight ?? 0;
        const under = (own + PULL * entry.share) / (seen.total + PULL);
        entry.gain += weight * Math.log(under);
        if (own > 0) entry.for.push({ feature, gain: weight * Math.log(under / entry.share) });
      }
      weighed += weight;
    }
    // A pool of opinions, not a product: the features are not independent, an address implies its domain.
    if (weighed) for (const entry of places.values()) entry.score = (SHARPER * entry.gain) / weighed;
    const top = Math.max(...[...places.values()].map((one) => one.score), -Infinity);
    const sum = [...places.values()].reduce((total, one) => total + Math.exp(one.score - top), 0);
    const guesses = [...places.values()]
      .map((one) => ({
        to: one.past.to,
        list: one.past.list,
        chance: Math.exp(one.score - top) / sum,
        reasons: this.reasonsFor(one.past, one.for),
      }))
      .sort((a, b) => b.chance - a.chance);
    const best = guesses[0];
    const like = this.like(traits, best?.list ?? null);
    return { guesses, lists: listsOf(guesses), ...habitsOf(like), took: tookOf(like), ahead: aheadOf(like), alike };
  }

  private counted(key: string, window: number, fading: number): Counted {
    const known = this.counts.get(key);
    if (known) return known;
    const counted = this.count(key, window, fading);
    if (this.counts.size >= MOST_COUNTS) this.counts.clear();
    this.counts.set(key, counted);
    return counted;
  }

  private count(key: string, window: number, fading: number): Counted {
    const all = this.byFeature.get(key) ?? [];
    const places: Counted['places'] = new Map();
    let [weight, total] = [1, 0];
    const newest = all.slice(-window);
    for (let at = newest.length - 1; at >= 0; at -= 1) {
      const past = newest[at]!;
      const place = placeOf(past);
      const entry = places.get(place);
      if (entry) {
        entry.weight += weight;
        entry.number += 1;
      } else places.set(place, { past, weight, number: 1 });
      total += weight;
      weight *= fading;
    }
    return { total, number: newest.length, places };
  }

  /** The two features that speak most for a place, with the numbers behind them. */
  private reasonsFor(past: Past, found: { feature: Feature; gain: number }[]): string[] {
    const lead = [...found].sort((a, b) => b.gain - a.gain).slice(0, 4);
    const said: string[] = [];
    let named = false;
    for (const { feature } of lead) {
      if (said.length === 2 || feature.key.startsWith('form:')) continue;
      // What an address says, its domain and its form say too.
      if (named && !feature.key.startsWith('word:')) continue;
      const all = (this.byFeature.get(feature.key) ?? []).slice(-WINDOW);
      const same = all.filter((one) => (past.list ? one.list === past.list : placeOf(one) === placeOf(past))).length;
      if (same < 2) continue;
      named ||= !feature.key.startsWith('word:');
      said.push(`${same} of ${all.length} ${feature.says} ${wentTo(past)}`);
    }
    return said;
  }

  private like(traits: Traits, list: string | null): Past[] {
    const from = (this.byFeature.get(`from:${traits.sender.toLowerCase()}`) ?? []).slice(-WINDOW);
    const there = from.filter((one) => one.list === list);
    return there.length >= LEAST_TAGGED ? there : [];
  }
}

const keysOf = (past: Past): string[] => [OVERALL, ...featuresOf(past.traits).map((feature) => feature.key)];

function listsOf(guesses: Guess[]): Recalled['lists'] {
  const chances = new Map<string | null, number>();
  for (const { list, chance } of guesses) chances.set(list, (chances.get(list) ?? 0) + chance);
  return [...chances].map(([list, chance]) => ({ list, chance })).sort((a, b) => b.chance - a.chance);
}

/** Tags and priority that most of the like ones have. */
function habitsOf(like: Past[]): Pick<Recalled, 'tags' | 'priority'> {
  const count = (holds: (one: Past) => boolean) => like.filter(holds).length;
  const common = (holds: (one: Past) => boolean) => like.length >= LEAST_TAGGED && count(holds) / like.length >= TAGGED_SHARE;
  const tags = [...new Set(like.flatMap((one) => one.tags))].filter((tag) => common((one) => one.tags.includes(tag)));
  const priority = (['high', 'low'] as const).find((one) => common((past) => past.priority === one)) ?? 'normal';
  return { tags, priority };
}

function tookOf(like: Past[]): Recalled['took'] {
  const took = like.flatMap((one) => one.minutes ?? []).sort((a, b) => a - b);
  if (took.length < LEAST_TIMED) return null;
  return { minutes: Math.round((took[Math.floor(took.length / 2)] ?? 0) / 5) * 5 || 5, of: took.length };
}

function aheadOf(like: Past[]): Recalled['ahead'] {
  const days = like.flatMap((one) => one.ahead ?? []).sort((a, b) => a - b);
  if (days.length < LEAST_TIMED || days.length / like.length < DAY_SHARE) return null;
  const timed = like.filter((one) => one.to === 'time').length > days.length / 2;
  return { days: Math.max(0, days[Math.floor(days.length / 2)] ?? 0), of: days.length, timed };
}

function wentTo({ to, list }: Past): string {
  if (list && to !== 'reference') return `went to ${list}`;
  return DESTINATIONS[to].past;
}
