import { each, MONTHS, nextWeekday, smallNumber, WEEKDAY, weekdayNamed, type DateFound, type Reader } from './dateFound';
import { MOVED } from './dateLibrary';
import { addDays, isDay, mondayOf, weekOf, weekdayOf, type Day } from './zones';

/** "Thursday in two weeks", "Dienstag in zwei Wochen": the weekday, that many weeks after the coming one's week. */
export const weekdayInWeeks: Reader = (text, today) =>
  each(text, new RegExp(`\\b(${WEEKDAY}) in (\\w+) (?:weeks?|wochen?)\\b`, 'gi'), (match) => {
    const weeks = smallNumber(match[2] ?? '');
    if (!(weeks > 0 && weeks < 60)) return null;
    const monday = mondayOf(weekOf(addDays(today, 7 * weeks)));
    return { day: addDays(monday, weekdayNamed(match[1] ?? '') - 1) };
  });

/** "last Tuesday", "letzten Dienstag": the latest one before today. "Monday week": a week after the coming one. */
export const weekdayNear: Reader = (text, today) => [
  ...each(text, new RegExp(`\\b(?:on )?(?:last|past|letzten?|vergangenen?) (${WEEKDAY})\\b`, 'gi'), (match) => ({
    day: addDays(nextWeekday(today, weekdayNamed(match[1] ?? '')), weekdayNamed(match[1] ?? '') === weekdayOf(today) ? -14 : -7),
  })),
  ...each(text, new RegExp(`\\b(?:on )?(${WEEKDAY}) week\\b`, 'gi'), (match) => ({
    day: addDays(nextWeekday(today, weekdayNamed(match[1] ?? '')), 7),
  })),
];

/** "Friday next week", "next week on Friday", "Freitag nächster Woche": the day in that week. "this morning": today. */
export const weekdayOfWeek: Reader = (text, today) => [
  ...each(
    text,
    new RegExp(
      `\\b(?:on )?(${WEEKDAY})(?: of)? (this|next|dieser|nächster) (?:week|woche)\\b|\\b(this|next|diese|nächste) (?:week|woche),?(?: on| am)? (${WEEKDAY})\\b`,
      'gi',
    ),
    (match) => {
      const next = /^(?:next|nächst)/i.test(match[2] ?? match[3] ?? '');
      return { day: addDays(mondayOf(weekOf(addDays(today, next ? 7 : 0))), weekdayNamed(match[1] ?? match[4] ?? '') - 1) };
    },
  ),
  ...each(
    text,
    /\bthis (?:morning|afternoon|evening)\b(?! at| \d)|\bheute (?:früh|morgen|abend|nachmittag|vormittag)\b(?! um)/gi,
    () => ({ day: today }),
  ),
];

const WHICH = 'first|second|third|fourth|last|1st|2nd|3rd|4th|ersten?|zweiten?|dritten?|vierten?|letzten?';
const NUMBERED: [RegExp, number][] = [
  [/^(?:f|1|e)(?!ou)/i, 1],
  [/^(?:s|2|zw)/i, 2],
  [/^(?:th|3|d)/i, 3],
  [/^(?:fo|4|v)/i, 4],
];

/** "the last Saturday in October", "am ersten Montag im September": that one, in the coming such month. */
export const weekdayOfMonth: Reader = (text, today) =>
  each(
    text,
    new RegExp(`\\b(?:(?:on )?the |am )?(${WHICH}) (${WEEKDAY}) (?:of|in|im) (${MONTHS})(?: (\\d{4}))?\\b`, 'gi'),
    (match) => {
      const [, nth = '', weekday = '', month = '', year] = match;
      const find = (inYear: number) => {
        const number = NUMBERED.find(([form]) => form.test(nth))?.[1] ?? 0;
        const first = `${inYear}-${String(monthNumber(month)).padStart(2, '0')}-01`;
        // Of the last one: the latest before the next month begins.
        const after = number ? first : new Date(Date.UTC(inYear, monthNumber(month), 1)).toISOString().slice(0, 10);
        const ahead = nextWeekday(addDays(after, -1), weekdayNamed(weekday));
        return addDays(ahead, 7 * (number - 1));
      };
      const day = find(Number(year ?? today.slice(0, 4)));
      return { day: year || day >= today ? day : find(Number(today.slice(0, 4)) + 1) };
    },
  );

