import { findDates, weekdayNamed, type DateFound } from '../time/dateText';
import { findDurations } from '../time/durationText';
import { addDays, dayOf, instantOf, isDay, wallOf, type Day, type Instant, type Zone } from '../time/zones';
import { zoneAfter } from '../time/zoneText';
import { languageOf } from './language';
import { ownWords, sentencesIn, type Stretch } from './parts';
import { asksReader } from './readers/asks';
import { moneyIn, numbersIn, type MoneyFact, type NumberFact } from './readers/figures';
import { linksIn, peopleIn, type LinkFound, type PersonFound } from './readers/people';
import { placesIn, type PlaceFact } from './readers/places';
import { roleOf, saysFixed, tellsPast, type DateRole } from './readers/roles';

/** A sentence that asks something of the reader. */
export interface Ask extends Stretch {
  text: string;
}

export interface DateFact extends Stretch {
  text: string;
  /** `YYYY-MM-DD`, `YYYY-MM-DDTHH:MM` in the reader's zone, or an ISO week. */
  value: string;
  endValue: string | null;
  role: DateRole;
  /** Of a deadline: whether the words around it say that it will not move. */
  fixed: boolean;
  /** The zone the clock time was said in, where it is not the reader's. */
  saidIn: Zone | null;
}

export interface DurationFact extends Stretch {
  text: string;
  minutes: number;
}

/** What was read in a message. Offsets are into its plain text, in UTF-16 code units. */
export interface MessageFacts {
  asks: Ask[];
  dates: DateFact[];
  durations: DurationFact[];
  /** The first duration, in minutes. */
  minutes: number | null;
  people: PersonFound[];
  links: LinkFound[];
  places: PlaceFact[];
  money: MoneyFact[];
  numbers: NumberFact[];
  invitation: boolean;
}

export interface MessageToRead {
  text: string;
  /** When it was written; "tomorrow" is counted from here. */
  written: Instant;
  /** The writer's zone where known, else the reader's. */
  zone: Zone;
  /** The reader's zone: clock times are turned into it. The writer's when absent. */
  reader?: Zone;
  from?: PersonFound | null;
  /** Sent to many by a machine (RFC 2919, RFC 3834): it asks nothing of anyone. */
  bulk?: boolean;
  invitation?: boolean;
  /** What the reader is called: `Maren: call the school` asks Maren. */
  names?: readonly string[];
}

/** Longest text that is read, in characters; what comes after it is shown, but not searched for facts. */
export const MAX_READ = 60_000;
const MOST_FACTS = 60;
/** Of a sentence without an end so much is read: what is longer was not written by a person. */
const LONGEST = 3000;
/** Says of what was just asked when it is due. */
const SAYS_WHEN =
  /^(?:it|they|this|that|sie|er|es|das) (?:is|are|ist|sind) (?:due|payable|fällig|zahlbar)\b|^(?:i|we) need (?:it|them|this|that)\b|^(?:ich brauche|wir brauchen) (?:es|sie|ihn|das)\b/i;
/** Counted from when it is read aloud, not a date to keep: "in 20 minutes". */
const IN_A_WHILE =
  /^in .*\b(?:hours?|minutes?|stunden?|minuten)$|\b(?:hours?|minutes?|stunden?|minuten) (?:earlier|later|before|after|früher|später)$/i;
/** In a request these say until when: "could you send it today?" */
const SOON =
  /^(?:today|tonight|this (?:morning|afternoon|evening)|tomorrow(?: (?:morning|afternoon|evening))?|this week|noch heute|heute(?: (?:früh|vormittag|nachmittag|abend))?|morgen(?: (?:früh|vormittag|nachmittag|abend))?|diese woche)$/i;
/** "Will you be in tomorrow?" asks how things are, not to do anything by then. */
const BEING = /^\s*(?:will you be|are you|is (?:it|there|he|she|the \p{L}+)|bist du|sind sie|ist (?:es|da|der|die|das))\b/iu;
/** "Lock the door, I leave early tomorrow": what the writer does then asks nothing. */
const OWN_DOING = /[,;:]\s+(?:i|we|ich|wir)\b[^,;?]*$/i;

/** Version of the readers: facts kept with an older one are read anew. */
export const READER_VERSION = 4;

