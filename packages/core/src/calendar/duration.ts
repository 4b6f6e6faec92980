/** A duration (RFC 5545, 3.3.6): whole days, counted on the calendar, and an exact rest in milliseconds. */
export interface Duration {
  days: number;
  time: number;
}

const SHAPE = /^([+-])?P(?:(\d{1,6})W)?(?:(\d{1,7})D)?(?:T(?:(\d{1,8})H)?(?:(\d{1,9})M)?(?:(\d{1,10})S)?)?$/i;

/** Null for what is no duration, and for one that goes back in time. */
export function readDuration(text: string): Duration | null {
  const read = readSigned(text);
  return read && !read.back ? { days: read.days, time: read.time } : null;
}

/** A duration that may go back in time, as that of a trigger does; null for what is none. */
export function readSigned(text: string): (Duration & { back: boolean }) | null {
  const match = SHAPE.exec(text.trim());
  if (!match) return null;
  const [weeks = 0, days = 0, hours = 0, minutes = 0, seconds = 0] = match.slice(2).map((part) => Number(part ?? 0));
  return { days: weeks * 7 + days, time: ((hours * 60 + minutes) * 60 + seconds) * 1000, back: match[1] === '-' };
}
