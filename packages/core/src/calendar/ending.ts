import { wallOf, type Instant, type Zone } from '../time/zones';
import { MAX_STEPS, linesOf, type Recurring } from './recur';
import { readRule } from './rule';
import { placing } from './times';
import { Steps, asWall, walk } from './walk';

/** The text of a moment as UNTIL: a day for days, else in UTC (RFC 5545, 3.3.10). */
export function untilText(at: Instant, allDay: boolean, reader: Zone): string {
  return allDay ? wallOf(at, reader).slice(0, 10).replaceAll('-', '') : new Date(at).toISOString().replace(/[-:]|\.\d{3}/g, '');
}

/** A rule with its parts replaced; an empty text takes a part away. */
export function withParts(rule: string, parts: Readonly<Record<string, string>>): string {
  const others = rule.split(';').filter((part) => part && !Object.hasOwn(parts, part.split('=')[0]?.toUpperCase() ?? ''));
  const fresh = Object.entries(parts).filter(([, value]) => value !== '');
  return [...others, ...fresh.map(([name, value]) => `${name}=${value}`)].join(';');
}

/**
 * The rules of a series that ends before one of its dates; null when nothing of them is left. What is counted keeps its
 * count where it would end earlier by itself.
 * @param key the date it ends before, as it is named
 */
export function endedBefore(series: Recurring, key: string, reader: Zone): string | null {
  const at = placing(series, reader)(key).start - 1000;
  const until = untilText(at, series.allDay, reader);
  const ended = linesOf(series.rrule).map((rule) =>
    readRule(rule).count === null
      ? withParts(rule, { UNTIL: until })
      : withParts(rule, { UNTIL: '', COUNT: String(countedBefore(series, rule, key)) }),
  );
  return ended.join('\n') || null;
}

/** How many dates a rule has given before one of them; DTSTART counts. */
export function countedBefore(series: Pick<Recurring, 'start'>, rule: string, key: string): number {
  const [start, end] = [asWall(series.start), asWall(key)];
  let counted = 1;
  for (const time of walk(readRule(rule), start, start, new Steps(MAX_STEPS), end)) {
    if (time >= end) break;
    if (time !== start) counted += 1;
  }
  return counted;
}

/** Whether a rule gives that date itself, whatever ends it. */
export function gives(series: Pick<Recurring, 'start'>, rule: string, key: string): boolean {
  const wanted = asWall(key);
  for (const time of walk(readRule(rule), asWall(series.start), wanted, new Steps(MAX_STEPS), wanted)) {
    if (time === wanted) return true;
    if (time > wanted) break;
  }
  return false;
}
