import { isZone, parseIso } from '@corvun/core';

/** A call that cannot be understood; ends with exit code 2. */
export class WrongUse extends Error {}

/** Something that was understood and refused; ends with exit code 1. */
export class Refused extends Error {}

export function zoneOption(zone: string | undefined): string {
  const chosen = zone ?? Intl.DateTimeFormat().resolvedOptions().timeZone;
  if (!isZone(chosen)) throw new WrongUse(`"${chosen}" is not a zone name like Europe/Vienna.`);
  return chosen;
}

/** An instant given as ISO 8601, read in the zone when it has no offset. */
export function timeOption(name: string, text: string, zone: string): number {
  const instant = parseIso(text, zone);
  if (Number.isNaN(instant)) throw new WrongUse(`--${name} is "${text}", which is not a time like 2026-08-03T09:00.`);
  return instant;
}

export function minutesOption(name: string, text: string): number {
  const minutes = Number(text);
  if (!Number.isInteger(minutes) || minutes < 1 || minutes > 6000)
    throw new WrongUse(`--${name} is "${text}"; it is a whole number of minutes from 1 to 6000.`);
  return minutes;
}

/** Prints a result: one JSON value, or lines for people. */
export function print(json: boolean | undefined, value: unknown, lines: string[]): void {
  process.stdout.write(json ? `${JSON.stringify(value)}\n` : lines.length ? `${lines.join('\n')}\n` : '');
}