/** Reads the writer's own words of a message. Pure; never throws on any text. */
export function readMessage({ text, written, zone, reader = zone, from, bulk, invitation, names }: MessageToRead): MessageFacts {
  const read = text.slice(0, MAX_READ);
  const own = ownWords(read);
  const language = languageOf(own.map((part) => read.slice(part.start, part.end)).join(' '));
  const sentences = own.flatMap((part) => sentencesIn(read, part));
  const facts: MessageFacts = {
    asks: [],
    dates: [],
    durations: [],
    minutes: null,
    people: peopleIn(read),
    links: linksIn(own.map((part) => read.slice(part.start, part.end)).join('\n')),
    places: [],
    money: [],
    numbers: [],
    invitation: invitation ?? false,
  };
  const moved = <Fact extends Stretch>(found: Fact[], by: number): Fact[] =>
    found.map((one) => ({ ...one, start: one.start + by, end: one.end + by }));
  for (const [at, { start, end }] of sentences.entries()) {
    const sentence = read.slice(start, Math.min(end, start + LONGEST));
    if (!/\p{L}/u.test(sentence)) continue;
    // "Please pay it. It is due on 13 August." asks one thing, not two.
    const asked = at > 0 && facts.asks.length > 0 && facts.asks.at(-1)?.end === sentences[at - 1]?.end;
    const goesOn = asked && SAYS_WHEN.test(sentence);
    const asks = !bulk && !goesOn && asksReader(sentence, names);
    if (asks && facts.asks.length < MOST_FACTS) facts.asks.push({ text: sentence, start, end });
    const durations = findDurations(sentence);
    facts.durations.push(...moved(durations, start));
    facts.places.push(...moved(placesIn(sentence), start));
    facts.money.push(...moved(moneyIn(sentence), start));
    facts.numbers.push(...moved(numbersIn(sentence), start));
    const next = sentences[at + 1];
    const around = sentence + (next ? ` ${read.slice(next.start, next.end)}` : '');
    for (const one of findDates(sentence.replace(/\n/g, ' '), { now: written, zone, language })) {
      if (facts.dates.length >= MOST_FACTS) break;
      if (IN_A_WHILE.test(one.text)) continue;
      const today = dayOf(written, zone);
      const found = tellsPast(sentence, one.start) || isFar(one, today) ? beforeToday(one, today) : one;
      if (!found.day && !found.week) continue;
      if (durations.some((one) => one.start < found.end && found.start < one.end)) continue;
      const said = roleOf(sentence, found.start, found.end, found.time !== null);
      const gone = found.day !== null && found.day < today;
      const wanted =
        asks &&
        said === 'mention' &&
        SOON.test(found.text) &&
        !BEING.test(sentence) &&
        !OWN_DOING.test(sentence.slice(0, found.start)) &&
        !/\b(?:can|could|shall|should) we\b/i.test(sentence);
      const role = gone ? 'mention' : wanted ? 'deadline' : said;
      const saidIn = found.time ? (zoneAfter(sentence.slice(found.end), zone, reader) ?? zone) : reader;
      const ends = endOf(found.day, found.endDay, found.endTime);
      facts.dates.push({
        text: read.slice(start + found.start, start + found.end),
        value: found.day ? toReader(found.day + (found.time ? `T${found.time}` : ''), saidIn, reader) : (found.week ?? ''),
        endValue: ends && toReader(ends, saidIn, reader),
        saidIn: saidIn === reader ? null : saidIn,
        role,
        fixed: role === 'deadline' && saysFixed(around),
        start: start + found.start,
        end: start + found.end,
      });
    }
  }
  for (const kind of ['durations', 'places', 'money', 'numbers'] as const) facts[kind].splice(MOST_FACTS);
  facts.minutes = facts.durations[0]?.minutes ?? null;
  if (from?.address && !facts.people.some((person) => person.address === from.address.toLowerCase())) {
    facts.people.unshift({ name: from.name, address: from.address.toLowerCase() });
  }
  return facts;
}

const PAST_WEEKDAY = /^(?:on |am |at |letzten )?\p{L}+$/iu;
/** A date without a year is this long ago at most when the sentence tells of what has been, in days. */
const LOOKS_BACK = 200;

/** A date without a year that far ahead is more likely one that has just been, in days. */
const FAR = 300;
const isFar = ({ day, text }: DateFound, today: Day) =>
  day !== null && day > addDays(today, FAR) && !/\d{4}|next year|nächstes jahr/i.test(text);

/** A date that was taken to be ahead, in a sentence that tells of what has been. */
function beforeToday(found: DateFound, today: Day): DateFound {
  const { day, text } = found;
  if (!day || day <= today || /\d{4}|tomorrow|morgen|next|nächst/i.test(text)) return found;
  if (PAST_WEEKDAY.test(text) && weekdayNamed(text.replace(/^\p{L}+ /u, ''))) return { ...found, day: addDays(day, -7) };
  const before = `${Number(day.slice(0, 4)) - 1}${day.slice(4)}`;
  return /\d/.test(text) && isDay(before) && before > addDays(today, -LOOKS_BACK) ? { ...found, day: before } : found;
}

/** A wall-clock time of one zone in another's; a day alone stays the day it was for the writer. */
function toReader(value: string, from: Zone, reader: Zone): string {
  return from === reader || !value.includes('T') ? value : wallOf(instantOf(value, from), reader);
}

function endOf(day: string | null, endDay: string | null, endTime: string | null): string | null {
  if (!day || (!endDay && !endTime)) return null;
  return (endDay ?? day) + (endTime ? `T${endTime}` : '');
}
