import type { Stretch } from '../parts';

/** Somewhere a sentence says that something is or happens. */
export interface PlaceFact extends Stretch {
  text: string;
}

const NAMED =
  '(?:hut|gate|office|hall|school|car park|bridge|station|church|library|room(?: \\w{1,4})?|caf[eé]|yard|barn|workshop|jetty|pier|landing|pond|dam|meadow|field|farm|house|barrier|village|square|market|museum|inn|tower|depot|nursery|kitchen|quay|lab|clinic|practice|ward|shop|counter|canteen|reception|pool|gym|playground|classroom|bank|section \\w)';
const GERMAN_NAMED =
  '(?:\\p{L}*hütte|\\p{L}*tor|\\p{L}*büro|\\p{L}*halle|\\p{L}*schule|\\p{L}*parkplatz|\\p{L}*brücke|\\p{L}*bahnhof|\\p{L}*rathaus|\\p{L}*haus|\\p{L}*hof|\\p{L}*steg|\\p{L}*platz|\\p{L}*wiese|\\p{L}*wehr|\\p{L}*zimmer|\\p{L}*saal|\\p{L}*kirche|\\p{L}*amt|\\p{L}*graben|\\p{L}*stall|\\p{L}*schranke)';
const WORD = "[\\p{L}\\d'’-]+";
/** Words that end a place's name when they are met on the way to its noun. */
const STOP = '(?!(?:and|or|by|until|before|on|for|if|when|that|the|und|oder|bis|wenn|at|in|to|is|are|of)\\b)';

const NO_DAY =
  '(?!(?:Mon|Tues|Wednes|Thurs|Fri|Satur|Sun)day|Montag|Dienstag|Mittwoch|Donnerstag|Freitag|Samstag|Sonntag|January|February|March|April|May|June|July|August|September|October|November|December|Januar|Jänner|Februar|März|Mai|Juni|Juli|Oktober|Dezember)';

/** What stands in every match of a form, and each form. */
const FORMS: [RegExp, RegExp][] = [
  [/:/, /(?:^|\n|[.;] )(?:place|where|venue|location|address|ort|treffpunkt|wo)\s*:\s*([^\n.;]{2,80})/giu],
  [
    /\b(?:at|in|near|outside|behind|beside|by|from|front of) the /i,
    /* @__PURE__ */ new RegExp(
      `\\b(?:at|in|near|outside|behind|beside|by|from|in front of) (the (?:${STOP}${WORD} ){0,3}?${NAMED}(?! ${NAMED}\\b)(?: (?:of|by|near|behind|on) the ${STOP}${WORD}(?: (?:bank|side|hut|gate|road|school))?)?)(?![\\p{L}-])`,
      'giu',
    ),
  ],
  [
    /\b(?:am|im|beim|vor|in|an|hinter) /i,
    /* @__PURE__ */ new RegExp(
      `\\b(?:[Aa]m|[Ii]m|[Bb]eim|[Vv]or (?:dem|der)|[Ii]n (?:der|dem)|[Aa]n der|[Hh]inter (?:dem|der)) ((?:(?:alten?|neuen?|gro(?:ß|ss)en?|kleinen?|\\p{L}+er) ){0,2}${GERMAN_NAMED}(?: \\d{1,3})?)(?![\\p{L}-])`,
      'gu',
    ),
  ],
  [
    /\d/,
    /\b(?:at|in|am|in der) (\d{1,3} (?:\p{Lu}[\p{L}'-]+ ){1,3}(?:Lane|Road|Street|Way|Square|Row|Green|Quay|Hill)|\p{Lu}[\p{L}-]+(?:gasse|straße|strasse|weg|platz|ufer) \d{1,3}\p{Ll}?)(?![\p{L}\d])/gu,
  ],
  // "lunch at the Heron": a house that is only named.
  [
    /\b(?:lunch|dinner|supper|breakfast|coffee|tea|drinks?|meet|mittagessen|abendessen|frühstück|essen|kaffee)\b/i,
    /* @__PURE__ */ new RegExp(
      `\\b(?:[Ll]unch|[Dd]inner|[Ss]upper|[Bb]reakfast|[Cc]offee|[Tt]ea|[Dd]rinks?|[Mm]eet|[Mm]ittagessen|[Aa]bendessen|[Ff]rühstück|[Ee]ssen|[Kk]affee)\\b[^.;?!\\n]{0,60}?\\b(?:at|in|im|in der|beim) ((?:the |der |dem )?${NO_DAY}\\p{Lu}[\\p{L}'’-]+(?: ${NO_DAY}\\p{Lu}[\\p{L}'’-]+)?)(?![\\p{L}-])`,
      'gu',
    ),
  ],
];
const MOST = 8;

/** Places named in a sentence, each where it stands; the longest where two overlap. */
export function placesIn(sentence: string): PlaceFact[] {
  const all: PlaceFact[] = [];
  for (const [sign, form] of FORMS) {
    if (!sign.test(sentence)) continue;
    for (const match of sentence.matchAll(form)) {
      const text = (match[1] ?? '').trimEnd();
      const start = match.index + match[0].lastIndexOf(match[1] ?? '');
      const end = start + text.length;
      if (!text || all.some((one) => start < one.end && one.start < end)) continue;
      all.push({ text: text.replace(/\s+/g, ' '), start, end });
    }
  }
  return all.sort((a, b) => a.start - b.start).slice(0, MOST);
}