/** "end of next week", "Ende der Woche": its Friday. "end of the month", "end of August": its last day. "mid-September": its 15th. */
export const endOfStretch: Reader = (text, today) => [
  ...each(text, /\b(?:the )?end of (this |the |next )?week\b|\bende (dieser |der |nächster )?woche\b/gi, (match) => {
    const next = /next|nächst/i.test(match[1] ?? match[2] ?? '');
    const friday = addDays(mondayOf(weekOf(addDays(today, next ? 7 : 0))), 4);
    return { day: friday < today ? addDays(friday, 7) : friday };
  }),
  ...each(
    text,
    new RegExp(
      `\\b(?:the )?(?:end of|ende) (this month|the month|next month|(?:des|diesen|nächsten) monats|${MONTHS})\\b|\\b(?:month[- ]end|monatsende)\\b`,
      'gi',
    ),
    (match) => {
      const word = (match[1] ?? '').toLowerCase();
      let [year, month] = today.split('-').map(Number) as [number, number];
      if (/^(next|nächsten) /.test(word)) month += 1;
      else if (word && !/month|monats/.test(word)) {
        const named = monthNumber(word);
        if (named < month) year += 1;
        month = named;
      }
      return { day: new Date(Date.UTC(year, month, 0)).toISOString().slice(0, 10) };
    },
  ),
  ...each(text, new RegExp(`\\b(?:mid[- ]|mitte |middle of )(${MONTHS})\\b(?! \\d)`, 'gi'), (match) => {
    const month = String(monthNumber(match[1] ?? '')).padStart(2, '0');
    const day = `${today.slice(0, 4)}-${month}-15`;
    return { day: day < today ? `${Number(today.slice(0, 4)) + 1}-${month}-15` : day };
  }),
];

/** "end of the day", "close of business", "by tonight's close": today. */
export const endOfDayWords: Reader = (text, today) =>
  each(
    text,
    /\b(?:noch heute|end of (?:the )?day|close of business|cob|eod|ende des tages|heute noch)\b(?:\s+(?:today|tomorrow|on (?:mon|tues|wednes|thurs|fri)day)\b)?/gi,
    (match) => {
      const tail = /(today|tomorrow|on (\w+))$/i.exec(match[0]);
      if (tail && /tomorrow/i.test(tail[0])) return { day: addDays(today, 1) };
      return { day: tail?.[2] ? nextWeekday(today, weekdayNamed(tail[2])) : today };
    },
  );

/** "within 10 days", "in the next two weeks", "innerhalb von 14 Tagen", "binnen einer Woche": its last day. */
export const withinStretch: Reader = (text, today) =>
  each(
    text,
    /\b(?:within(?: the next)?|innerhalb(?: von)?|binnen) (\p{L}+|\d{1,3}) (days?|weeks?|months?|tag(?:en?|s)?|wochen?|monat(?:en?|s)?)\b/giu,
    (match) => {
      const many = smallNumber(match[1] ?? '');
      if (!(many > 0)) return null;
      const unit = (match[2] ?? '').toLowerCase();
      return { day: addDays(today, many * (unit.startsWith('w') ? 7 : unit.startsWith('m') ? 30 : 1)) };
    },
  );

/** "tmrw": tomorrow, as it is typed in a hurry. */
export const shortDays: Reader = (text, today) =>
  each(text, /\b(?:tmrw|tmr|2moro|tomoz)\b/gi, () => ({ day: addDays(today, 1) }));

