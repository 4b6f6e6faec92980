/** What an event itself says of the time beside it, in minutes; null: what is so for its like. */
export interface EventBuffers {
  prep: number | null;
  followUp: number | null;
  /** One way; so long there and so long back. */
  travel: number | null;
  /** Tasks that are done in that time. */
  tasks: { id: string; at: 'prep' | 'follow-up' }[];
}

/** Minutes before and after all events that are like this; the first rule that fits holds. */
export interface BufferRule {
  prep: number;
  followUp: number;
  /** Who called them. */
  of: 'all' | 'others' | 'own';
  /** Null: in any calendar. */
  calendarId: string | null;
  /** Empty: of any category. */
  category: string;
  /** Only those that are longer than so many minutes. */
  over: number;
}

/** How long the way between two places is, in minutes; the way back is as long. */
export interface Travel {
  from: string;
  to: string;
  minutes: number;
}

/** What is kept free beside events. */
export interface BufferSettings {
  rules: BufferRule[];
  /** Where one is when nothing else is said. */
  base: string;
  travel: Travel[];
  /** A pause of so many minutes after stretches of events that are so long; null: none. */
  pause: { after: number; minutes: number } | null;
}

export const NO_BUFFERS: BufferSettings = { rules: [], base: 'Office', travel: [], pause: null };

/** The longest time beside an event, in minutes. */
export const LONGEST_BUFFER = 480;

/** A place as it is compared; empty for what is no place one goes to, such as a link or a telephone. */
export function placeKey(place: string): string {
  const text = place.trim().replace(/\s+/g, ' ').toLowerCase();
  return /^(?:https?:|online\b|video\b|(?:tele)?phone\b|call\b|remote\b)/.test(text) ? '' : text;
}

/** Ways with one more, which is known better than an older one between the same places. */
export function withTravel(travel: readonly Travel[], way: Travel): Travel[] {
  const pair = ({ from, to }: Travel) => [placeKey(from), placeKey(to)].sort().join('\n');
  return [...travel.filter((one) => pair(one) !== pair(way)), way];
}

const PART = /(\d{1,3})\s*(?:m|min|mins|minutes)?\s*(before|after|travel|prep|follow-?up)/gi;

/**
 * Buffers as they are typed: `15 before, 30 after, 20 travel`, or `none`.
 * @returns what is said, null for what is not; null where nothing can be read
 */
export function readBuffers(text: string): Pick<EventBuffers, 'prep' | 'followUp' | 'travel'> | null {
  if (/^\s*(?:none|nothing)\s*$/i.test(text)) return { prep: 0, followUp: 0, travel: 0 };
  const found = [...text.matchAll(PART)];
  const rest = text.replace(PART, '').replace(/[\s,;.]|\band\b/gi, '');
  if (!found.length || rest) return null;
  const minutes = (words: RegExp) => {
    const own = found.find(([, , word = '']) => words.test(word));
    return own ? Number(own[1]) : null;
  };
  const said = { prep: minutes(/before|prep/i), followUp: minutes(/after|follow/i), travel: minutes(/travel/i) };
  return Object.values(said).some((one) => (one ?? 0) > LONGEST_BUFFER) ? null : said;
}

/** The same in words: `15 min before, 30 min after`; empty where nothing is said. */
export function sayBuffers({ prep, followUp, travel }: Pick<EventBuffers, 'prep' | 'followUp' | 'travel'>): string {
  const said = [
    [prep, 'before'],
    [followUp, 'after'],
    [travel, 'travel'],
  ] as const;
  const known = said.filter(([minutes]) => minutes !== null);
  if (known.length && known.every(([minutes]) => minutes === 0)) return 'nothing';
  return known.map(([minutes, word]) => (minutes ? `${minutes} min ${word}` : `nothing ${word}`)).join(', ');
}
