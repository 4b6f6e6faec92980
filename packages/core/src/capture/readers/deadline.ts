import { dayForTime, findDates, type DateFound } from '../../time/dateText';
import { addDays, mondayOf } from '../../time/zones';
import type { LineReader } from '../draft';

/** Words that lead to a last day; those that leave no room make it a fixed one. */
const LEAD =
  /(?<![^\s])(by|due|before|until|till|(?:no|not) later than|latest|at the latest|deadline(?: is)?|bis|vor dem|vor|spätestens|fällig)(?:\s+(?:on|by|spätestens|am|zum|bis))*:?\s+(?:the\s+|dem\s+)?/gi;
const FIXED = /due|later|latest|deadline|spätestens|fällig/i;
const AFTER = /^,?\s*(?:at the latest|latest|spätestens)(?![\p{L}\d])/iu;
const WITHIN = /^(?:within|innerhalb|binnen)\b/i;

/** `by Friday`, `until noon`, `bis 14.8.`: a flexible deadline; `due …`, `not later than …`, `spätestens …`: a fixed one. */
export const deadlineReader: LineReader = (line, { now, zone }) => {
  const dates = findDates(line.rest, { now, zone, language: line.language });
  const take = (date: DateFound, start: number, words: string) => {
    const after = AFTER.exec(line.rest.slice(date.end));
    const day = date.week ? addDays(mondayOf(date.week), 4) : (date.day ?? dayForTime(date.time ?? '', now, zone));
    line.draft.deadline = date.time ? `${day}T${date.time}` : day;
    line.draft.deadlineFixed = FIXED.test(words) || after !== null;
    line.take('deadline', start, date.end + (after?.[0].length ?? 0));
  };
  for (const match of line.rest.matchAll(LEAD)) {
    const at = match.index + match[0].length;
    const date = dates.find((one) => one.start <= at && /^(?:the |dem )?$/i.test(line.rest.slice(one.start, at)));
    if (date) return take(date, match.index, match[0]);
  }
  const late = dates.find((one) => WITHIN.test(one.text) || AFTER.test(line.rest.slice(one.end)));
  if (!late) return;
  const lead = /(?<![^\s])(?:on|am|by)\s+$/i.exec(line.rest.slice(0, late.start));
  take(late, lead ? lead.index : late.start, '');
};
