import type { Instant, Zone } from '../time/zones';
import { SeriesProblem, type SeriesCommand, type SeriesEdit, type StoredPart } from './command';
import { countedBefore, endedBefore, gives, withParts } from './ending';
import { keyOf, linesOf, occurrences } from './recur';
import { readRule } from './rule';
import { repeats, seriesOccurrences } from './series';
import { changeDates, moved } from './seriesDates';
import { FixedRule } from './shift';
import { placing, timesAt, timesOn, type EventTimes } from './times';

const DAY = 86_400_000;
/** No date is put further from where its rule has it. */
const FAR = 400 * DAY;
const ONE_DATE = { rrule: null, exrule: null, rdates: [], exdates: [], duration: null, following: false };

/**
 * Carries out a command on an event: on one date, from one date on (the series then ends there, and a new one begins), or on
 * all dates. What was changed by hand on a date stays as it is, unless that date is meant.
 * @param parts all that is kept of one UID
 * @param newUid of the series that begins where another is parted
 * @throws SeriesProblem
 */
export function changeSeries<T extends StoredPart>(
  parts: readonly T[],
  command: SeriesCommand<T>,
  reader: Zone,
  newUid: string,
): SeriesEdit<T> {
  const edit: SeriesEdit<T> = { insert: [], update: [], remove: [] };
  const series = parts.find((part) => !part.recurrenceId);
  const single = series && !repeats(series) ? series : !series && parts.length === 1 ? parts[0] : undefined;
  if (single && parts.length === 1) return changeSingle(edit, single, command, reader);
  try {
    if (command.scope === 'all' && series) wholeSeries(edit, series, parts, command, reader);
    else {
      const key = knownDate(parts, command.occurrence, reader);
      if (command.scope !== 'following' || !series) oneDate(edit, series, parts, key, command, reader);
      else if (key === series.start) wholeSeries(edit, series, parts, { ...command, occurrence: key }, reader);
      else fromDateOn(edit, series, parts, key, command, reader, newUid);
    }
  } catch (problem) {
    if (problem instanceof FixedRule) throw new SeriesProblem('rule', problem.message);
    throw problem;
  }
  return edit;
}

function changeSingle<T extends StoredPart>(
  edit: SeriesEdit<T>,
  part: T,
  command: SeriesCommand<T>,
  reader: Zone,
): SeriesEdit<T> {
  if (command.do === 'remove') {
    edit.remove.push(part);
    return edit;
  }
  const { to, rule } = command;
  const times = {
    ...(to ? timesAt(part, to, reader) : {}),
    ...(rule === undefined || part.recurrenceId ? {} : { rrule: rule }),
  };
  const said = Object.keys(times).length ? times : undefined;
  edit.update.push({ part, fields: changed(part, command.fields as Partial<T>, said) });
  return edit;
}

/** Fields of a part after a change; its sequence goes up where it is elsewhere than before. */
function changed<T extends StoredPart>(part: T, fields: Partial<T>, times?: Partial<StoredPart>): Partial<T> {
  const moved = times ? { ...times, sequence: part.sequence + 1 } : {};
  return { ...fields, ...moved };
}

/** @throws SeriesProblem when no date is named, or none of that name is there */
function knownDate(parts: readonly StoredPart[], occurrence: string | null, reader: Zone): string {
  if (!occurrence) throw new SeriesProblem('which', 'Say which occurrence of the repeating event is meant.');
  const series = parts.find((part) => !part.recurrenceId);
  const named = parts.some((part) => part.recurrenceId === occurrence);
  if (named) return occurrence;
  const near = series && series.allDay === (occurrence.length === 10) ? placing(series, reader)(occurrence).start : Number.NaN;
  if (!Number.isFinite(near) || !dateNear(parts, near, occurrence, reader))
    throw new SeriesProblem('no-such-date', 'There is no such occurrence.');
  return occurrence;
}

function oneDate<T extends StoredPart>(
  edit: SeriesEdit<T>,
  series: T | undefined,
  parts: readonly T[],
  key: string,
  command: SeriesCommand<T>,
  reader: Zone,
): void {
  const own = parts.find((part) => part.recurrenceId === key);
  if (command.do === 'change' && command.rule !== undefined)
    throw new SeriesProblem('rule', 'One date alone does not repeat; say whether all after it are meant, or all.');
  if (own?.following)
    throw new SeriesProblem('rule', 'Here the series was changed for good; say whether all after it are meant, too.');
  if (command.do === 'remove') {
    if (own) edit.remove.push(own);
    if (!series) return;
    const exdates = [...new Set([...series.exdates, key])];
    if (isEmptied(series, parts, exdates, key, reader)) edit.remove.push(series);
    else edit.update.push({ part: series, fields: { exdates, sequence: series.sequence + 1 } as unknown as Partial<T> });
    return;
  }
  if (own) {
    edit.update.push({
      part: own,
      fields: changed(own, command.fields as Partial<T>, command.to && timesAt(own, command.to, reader)),
    });
    return;
  }
  const like = parts.findLast((part) => part.following && part.recurrenceId <= key) ?? series;
  if (!like) return;
  const present = timesOnDate(like, series ?? like, parts, key, reader);
  const times = command.to ? timesAt({ ...like, ...present }, command.to, reader) : present;
  edit.insert.push({
    like,
    fields: { ...command.fields, ...ONE_DATE, ...times, recurrenceId: key, sequence: like.sequence + 1 } as unknown as Partial<T>,
  });
}

