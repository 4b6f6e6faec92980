import { sayClock } from '../text/say';

/** The weather of an hour at a place. */
export interface HourOfWeather {
  /** 0 to 23, by the clock of the place. */
  hour: number;
  /** Degrees Celsius. */
  celsius: number;
  /** Millimetres of rain in it. */
  rain: number;
  /** Kilometres an hour. */
  wind: number;
}

/** Less than this is no rain, and less wind than this is not worth a word. */
const WET = 0.2;
const WINDY = 25;
/** Hours in which people work outside: from, until. */
const LIGHT = [7, 19] as const;
/** More stretches than this are told as one. */
const MOST_STRETCHES = 2;

/** The hours of a day in which one works outside. */
export const lightHours = (hours: readonly HourOfWeather[]): HourOfWeather[] =>
  hours.filter(({ hour }) => hour >= LIGHT[0] && hour < LIGHT[1]).sort((a, b) => a.hour - b.hour);

const clock = (hour: number) => sayClock(`${String(hour).padStart(2, '0')}:00`);

/** `14 to 21 °C, rain from 14:00 to 16:00, 3 mm, wind up to 30 km/h`; empty where nothing is known. */
export function sayWeather(all: readonly HourOfWeather[]): string {
  const hours = lightHours(all);
  if (!hours.length) return '';
  const degrees = hours.map(({ celsius }) => Math.round(celsius));
  const [low, high] = [Math.min(...degrees), Math.max(...degrees)];
  const wind = Math.round(Math.max(...hours.map((one) => one.wind)) / 5) * 5;
  return [`${low === high ? '' : `${low} to `}${high} °C`, sayRain(hours), wind >= WINDY && `wind up to ${wind} km/h`]
    .filter(Boolean)
    .join(', ');
}

function sayRain(hours: readonly HourOfWeather[]): string {
  const wet = hours.filter(({ rain }) => rain >= WET);
  if (!wet.length) return 'dry';
  const stretches: [from: number, to: number][] = [];
  for (const { hour } of wet) {
    const last = stretches.at(-1);
    if (last?.[1] === hour) last[1] = hour + 1;
    else stretches.push([hour, hour + 1]);
  }
  const amount = `${Math.max(1, Math.round(wet.reduce((sum, { rain }) => sum + rain, 0)))} mm`;
  if (stretches.length > MOST_STRETCHES) return `rain at times, ${amount}`;
  return `rain ${stretches.map(([from, to]) => `from ${clock(from)} to ${clock(to)}`).join(' and ')}, ${amount}`;
}

/** Something of a day, as far as it says where it is done. */
export interface DoneSomewhere {
  title: string;
  tags: readonly string[];
  location: string;
}

/**
 * What of a day is work outside: what has one of these words as a tag, or is at a place that has one of them in its name.
 * @returns those, and the first place that one of them names; empty where none does
 */
export function outsideOn<Thing extends DoneSomewhere>(
  things: readonly Thing[],
  words: readonly string[],
): { things: Thing[]; place: string } {
  const wanted = words.map((word) => word.toLowerCase());
  const isOutside = ({ tags, location }: DoneSomewhere) =>
    tags.some((tag) => wanted.includes(tag.toLowerCase())) || wanted.some((word) => named(location.toLowerCase(), word));
  const found = things.filter(isOutside);
  return { things: found, place: found.find(({ location }) => location)?.location ?? '' };
}

/** Whether a word, or several, stand in a name as whole words. */
function named(name: string, word: string): boolean {
  const at = name.indexOf(word);
  const letter = /[\p{L}\p{N}]/u;
  return at >= 0 && !letter.test(name[at - 1] ?? '') && !letter.test(name[at + word.length] ?? '');
}
