import { isZone, sayTime } from '@corvun/core';

/** Every zone the browser knows. */
export const ZONES: readonly string[] = Intl.supportedValuesOf('timeZone');

/** The city of a zone's name. */
export const cityOf = (zone: string): string => (zone.split('/').at(-1) ?? zone).replaceAll('_', ' ');

/** What the clock shows in a zone; empty where there is no such zone. */
export const clockIn = (zone: string, now: number): string =>
  isZone(zone) ? `It is ${sayTime(now, zone)} in ${cityOf(zone)}` : '';
