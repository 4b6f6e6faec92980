import { findDates } from '../time/dateText';
import { findDurations } from '../time/durationText';
import type { Instant, Zone } from '../time/zones';
import { languageOf } from './language';
import { ownWords, sentencesIn, type Stretch } from './parts';
import { asksReader } from './readers/asks';
import { linksIn, peopleIn, type LinkFound, type PersonFound } from './readers/people';
import { roleOf, saysFixed, type DateRole } from './readers/roles';

/** A sentence that asks something of the reader. */
export interface Ask extends Stretch {
  text: string;
}

export interface DateFact extends Stretch {
  text: string;
  /** `YYYY-MM-DD`, `YYYY-MM-DDTHH:MM`, or an ISO week. */
  value: string;
  endValue: string | null;
  role: DateRole;
  /** Of a deadline: whether the words around it say that it will not move. */
  fixed: boolean;
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
  invitation: boolean;
}

export interface MessageToRead {
  text: string;
  /** When it was written; "tomorrow" is counted from here. */
  written: Instant;
  /** The writer's zone where known, else the reader's. */
  zone: Zone;
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
/** In a request these say until when: "could you send it today?" */
const SOON = /^(?:today|tonight|tomorrow|this week|heute|morgen|diese woche)$/i;

/** Version of the readers: facts kept with an older one are read anew. */
export const READER_VERSION = 1;

/** Reads the writer's own words of a message. Pure; never throws on any text. */
export function readMessage({ text, written, zone, from, bulk, invitation, names }: MessageToRead): MessageFacts {
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
    invitation: invitation ?? false,
  };
  for (const [at, { start, end }] of sentences.entries()) {
    const sentence = read.slice(start, end);
    const asks = !bulk && asksReader(sentence, names);
    if (asks && facts.asks.length < MOST_FACTS) facts.asks.push({ text: sentence, start, end });
    const durations = findDurations(sentence);
    for (const found of durations) {
      if (facts.durations.length < MOST_FACTS)
        facts.durations.push({ text: found.text, minutes: found.minutes, start: start + found.start, end: start + found.end });
    }
    const next = sentences[at + 1];
    const around = sentence + (next ? ` ${read.slice(next.start, next.end)}` : '');
    for (const found of findDates(sentence.replace(/\n/g, ' '), { now: written, zone, language })) {
      if (facts.dates.length >= MOST_FACTS || (!found.day && !found.week)) continue;
      if (durations.some((one) => one.start < found.end && found.start < one.end)) continue;
      const said = roleOf(sentence, found.start, found.end, found.time !== null);
      const role = asks && said === 'mention' && SOON.test(found.text) ? 'deadline' : said;
      const value = found.day ? found.day + (found.time ? `T${found.time}` : '') : (found.week ?? '');
      facts.dates.push({
        text: read.slice(start + found.start, start + found.end),
        value,
        endValue: endOf(found.day, found.endDay, found.endTime),
        role,
        fixed: role === 'deadline' && saysFixed(around),
        start: start + found.start,
        end: start + found.end,
      });
    }
  }
  facts.minutes = facts.durations[0]?.minutes ?? null;
  if (from?.address && !facts.people.some((person) => person.address === from.address.toLowerCase())) {
    facts.people.unshift({ name: from.name, address: from.address.toLowerCase() });
  }
  return facts;
}

function endOf(day: string | null, endDay: string | null, endTime: string | null): string | null {
  if (!day || (!endDay && !endTime)) return null;
  return (endDay ?? day) + (endTime ? `T${endTime}` : '');
}