/** A date of a series by its name, however far what holds from a date on has put it. */
const dateNear = (parts: readonly StoredPart[], near: Instant, key: string, reader: Zone) =>
  seriesOccurrences(parts, near - FAR, near + FAR, reader).find((one) => one.occurrence.key === key);

/** When one date is, as the series and what was changed from a date on say. */
function timesOnDate(like: StoredPart, series: StoredPart, parts: readonly StoredPart[], key: string, reader: Zone): EventTimes {
  if (like === series) return timesOn(series, key, reader);
  const found = dateNear(parts, placing(series, reader)(key).start, key, reader);
  return found
    ? timesAt(like, { start: found.occurrence.days?.first ?? found.occurrence.start }, reader)
    : timesOn(series, key, reader);
}

/** Whether nothing is left of a series that has an end. */
function isEmptied(series: StoredPart, parts: readonly StoredPart[], exdates: string[], key: string, reader: Zone): boolean {
  const endless = linesOf(series.rrule).some((rule) => readRule(rule).count === null && readRule(rule).until === null);
  if (endless || parts.some((part) => part.recurrenceId && part.recurrenceId !== key)) return false;
  const from = placing(series, reader)(series.start).start;
  return !occurrences({ ...series, exdates }, from - DAY, from + 200 * 366 * DAY, reader).length;
}

function wholeSeries<T extends StoredPart>(
  edit: SeriesEdit<T>,
  series: T,
  parts: readonly T[],
  command: SeriesCommand<T>,
  reader: Zone,
): void {
  if (command.do === 'remove') {
    edit.remove.push(...parts);
    return;
  }
  const key = command.occurrence ?? series.start;
  const { to, rule } = command;
  const times = to || rule !== undefined ? moved(series, key, to, rule, reader).fields : undefined;
  edit.update.push({ part: series, fields: changed(series, command.fields as Partial<T>, times) });
  changeDates(
    edit,
    series,
    parts.filter((part) => part !== series),
    key,
    command,
    reader,
    {},
  );
}

function fromDateOn<T extends StoredPart>(
  edit: SeriesEdit<T>,
  series: T,
  parts: readonly T[],
  key: string,
  command: SeriesCommand<T>,
  reader: Zone,
  newUid: string,
): void {
  const rules = linesOf(series.rrule);
  if (parts.some((part) => part.following))
    throw new SeriesProblem('rule', 'This series was already changed from one of its dates on; change this date or all of them.');
  if (linesOf(series.exrule).length || rules.some((rule) => !gives(series, rule, key)) || !rules.length)
    throw new SeriesProblem('rule', 'This date stands beside the rule; change this date or all of them.');
  const [before, after] = [(one: string) => keyOf(one) < key, (one: string) => keyOf(one) >= key];
  edit.update.push({
    part: series,
    fields: {
      rrule: endedBefore(series, key, reader),
      rdates: series.rdates.filter(before),
      exdates: series.exdates.filter(before),
      sequence: series.sequence + 1,
    } as unknown as Partial<T>,
  });
  const dates = parts.filter((part) => part.recurrenceId >= key);
  if (command.do === 'remove') {
    edit.remove.push(...dates);
    return;
  }
  const rest: T = {
    ...series,
    ...timesOn(series, key, reader),
    duration: series.duration ?? null,
    rrule: rules.map((rule) => restOf(series, rule, key)).join('\n'),
    rdates: series.rdates.filter(after),
    exdates: series.exdates.filter(after),
  };
  const { start, end, allDay, zone, duration, rrule, rdates, exdates } = {
    ...rest,
    ...moved(rest, key, command.to, command.rule, reader).fields,
  };
  edit.insert.push({
    like: series,
    fields: {
      ...command.fields,
      uid: newUid,
      sequence: 0,
      start,
      end,
      allDay,
      zone,
      duration,
      rrule,
      exrule: null,
      rdates,
      exdates,
    } as unknown as Partial<T>,
  });
  changeDates(edit, rest, dates, key, command, reader, { uid: newUid });
}

/** What a rule still gives from one of its dates on. */
function restOf(series: StoredPart, rule: string, key: string): string {
  const { count } = readRule(rule);
  return count === null ? rule : withParts(rule, { COUNT: String(Math.max(1, count - countedBefore(series, rule, key))) });
}
