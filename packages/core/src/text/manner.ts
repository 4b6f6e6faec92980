/** How somebody writes days and clock times, and in what language they type them. */
export interface Manner {
  clock: 24 | 12;
  /** `day-month`: Tue 4 Aug. `month-day`: Tue Aug 4. `numbers`: Tue 2026-08-04 (ISO 8601). */
  dates: 'day-month' | 'month-day' | 'numbers';
  /** The language in which a typed line names its times; `any` tells it from the line. */
  typed: 'any' | 'en' | 'de';
}

export const FIRST_MANNER: Manner = { clock: 24, dates: 'day-month', typed: 'any' };

let present: () => Manner | undefined = () => undefined;

/** Whose manner it is that holds now; FIRST_MANNER where nobody's does. */
export const manner = (): Manner => present() ?? FIRST_MANNER;

/** Tells where the manner that holds comes from: one for a window, one for each request to a server. */
export function mannerFrom(source: () => Manner | undefined): void {
  present = source;
}
