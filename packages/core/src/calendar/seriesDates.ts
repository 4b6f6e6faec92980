import type { Zone } from '../time/zones';
import type { SeriesCommand, SeriesEdit, StoredPart } from './command';
import { occurrences } from './recur';
import { reformed } from './reform';
import { shiftTo, shiftedName, shiftedRules } from './shift';
import { isReformed, placing, timesAt, timesOn, type NewPlace } from './times';

const DAY = 86_400_000;

/** A series of which one date is put elsewhere. */
export interface Moved {
  /** Its times, rules and dates after that. */
  fields: Partial<StoredPart>;
  /** What one of its dates is called after that. */
  name: (key: string) => string;
}

/**
 * A series of which one date is put elsewhere, and the others with it.
 * @param rule how it repeats from now on; left out: as before, moved along
 */
export function moved(
  series: StoredPart,
  key: string,
  to: NewPlace | undefined,
  rule: string | null | undefined,
  reader: Zone,
): Moved {
  const other = rule === undefined ? {} : { rrule: rule, exrule: null };
  if (rule === null) {
    const times = to ? timesAt({ ...series, ...timesOn(series, key, reader) }, to, reader) : timesOn(series, key, reader);
    return { fields: { ...times, ...other, rdates: [], exdates: [] }, name: (one) => one };
  }
  if (!to) return { fields: other, name: (one) => one };
  if (isReformed(series, to)) {
    const { fields, name } = reformed(series, key, to, reader);
    return { fields: { ...fields, ...other }, name };
  }
  const shift = shiftTo(key, timesAt(series, to, reader).start);
  const name = (one: string) => shiftedName(one, shift, series.allDay);
  return {
    fields: {
      ...timesAt(series, { start: name(series.start), minutes: to.minutes }, reader),
      ...(rule === undefined ? shiftedRules(series, shift, reader) : other),
      rdates: series.rdates.map(name),
      exdates: series.exdates.map(name),
    },
    name,
  };
}

/** Whether a series, as it will be, has a date of that name. */
function hasDate(series: StoredPart, key: string, reader: Zone): boolean {
  const at = placing(series, reader)(key).start;
  return occurrences(series, at - DAY, at + 2 * DAY, reader).some((one) => one.key === key);
}

/**
 * Changed dates go along with their series; what was put elsewhere or changed by hand stays so. A date that the series does
 * not have any more goes.
 */
export function changeDates<T extends StoredPart>(
  edit: SeriesEdit<T>,
  series: T,
  dates: readonly T[],
  key: string,
  command: SeriesCommand<T> & { do: 'change' },
  reader: Zone,
  common: Partial<StoredPart>,
): void {
  const { to, rule } = command;
  const after = moved(series, key, to, rule, reader);
  for (const part of dates) {
    const name = after.name(part.recurrenceId);
    if (rule !== undefined && (rule === null || !hasDate({ ...series, ...after.fields }, name, reader))) {
      edit.remove.push(part);
      continue;
    }
    const fields: Record<string, unknown> = { ...common };
    for (const [field, value] of Object.entries(command.fields)) {
      const [its, theirs] = [part, series].map((one) => JSON.stringify((one as unknown as Record<string, unknown>)[field]));
      if (its === theirs || part.recurrenceId === key) fields[field] = value;
    }
    if (to) {
      const times = datesTimes(part, series, key, to, name, reader);
      Object.assign(fields, times, { recurrenceId: name, sequence: part.sequence + 1 });
    }
    if (Object.keys(fields).length) edit.update.push({ part, fields: fields as Partial<T> });
  }
}

/** When a changed date is after the series was moved; none where it was put elsewhere by hand. */
function datesTimes(
  part: StoredPart,
  series: StoredPart,
  key: string,
  to: NewPlace,
  name: string,
  reader: Zone,
): Partial<StoredPart> {
  const { minutes, allDay, zone } = to;
  if (part.recurrenceId === key) return timesAt(part, to, reader);
  const plain = timesOn(series, part.recurrenceId, reader);
  const along = part.following || (part.start === plain.start && part.end === plain.end && part.zone === plain.zone);
  if (!along) return {};
  if (isReformed(series, to)) return timesAt(part, { start: name, minutes, allDay, zone }, reader);
  const shift = shiftTo(key, timesAt(series, to, reader).start);
  return timesAt(part, { start: shiftedName(part.start, shift, part.allDay), minutes }, reader);
}
