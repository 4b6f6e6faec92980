import { addDays, daysBetween, instantOf, type Zone } from '../time/zones';
import type { StoredPart } from './command';
import { untilText, withParts } from './ending';
import { keyOf, linesOf, untilInWall } from './recur';
import { readRule } from './rule';
import { shiftedRules } from './shift';
import { timesAt, timesOn, type NewPlace } from './times';
import { wallText } from './walk';

const DAY = 86_400_000;
/** What a rule of whole days, or one at another time, does not say. */
const CLOCK = { BYHOUR: '', BYMINUTE: '', BYSECOND: '' };

/**
 * A series that gets another form with one of its dates: whole days or times, or another zone. Its dates keep their days,
 * moved as far as that one is, and all begin when it does.
 */
export function reformed(
  series: StoredPart,
  key: string,
  to: NewPlace,
  reader: Zone,
): { fields: Partial<StoredPart>; name: (key: string) => string } {
  const target = timesAt({ ...series, ...timesOn(series, key, reader) }, to, reader);
  const days = daysBetween(key.slice(0, 10), target.start.slice(0, 10));
  const name = (one: string) => `${addDays(one.slice(0, 10), days)}${target.start.slice(10)}`;
  const along = shiftedRules(series, { by: days * DAY, from: key.slice(0, 10), to: target.start.slice(0, 10) }, reader);
  const ruled = (rules: string | null) =>
    linesOf(rules)
      .map((rule) => withParts(rule, { ...CLOCK, ...untilPart(rule, series, target.allDay, target.zone ?? reader, reader) }))
      .join('\n') || null;
  return {
    fields: {
      ...timesAt(target, { start: name(series.start) }, reader),
      rrule: ruled(along.rrule),
      exrule: ruled(along.exrule),
      rdates: series.rdates.map((one) => name(keyOf(one))),
      exdates: series.exdates.map(name),
    },
    name,
  };
}

/** UNTIL as the other form writes it (RFC 5545, 3.3.10): the same last day. */
function untilPart(rule: string, series: StoredPart, allDay: boolean, zone: Zone, reader: Zone): Record<string, string> {
  const { until } = readRule(rule);
  if (until === null) return {};
  const last = untilInWall(until, series.allDay, series.zone ?? reader);
  if (!Number.isFinite(last)) return {};
  const day = wallText(last, true);
  return { UNTIL: allDay ? day.replaceAll('-', '') : untilText(instantOf(`${day}T23:59`, zone), false, reader) };
}
