import { isRule } from '../../calendar/rule';
import { findDates, mask } from '../../time/dateText';
import type { LineReader } from '../draft';
import { ENGLISH_REPEATS, type RepeatForm } from './repeatEnglish';
import { GERMAN_REPEATS } from './repeatGerman';
import { BEGIN, END } from './words';

const patternOf = ([form, rule]: RepeatForm) => ({ pattern: new RegExp(`${BEGIN}(?:${form})${END}`, 'iu'), rule });
const FORMS = /* @__PURE__ */ [...GERMAN_REPEATS, ...ENGLISH_REPEATS].map(patternOf);
const UNTIL = /^,?\s*(?:until|till|up to|bis(?: zum)?)\s+(?:the\s+)?/i;
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
    const until = UNTIL.exec(after);
    const rest = mask(line.rest, [{ start: match.index, end }]);
    const last =
      until && findDates(rest, { now, zone, language: line.language }).find((one) => one.start === end + until[0].length);
    const bound = times
      ? { rule: `;COUNT=${Number(times[1])}`, end: end + times[0].length }
      : last?.day && !last.time
        ? { rule: `;UNTIL=${last.day.replaceAll('-', '')}`, end: last.end }
        : { rule: '', end };
    if (!isRule(repeat + bound.rule)) continue;
    line.draft.repeat = repeat + bound.rule;
    line.take('repeat', match.index, bound.end);
    return;
  }
};