export function monthNumber(name: string): number {
  const starts = [
    /^jan/i,
    /^feb/i,
    /^m[aä]r/i,
    /^apr/i,
    /^ma[yi]/i,
    /^jun/i,
    /^jul/i,
    /^aug/i,
    /^sep/i,
    /^o[ck]t/i,
    /^nov/i,
    /^de[cz]/i,
  ];
  return starts.findIndex((pattern) => pattern.test(name)) + 1;
}

/** "14.8.", "14.08.2026": day before month, as written in much of Europe. */
const DOTTED = new RegExp(
  `(?:(?<!\\p{L})(?:${WEEKDAY}),? (?:den |dem )?)?(?<![\\d.])(\\d{1,2})\\.(\\d{1,2})\\.(\\d{4}|\\d{2}(?!\\d))?(?!\\d)`,
  'giu',
);
export const dottedDate: Reader = (text, today) =>
  each(text, DOTTED, (match) => {
    const two = (part = '') => part.padStart(2, '0');
    const written = match[3];
    const year = written ? (written.length === 2 ? `20${written}` : written) : today.slice(0, 4);
    const day = `${year}-${two(match[2])}-${two(match[1])}`;
    if (!isDay(day)) return null;
    return { day: !written && day < today ? `${Number(year) + 1}${day.slice(4)}` : day };
  });

/** "Aug 20", "August 20, 2026", "Tue Aug 4": the month before the day; without a year the coming one. */
export const monthThenDay: Reader = (text, today) =>
  each(
    text,
    new RegExp(
      `\\b(?:on )?(?:(?:${WEEKDAY}),? )?(${MONTHS}) (\\d{1,2})(?:st|nd|rd|th)?(?:,? (\\d{4}))?\\b(?![:./\\d]| \\p{Ll}{3,}s\\b)`,
      'giu',
    ),
    (match) => {
      const named = (match[1] ?? '').toLowerCase();
      if (/^(?:may|mar|march)$/.test(match[1] ?? '')) return null;
      const two = (part: number) => String(part).padStart(2, '0');
      const day = `${match[3] ?? today.slice(0, 4)}-${two(monthNumber(named))}-${two(Number(match[2]))}`;
      if (!isDay(day)) return null;
      return { day: !match[3] && day < today ? `${Number(today.slice(0, 4)) + 1}${day.slice(4)}` : day };
    },
  );

const NTH = '(\\d{1,2})(?:st|nd|rd|th|\\.)?';
const DAYS_OF_MONTH = new RegExp(
  `(?:\\b(between|zwischen|from|vom|von)(?: the| dem)? )?(?<![\\d.:/-])${NTH}\\s*(-|–|—|\\b(?:and|und|to|until|till|through|bis)\\b(?: the| dem| zum)?)\\s*${NTH}(?: of)? (${MONTHS})\\b(?: (\\d{4})\\b)?`,
  'giu',
);

/** "between 10 and 12 August", "4–6 May", "vom 4. bis 6. Mai": from the one day to the other. "4 and 6 May" are two days. */
export const daysOfMonth: Reader = (text, today) =>
  each(text, DAYS_OF_MONTH, (match) => {
    const [, lead = '', first, between = '', last, month = '', written] = match;
    if (/and|und/i.test(between) && !/between|zwischen/i.test(lead)) return null;
    if (MOVED.test(text.slice(0, match.index))) return null;
    const two = (part = '') => part.padStart(2, '0');
    const inYear = (year: string, day = '') => `${year}-${two(String(monthNumber(month)))}-${two(day)}`;
    const year = written ?? today.slice(0, 4);
    const coming = !written && inYear(year, last) < today ? String(Number(year) + 1) : year;
    const [day, endDay] = [inYear(coming, first), inYear(coming, last)];
    return isDay(day) && isDay(endDay) && day < endDay ? { day, endDay } : null;
  });

