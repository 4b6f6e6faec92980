import { dayForTime, findDates, findNotDates, type DateFound } from '../../time/dateText';
import { findDurations } from '../../time/durationText';
import type { Line, LineReader } from '../draft';

/** `31 June`, `25:00`: said so, and left in the title. */
export const notDateReader: LineReader = (line) => {
  for (const { start, end, text } of findNotDates(line.rest)) {
    const what = text.includes(':') ? 'a time' : 'a date';
    line.refuse(start, end, `“${text}” is not ${what}, so it stays in the title.`);
  }
};

/** `by …` flexible deadline, `due …` fixed deadline. Without a date after it the word is just a word. */
export const deadlineReader: LineReader = (line, { now, zone }) => {
  const dates = findDates(line.rest, { now, zone, language: 'en' });
  for (const match of line.rest.matchAll(/(?<![^\s])(by|due)(?:\s+on|:)?\s+/gi)) {
    const at = match.index + match[0].length;
    const date = dates.find((one) => one.start === at || line.rest.slice(at, one.start).toLowerCase() === 'the ');
    if (!date || date.week) continue;
    const day = date.day ?? dayForTime(date.time ?? '', now, zone);
    line.draft.deadline = date.time ? `${day}T${date.time}` : day;
    line.draft.deadlineFixed = match[1]?.toLowerCase() === 'due';
    line.take('deadline', match.index, date.end);
    return;
  }
};

/** `for 45 min`, `1h30`, `2 hours`, `half an hour`: how long. */
export const durationReader: LineReader = (line) => {
  const duration = findDurations(line.rest)[0];
  if (!duration) return;
  const lead = /(?<![^\s])for\s+(?:about\s+)?$/i.exec(line.rest.slice(0, duration.start));
  line.draft.minutes = duration.minutes;
  line.take('minutes', lead ? lead.index : duration.start, duration.end);
};

/** `in week 34`, `this week`, `next week`: a week without a day. */
export const weekReader: LineReader = (line, { now, zone }) => {
  const week = findDates(line.rest, { now, zone, language: 'en' }).find((one) => one.week);
  if (!week) return;
  line.draft.week = week.week;
  line.take('week', week.start, week.end);
};

/** The day and the time at which it is to be. The first of each counts; others stay in the title. */
export const dateReader: LineReader = (line, { now, zone }) => {
  for (const one of findDates(line.rest, { now, zone, language: 'en' })) {
    if (one.week) continue;
    const { draft } = line;
    if ((one.day && draft.date) || (one.time && draft.time)) continue;
    if (one.day) draft.date = one.day;
    if (one.time) [draft.time, draft.endTime] = [one.time, one.endTime];
    takeParts(line, one);
  }
  const { draft } = line;
  if (draft.time && !draft.date && !draft.repeat) draft.date = dayForTime(draft.time, now, zone);
};

const CLOCK = '\\d{1,2}(?:[:.]\\d{2})?\\s?(?:[ap]\\.?m\\.?)?|noon|midnight';
const RANGE = new RegExp(`(?:at\\s+|from\\s+|@\\s*)?(${CLOCK})(\\s*(?:-|–|to|until|till)\\s*(?:${CLOCK}))?$`, 'i');

/** Marks day, time and end time each as its own span, so that they can be shown apart. */
function takeParts(line: Line, one: DateFound): void {
  const before = /(?<![^\s])(?:on|at|from)\s+$/i.exec(line.rest.slice(0, one.start));
  const start = before ? before.index : one.start;
  if (!one.time) return line.take('date', start, one.end);
  const clock = RANGE.exec(one.text);
  const first = /^((?:[ap]\.?m\.?|[\d:.\s-])+)/i.exec(one.text);
  if (!one.day) return takeClock(line, start, one.end, one.start + one.text.length - (clock?.[2]?.length ?? 0), one.endTime);
  if (clock && clock.index > 0) {
    line.take('date', start, one.start + one.text.slice(0, clock.index).trimEnd().length);
    const end = one.end - (clock[2]?.length ?? 0);
    return takeClock(line, one.start + clock.index, one.end, end, one.endTime);
  }
  if (first && first[0].trim() && first[0].trimEnd().length < one.text.length - 1) {
    const cut = one.start + first[0].trimEnd().length;
    line.take('time', start, cut);
    return line.take('date', cut + 1, one.end);
  }
  return line.take('date', start, one.end);
}

function takeClock(line: Line, start: number, end: number, cut: number, endTime: string | null): void {
  line.take('time', start, endTime && cut > start ? cut : end);
  if (endTime && cut > start && cut < end) {
    const lead = /^\s*(?:-|–|to|until|till)\s*/i.exec(line.text.slice(cut, end))?.[0].length ?? 0;
    line.take('endTime', cut + lead, end);
  }
}
