import * as chrono from 'chrono-node';
import type { DateFound, Reader } from './dateFound';
import { addDays } from './zones';

/** Words the date library reads as dates, but which are common words when they stand alone in lower case. */
const COMMON_WORDS = /^(?:sun|sat|wed|mar|march|may|now|so|mi|do|fr|second)$/;

/** Words of time that name no day: "the minutes", "in the next days", "two days before", "the week after". */
const NO_DAY =
  /^lasts?$|^(?:in )?(?:the )?(?:(?:next|coming|last|past|few|nächsten|letzten) ?)*(?:minutes?|seconds?|hours?|days|minuten|stunden|tagen?)$|^(?!in )(?:\p{L}+|\d+) (?:minutes?|seconds?|hours?|days|minuten|stunden|tagen?)$|^(?:(?:the|\p{L}+|\d+) )?(?:days?|weeks?|months?|tage?|wochen?) (?:before|after|earlier|later|vorher|davor|danach|später)(?: that)?$|^(?:the |that |a |one |der |die |das )?(?:day|week|month|minute|hour|year|tag|woche|monat|stunde)$|^(?!in )(?:\p{L}+|\d+) weeks?$|^(?:for )?\d+\s?(?![ap]m)[a-z]{1,2}$/iu;
/** A part of something, not a day of the month: "save a third until 15 August". */
export const PART =
  /\b(?:a|the|one|two) (?:third|thirds|quarters?|half|fifth)\b(?! of (?:jan|feb|mar|apr|may|jun|jul|aug|sep|oct|nov|dec))/gi;
/** What is moved goes from one day to another: no stretch of days. */
export const MOVED = /\b(?:mov|shift|postpon|reschedul|chang|put|bring|push|verschieb|verschob|verleg)\p{L}*\b[^.?!]*$/iu;

/** Everything the date library finds that names a day or a clock time for certain. */
export const libraryDates: Reader = (text, today, language, clock) => {
  const [year, month, day] = today.split('-').map(Number) as [number, number, number];
  const [hour, minute] = clock.split(':').map(Number) as [number, number];
  const reference = new Date(year, month - 1, day, hour, minute);
  const reader = language === 'de' ? chrono.de : chrono.en.GB;
  return reader.parse(text, reference, { forwardDate: true }).flatMap((result): DateFound[] => {
    const { start } = result;
    // "move it from Tuesday to Wednesday at 16:00" names two days, not a stretch of them.
    const apart = result.end && MOVED.test(text.slice(0, result.index)) ? /\s+(?:to|auf|until)\s+/i.exec(result.text) : null;
    const end = apart ? null : result.end;
    const named = start.isCertain('day') || start.isCertain('weekday');
    const timed = start.isCertain('hour');
    if ((!named && !timed) || COMMON_WORDS.test(result.text) || NO_DAY.test(result.text) || /^\d+$/.test(result.text)) return [];
    const dayOfPart = (part: chrono.ParsedComponents) =>
      [part.get('year'), part.get('month'), part.get('day')].map((n) => String(n).padStart(2, '0')).join('-');
    const timeOfPart = (part: chrono.ParsedComponents) =>
      part.isCertain('hour')
        ? `${String(part.get('hour')).padStart(2, '0')}:${String(part.get('minute') ?? 0).padStart(2, '0')}`
        : null;
    let first = named ? dayOfPart(start) : null;
    // Said on a Monday, "Monday" is the coming one: today would be called today.
    const comes = first === today && start.isCertain('weekday') && !start.isCertain('day') ? 7 : 0;
    if (first) first = addDays(first, comes);
    // Its hour may be over, but a day that is named without a year is the one nearest ahead.
    if (first?.slice(4) === today.slice(4) && start.isCertain('day') && !start.isCertain('year')) first = today;
    const lastDay = end && named && dayOfPart(end) !== dayOfPart(start) ? addDays(dayOfPart(end), comes) : null;
    const one: DateFound = {
      start: result.index,
      end: result.index + result.text.length,
      text: result.text,
      day: first,
      time: timeOfPart(start),
      endDay: lastDay,
      endTime: end ? timeOfPart(end) : null,
      week: null,
    };
    if (!apart || !result.end) return [one];
    const cut = result.index + apart.index;
    const from = cut + apart[0].length;
    const onward = dayOfPart(result.end);
    return [
      { ...one, end: cut, text: text.slice(one.start, cut), time: one.time === timeOfPart(result.end) ? null : one.time },
      { ...one, start: from, text: text.slice(from, one.end), day: onward, time: timeOfPart(result.end) },
    ];
  });
};