/** "Friday the 14th", "Monday, 10th": the coming day of that number, whatever weekday is said. */
export const weekdayOrdinal: Reader = (text, today) =>
  each(
    text,
    new RegExp(
      `\\b(?:${WEEKDAY}),? (?:the )?(\\d{1,2})(?:st|nd|rd|th)\\b(?! (?:of )?(?:${MONTHS})\\b)(?: at (\\d{1,2})[:.](\\d{2}))?`,
      'gi',
    ),
    (match) => numbered(today, match),
  );

/** The coming day of the month that a match names first, with the clock time after it. */
function numbered(today: Day, [, number, hour, minute]: readonly string[]): Partial<DateFound> | null {
  const time = hour && Number(hour) < 24 ? `${hour.padStart(2, '0')}:${minute ?? '00'}` : null;
  for (let ahead = 0; ahead < 62; ahead += 1) {
    const day = addDays(today, ahead);
    if (Number(day.slice(8)) === Number(number)) return { day, time };
  }
  return null;
}

/** "the 14th": the coming one. "from the 17th to the 23rd": from the one to the other. */
export const ordinalDay: Reader = (text, today) => {
  const stretches = each(text, ORDINAL_STRETCH, (match) => {
    const [day, endDay] = [match[1], match[2]].map((number) => numbered(today, ['', number ?? ''])?.day);
    return day && endDay && day < endDay ? { day, endDay } : null;
  });
  const apart = oneOrdinal(text, today).filter(
    (one) => !stretches.some((whole) => one.start < whole.end && whole.start < one.end),
  );
  return [...stretches, ...apart];
};

const ORDINAL_STRETCH = new RegExp(
  `\\b(?:from )?the (\\d{1,2})(?:st|nd|rd|th) (?:to|until|till|through) (?:the )?(\\d{1,2})(?:st|nd|rd|th)\\b(?!\\s+(?:of\\s+)?(?:${MONTHS}))`,
  'gi',
);

const oneOrdinal = (text: string, today: Day): DateFound[] =>
  each(
    text,
    new RegExp(
      `\\bthe (\\d{1,2})(?:st|nd|rd|th)\\b(?!\\s+(?:of\\s+)?(?:${MONTHS}|\\w+day\\b)|-| \\w+ing\\b)(?: at (\\d{1,2})[:.](\\d{2}))?`,
      'gi',
    ),
    (match) => numbered(today, match),
  );

/** "this week", "next week", "the week after next", "in week 34", "KW 34": a week without a day. A week that is over means next year's. */
export const weeks: Reader = (text, today) => [
  ...each(text, /(?<!\p{L})(?:in )?(?:the week after next|(?:die |der )?übernächste[rn]? woche)(?!\p{L})/giu, () => ({
    week: weekOf(addDays(today, 14)),
  })),
  ...each(
    text,
    /\b(?:(?:in|during|sometime) )?(this|next|last|past|diese|nächste|kommende|letzte) (?:week|woche)\b/gi,
    (match) => ({
      week: weekOf(
        addDays(today, /this|diese/i.test(match[1] ?? '') ? 0 : /next|nächste|kommende/i.test(match[1] ?? '') ? 7 : -7),
      ),
    }),
  ),
  ...each(
    text,
    /\b(?:in |during )?(?:calendar )?(?:week|kw|kalenderwoche)\s?(\d{1,2})\b(?!\s*(?::|weeks?|%|of the\b))/gi,
    (match) => {
      const number = Number(match[1]);
      if (number < 1 || number > 53) return null;
      const thisYear = weekOf(today).slice(0, 4);
      const named = (year: string | number) => `${year}-W${String(number).padStart(2, '0')}`;
      const week = named(thisYear) < weekOf(today) ? named(Number(thisYear) + 1) : named(thisYear);
      return weekOf(mondayOf(week)) === week ? { week } : null;
    },
  ),
];
