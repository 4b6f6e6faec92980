import type { Interval } from '../time/intervals';
import { MINUTE, type Instant } from '../time/zones';
import type { Phase } from './headsDown';
import { covering } from './presence';

/** A site that cannot be held back, as a sentence for the user. */
export class SiteError extends Error {}

/** For how long a site that is held back can be looked at all the same. */
export const GRACE = 5 * MINUTE;

const ADDRESS = /^(?:https?:\/\/)?(?:[^\s/@]*@)?([^\s/:?#@]+)(?::\d{1,5})?(?:[/?#]\S*)?$/i;
const LABEL = /^[\p{L}\p{N}](?:[\p{L}\p{N}-]{0,61}[\p{L}\p{N}])?$/u;
const LONGEST_HOST = 253;

/**
 * A site as it is typed or pasted, `news.example` or `https://www.news.example/today`: the host it is about, and everything
 * below it.
 * @returns its host in lower case, without `www.`
 * @throws SiteError where it names none
 */
export function readSite(text: string): string {
  const [, typed = ''] = ADDRESS.exec(text.trim()) ?? [];
  const host = typed
    .toLowerCase()
    .replace(/\.$/, '')
    .replace(/^www\.(?=.+\.)/, '');
  const labels = host.split('.');
  const names = host.length <= LONGEST_HOST && labels.every((label) => LABEL.test(label));
  // A single word would be everything that ends with it.
  if (!names || (labels.length < 2 && host !== 'localhost'))
    throw new SiteError(`“${text.trim().slice(0, 60)}” is no site. Write one like news.example.`);
  return host;
}

/** Sites as they are typed one after the other, with spaces, commas or lines between them; each once. @throws SiteError */
export const readSites = (text: string): string[] => tidySites(text.split(/[\s,;]+/).filter(Boolean));

/** Sites as they are kept: their hosts, each once. @throws SiteError */
export const tidySites = (sites: readonly string[]): string[] => [...new Set(sites.map(readSite))];

/** Whether a host belongs to a site: it is the site, or lies below it. */
export const isOnSite = (host: string, site: string): boolean => host === site || host.endsWith(`.${site}`);

/** A time in which a site was looked at all the same. */
export interface Grace extends Interval {
  site: string;
}

/** Sites that are held back at a moment: those of quiet time, but for the ones that may be looked at. */
export const heldOf = (sites: readonly string[], graces: readonly Grace[], now: Instant): string[] =>
  sites.filter((site) => !graces.some((one) => one.site === site && one.start <= now && now < one.end));

/** What quiet time goes by. */
export interface QuietInput<Block extends Interval> {
  /** Time that was set aside for quiet. */
  quiet: readonly Block[];
  meetings: readonly Interval[];
  headsDown: { phase: Phase; until: Instant | null } | null;
}

/** Time in which it is quiet. */
export interface Quiet<Block extends Interval> extends Interval {
  /** What was set aside for it; null: it is heads-down only. */
  block: Block | null;
}

/**
 * The quiet time that runs, until it turns: heads-down while one works, else time that was set aside for it. Meetings are
 * not quiet, and neither are the pauses of heads-down.
 */
export function quietAt<Block extends Interval>(
  { quiet, meetings, headsDown }: QuietInput<Block>,
  now: Instant,
): Quiet<Block> | null {
  const block = covering(quiet, now) ?? null;
  if (headsDown?.phase === 'work' && headsDown.until !== null && headsDown.until > now)
    return { start: now, end: headsDown.until, block };
  if (headsDown || !block || covering(meetings, now)) return null;
  return { ...pieceOf(block, meetings, now), block };
}

/** The quiet time that comes after what runs, so far as it is set aside. */
export function quietAfter<Block extends Interval>(
  { quiet, meetings }: Pick<QuietInput<Block>, 'quiet' | 'meetings'>,
  now: Instant,
): Quiet<Block> | null {
  const day = { quiet, meetings, headsDown: null };
  const runs = quietAt(day, now);
  const begins = [...quiet.map(({ start }) => start), ...meetings.map(({ end }) => end), ...(runs ? [runs.end] : [])]
    .filter((at) => at > now && at >= (runs?.end ?? now))
    .sort((a, b) => a - b);
  for (const at of begins) {
    const next = quietAt(day, at);
    if (next) return next;
  }
  return null;
}

const pieceOf = (block: Interval, meetings: readonly Interval[], from: Instant): Interval => ({
  start: from,
  end: Math.min(block.end, ...meetings.map(({ start }) => start).filter((start) => start > from)),
});
