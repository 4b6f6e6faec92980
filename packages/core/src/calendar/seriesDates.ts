import type { Zone } from '../time/zones';
import type { SeriesCommand, SeriesEdit, StoredPart } from './command';
import { shiftTo, shiftedName, shiftedRules, type Shift } from './shift';
import { timesAt, timesOn, type NewPlace } from './times';

/** Times and rules of a series of which one date is put elsewhere. */
export function moved(series: StoredPart, key: string, to: NewPlace, reader: Zone): Partial<StoredPart> {
  const { shift, minutes } = shiftOf(series, key, to, reader);
  const start = shiftedName(series.start, shift, series.allDay);
  return {
    ...timesAt(series, { start, minutes }, reader),
    ...shiftedRules(series, shift, reader),
    rdates: series.rdates.map((one) => shiftedName(one, shift, series.allDay)),
    exdates: series.exdates.map((one) => shiftedName(one, shift, series.allDay)),
  };
}

function shiftOf(
  series: StoredPart,
  key: string,
  { start, minutes }: NewPlace,
  reader: Zone,
): { shift: Shift; minutes?: number | undefined } {
  const to = timesAt(series, { start, minutes }, reader).start;
  return { shift: shiftTo(key, to), minutes };
}

/** Changed dates go along with their series; what was put elsewhere or changed by hand stays so. */
export function changeDates<T extends StoredPart>(
  edit: SeriesEdit<T>,
  series: T,
  dates: readonly T[],
  key: string,
  command: SeriesCommand<T> & { do: 'change' },
  reader: Zone,
  common: Partial<StoredPart>,
): void {
  for (const part of dates) {
    const fields: Record<string, unknown> = { ...common };
    for (const [name, value] of Object.entries(command.fields)) {
      const [its, theirs] = [part, series].map((one) => JSON.stringify((one as unknown as Record<string, unknown>)[name]));
      if (its === theirs || part.recurrenceId === key) fields[name] = value;
    }
    if (command.to) {
      const { shift, minutes } = shiftOf(series, key, command.to, reader);
      const recurrenceId = shiftedName(part.recurrenceId, shift, series.allDay);
      const plain = timesOn(series, part.recurrenceId, reader);
      const along = part.following || (part.start === plain.start && part.end === plain.end && part.zone === plain.zone);
      const start = part.recurrenceId === key ? command.to.start : shiftedName(part.start, shift, part.allDay);
      const times = along || part.recurrenceId === key ? timesAt(part, { start, minutes }, reader) : {};
      Object.assign(fields, times, { recurrenceId, sequence: part.sequence + 1 });
    }
    if (Object.keys(fields).length) edit.update.push({ part, fields: fields as Partial<T> });
  }
}
