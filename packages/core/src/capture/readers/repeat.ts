import { isRule } from '../../calendar/rule';
import { findDates, mask } from '../../time/dateText';
import type { LineReader } from '../draft';
import { ENGLISH_REPEATS, type RepeatForm } from './repeatEnglish';
import { GERMAN_REPEATS } from './repeatGerman';
import { BEGIN, END } from './words';

const patternOf = ([form, rule]: RepeatForm) => ({ pattern: new RegExp(`${BEGIN}(?:${form})${END}`, 'iu'), rule });
const FORMS = /* @__PURE__ */ [...GERMAN_REPEATS, ...ENGLISH_REPEATS].map(patternOf);
const UNTIL = /^,?\s*(?:until|till|up to|bis(?: zum)?)\s+(?:the\s+)?/i;
const HOUR = '(?:[01]?\\d|2[0-4])(?:[:.][0-5]\\d)?\\s?(?:[ap]\\.?m\\.?|uhr|h)?';
/** Hours that stand between a repeat and its end. */
const HOURS = new RegExp(`^,?\\s*(?:(?:at|from|um|von|@)\\s+)?${HOUR}(?:\\s*(?:-|–|—|to|till|bis)\\s*${HOUR})?(?=[\\s,])`, 'i');
const AFTER_DONE =
  /^,?\s*(?:(?:after|from|since)\s+(?:completion|completing(?: it)?|finishing(?: it)?|doing it|(?:it(?:'s|’s| is| was) )?(?:last )?done)|nach\s+(?:der\s+|dem\s+)?(?:erledigung|abschluss|fertigstellung))(?![\p{L}\d])/iu;
const TIMES = /^,?\s*(?:for\s+)?(\d{1,3})\s+(?:times|mal)(?![\p{L}\d])/iu;

/**
 * `every day`, `Mondays`, `every 2 weeks`, `the last Friday of every month`, `jeden zweiten Dienstag`: a repeat rule,
 * with the day on which it ends where one follows. `Every report …` is none, nor is what the rule reader refuses.
 */
export const repeatReader: LineReader = (line, { now, zone }) => {
  for (const { pattern, rule } of FORMS) {
    const match = pattern.exec(line.rest);
    const repeat = match && rule(match)?.replace(/;INTERVAL=1(?!\d)/, '');
    if (!match || !repeat || !isRule(repeat)) continue;
    const end = match.index + match[0].length;
    const after = line.rest.slice(end);
    const times = TIMES.exec(after);
    const hours = times || UNTIL.test(after) ? 0 : (HOURS.exec(after)?.[0].length ?? 0);
    const until = UNTIL.exec(after.slice(hours));
    const from = end + hours;
    const rest = mask(line.rest, [{ start: match.index, end: from }]);
    const last =
      until && findDates(rest, { now, zone, language: line.language }).find((one) => one.start === from + until[0].length);
    const done = AFTER_DONE.exec(after)?.[0].length ?? 0;
    const bound = times
      ? { rule: `;COUNT=${Number(times[1])}`, end: end + times[0].length }
      : last?.day && !last.time
        ? { rule: `;UNTIL=${last.day.replaceAll('-', '')}`, end: last.end }
        : { rule: '', end: end + done };
    if (!isRule(repeat + bound.rule)) continue;
    line.draft.repeat = repeat + bound.rule;
    if (done) line.draft.repeatFrom = 'completion';
    line.take('repeat', match.index, bound.end > from && hours ? end : bound.end);
    if (bound.end > from && hours) line.take('repeat', from, bound.end);
    return;
  }
};
