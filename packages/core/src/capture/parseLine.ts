import { Line, type Draft, type LineContext, type LineReader } from './draft';
import { hourReader, overnightReader, stretchReader, windowReader } from './readers/clock';
import { dateReader, durationReader, notDateReader, weekReader, wholeDayReader } from './readers/dates';
import { deadlineReader } from './readers/deadline';
import { listReader, personReader, priorityReader, tagReader } from './readers/marks';
import { nameReader } from './readers/names';
import { repeatReader } from './readers/repeat';

/** The readers, in order: what an earlier one takes, no later one sees. */
export const LINE_READERS: readonly LineReader[] = [
  tagReader,
  personReader,
  priorityReader,
  nameReader,
  notDateReader,
  repeatReader,
  windowReader,
  overnightReader,
  stretchReader,
  deadlineReader,
  durationReader,
  hourReader,
  weekReader,
  dateReader,
  wholeDayReader,
  listReader,
];

/** Longest line that is read; what is longer is all title. */
export const MAX_LINE = 2000;

const MEETING =
  /^(?:meet(?:ing)?|lunch|dinner|breakfast|coffee|appointment|workshop|interview|stand-?up|site (?:walk|visit)|rehearsal|party|webinar|conference|visit)\b/i;

/**
 * Reads a typed line. Offsets are UTF-16 code units of the text as given.
 * It is an event when it has a start and an end on the clock, names a first and a last whole day, or begins like a
 * meeting and has a time, and nothing in it belongs to tasks only (list, priority, deadline); else a task.
 */
export function parseLine(text: string, context: LineContext): Draft {
  const line = new Line(text);
  if (text.length <= MAX_LINE) for (const reader of LINE_READERS) reader(line, context);
  const { draft } = line;
  draft.spans.sort((a, b) => a.start - b.start);
  draft.problems.sort((a, b) => a.start - b.start);
  draft.title = titleOf(text, draft);
  const forTasks = draft.list !== null || draft.priority !== 'normal' || draft.deadline !== null;
  if (draft.time && draft.endTime && !line.isWindow) draft.minutes ??= minutesBetween(draft.time, draft.endTime);
  const timed = (draft.date ?? draft.repeat) !== null && draft.time !== null;
  const stretch = draft.endTime !== null && !line.isWindow;
  const wholeDays = draft.endDate !== null || line.allDay;
  if (!forTasks && ((timed && (stretch || MEETING.test(draft.title))) || (wholeDays && !draft.time))) draft.kind = 'event';
  return draft;
}

/** Minutes from one clock time to the next such time, over midnight where it is not later. */
function minutesBetween(start: string, end: string): number {
  const of = (time: string) => Number(time.slice(0, 2)) * 60 + Number(time.slice(3));
  return (of(end) - of(start) + 1440) % 1440 || 1440;
}

const BETWEEN = /^\s*(?:-|–|—|to|until|till|through|bis|and|und)\s*$/i;

/**
 * What no reader took, with the white space between closed up. A person named in the middle of a
 * sentence is part of it (`Ask @Pia about the keys`); one appended to it is not.
 */
function titleOf(text: string, { spans }: Draft): string {
  let title = '';
  let at = 0;
  for (const { field, start, end } of spans) {
    const between = text.slice(at, Math.max(at, start));
    if (!field.startsWith('end') || !BETWEEN.test(between)) title += `${between} `;
    if (
      field === 'person' &&
      isSpoken(
        title,
        text.slice(end),
        spans.some((one) => one.start <= end + 1 && one.start >= end),
      )
    ) {
      title += `${text.slice(start + 1, end).replaceAll('"', '')} `;
    }
    at = Math.max(at, end);
  }
  title += text.slice(at);
  return title
    .replace(/\s+/g, ' ')
    .replace(/\s+([,;.])(?=\s|$)/g, '$1')
    .replace(/^[\s,;–-]+(?=\S)|[\s,;–]+$/g, '')
    .trim();
}

function isSpoken(before: string, after: string, markFollows: boolean): boolean {
  const words = before.trim().split(/\s+/);
  return (
    words.length === 1 ||
    /\b(?:with|to|from|for|and|about|of|by)$/i.test(before.trim()) ||
    (!markFollows && /^\s+\p{L}/u.test(after))
  );
}
