import { dayForTime, findDateParts, findNotDates, type DateFound } from '../../time/dateText';
import { findDurations } from '../../time/durationText';
import type { Line, LineReader } from '../draft';

/** `31 June`, `25:00`: said so, and left in the title. */
export const notDateReader: LineReader = (line) => {
  for (const { start, end, text } of findNotDates(line.rest)) {
    const what = text.includes(':') ? 'a time' : 'a date';
    line.refuse(start, end, `“${text}” is not ${what}, so it stays in the title.`);
  }
};

const ABOUT = '(?:about|around|approx\\.?|approximately|roughly|some|ca\\.?|circa|zirka|etwa|ungefähr|rund|~|≈)';
const DURATION_LEAD = new RegExp(`(?<![^\\s])(?:(?:for|für)\\s+)?(?:${ABOUT}\\s*)?$`, 'i');

/** `for 45 min`, `1h30`, `~2 h`, `about an hour`, `anderthalb Stunden`: how long. */
export const durationReader: LineReader = (line) => {
  const duration = findDurations(line.rest.replaceAll(/[~≈]/g, ' '))[0];
  if (!duration) return;
  const lead = DURATION_LEAD.exec(line.rest.slice(0, duration.start));
  line.draft.minutes = duration.minutes;
  // "a two-hour walk" is called so.
  if (
    /\p{L}-|\d-/u.test(duration.text) &&
    /^\s+(?!(?:on|at|in|by|for|until|next|this|am|um|im|bis)\b)\p{L}/iu.test(line.rest.slice(duration.end))
  )
    return line.spare(duration.start, duration.end);
  line.take('minutes', lead?.[0] ? lead.index : duration.start, duration.end);
};

/** `in week 34`, `this week`, `next week`: a week without a day. */
export const weekReader: LineReader = (line, { now, zone }) => {
  const week = findDateParts(line.rest, { now, zone, language: line.language }).find((one) => one.week);
  if (!week) return;
  const lead = /(?<![^\s])(?:in|during|for|für|in der|im)\s+$/i.exec(line.rest.slice(0, week.start));
  line.draft.week = week.week;
  line.take('week', lead ? lead.index : week.start, week.end);
};

/** The day and the time at which it is to be. The first of each counts; others stay in the title. */
export const dateReader: LineReader = (line, { now, zone }) => {
  for (const one of findDateParts(line.rest, { now, zone, language: line.language })) {
    if (one.week || isName(line, one)) continue;
    const { draft } = line;
    if ((one.day && draft.date) || (one.time && draft.time)) continue;
    if (one.day) [draft.date, draft.endDate] = [one.day, one.time ? null : one.endDay];
    if (one.time) [draft.time, draft.endTime] = [one.time, one.endTime];
    takeParts(line, one);
  }
  const { draft } = line;
  if (draft.time && !draft.date && !draft.repeat) draft.date = dayForTime(draft.time, now, zone);
};

/** `all day`, `ganztägig`: only beside a day is it one. */
export const wholeDayReader: LineReader = (line) => {
  if (!line.draft.date || line.draft.time) return;
  const match = /(?<![^\s])(?:all day(?: long)?|the whole day|ganztägig|den ganzen tag)(?![\p{L}\d])/iu.exec(line.rest);
  if (!match) return;
  line.allDay = true;
  line.take('date', match.index, match.index + match[0].length);
};

/** A short day or a month at the beginning of a line is more likely a word or a name: `Sun cream`, `May Flowers`. */
function isName(line: Line, { start, text }: DateFound): boolean {
  return start === 0 && /^(?:sun|sat|wed|mar|march|may)$/i.test(text) && /^\s+\p{L}/u.test(line.rest.slice(text.length));
}

const LEAD =
  /(?<![^\s])((?:(?:starting|beginning|begins?|as) )?(?:from|ab(?: dem)?|starting|beginning)|on|at|for|um|am|den|für|zum|gegen|vom|von)\s+(?:the\s+)?$/i;
/** Where words begin that belong to a day or a time because of what it is, or of what is to be done; null without any. */
function leadOf(line: Line, { start, day, time, text }: DateFound): number | null {
  const before = line.rest.slice(0, start);
  const lead =
    (time && /^\d/.test(text) && /(?<![^\s])(?:after|nach)\s+$/i.exec(before)) ||
    (day && /(?<![^\s])(?:first thing|gleich)\s+(?:on\s+|am\s+)?$/i.exec(before)) ||
    (MOVES.test(line.text) && /(?<![^\s])(?:to|auf)\s+(?:the\s+|den\s+)?$/i.exec(before));
  return lead ? lead.index : null;
}

const MOVES = /^(?:move|shift|postpone|put off|reschedule|push|bring forward|verleg|verschieb|\S+ (?:verlegen|verschieben))/i;
const ONWARD = /^\s+(?:on|onwards?|an)(?![^\s\u241f])/i;
const CLOCK = '\\d{1,2}(?:[:.]\\d{2})?\\s?(?:[ap]\\.?m\\.?|uhr)?|noon|midnight';
const RANGE = new RegExp(`(?:at\\s+|from\\s+|um\\s+|@\\s*)?(${CLOCK})(\\s*(?:-|–|to|until|till|bis)\\s*(?:${CLOCK}))?$`, 'i');

/** Marks day, time and their ends each as its own span, so that they can be shown apart. */
function takeParts(line: Line, one: DateFound): void {
  const before = LEAD.exec(line.rest.slice(0, one.start));
  const start = leadOf(line, one) ?? (before ? before.index : one.start);
  const begins = /^(?:from|ab|start|begin|as)/i.test(before?.[1] ?? one.text);
  const end = one.end + (begins ? (ONWARD.exec(line.rest.slice(one.end))?.[0].length ?? 0) : 0);
  if (!one.time) return takeDays(line, start, end, one);
  const clock = RANGE.exec(one.text);
  const first = /^((?:[ap]\.?m\.?|[\d:.\s-])+)/i.exec(one.text);
  if (!one.day) return takeClock(line, start, one.end, one.start + one.text.length - (clock?.[2]?.length ?? 0), one.endTime);
  if (clock && clock.index > 0) {
    line.take('date', start, one.start + one.text.slice(0, clock.index).trimEnd().length);
    const until = one.end - (clock[2]?.length ?? 0);
    return takeClock(line, one.start + clock.index, one.end, until, one.endTime);
  }
  if (first && first[0].trim() && first[0].trimEnd().length < one.text.length - 1) {
    const cut = one.start + first[0].trimEnd().length;
    line.take('time', start, cut);
    return line.take('date', cut + 1, one.end);
  }
  return line.take('date', start, end);
}

function takeDays(line: Line, start: number, end: number, one: DateFound): void {
  const between = one.endDay
    ? /\s*(?:-|–|—|(?<=\s)(?:to|until|till|through|bis)(?=\s))\s*/i.exec(
        one.text.replace(/^(?:from|von|vom)\s/i, (lead) => ' '.repeat(lead.length)),
      )
    : null;
  if (!between?.index) return line.take('date', start, end);
  line.take('date', start, one.start + between.index);
  line.take('endDate', one.start + between.index + between[0].length, end);
}

function takeClock(line: Line, start: number, end: number, cut: number, endTime: string | null): void {
  line.take('time', start, endTime && cut > start ? cut : end);
  if (endTime && cut > start && cut < end) {
    const lead = /^\s*(?:-|–|to|until|till|bis)\s*/i.exec(line.text.slice(cut, end))?.[0].length ?? 0;
    line.take('endTime', cut + lead, end);
  }
}
