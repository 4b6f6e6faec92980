import { badField } from '../base/errors';
import { HUES, called } from './new-list';

/** What a list or a calendar is known by. */
interface Marked {
  id: string;
  name: string;
  code: string;
  hue: number;
  archived?: boolean;
}

/** @throws Refusal where another has this name */
export function freeName(what: 'list' | 'calendar', others: readonly Marked[], text: string): string {
  const name = text.trim();
  if (!name) throw badField('name', `The ${what} needs a name.`);
  if (called(others, name)) throw badField('name', `There is a ${what} “${name}” already.`);
  return name;
}

/** @throws Refusal where another that is in use has this code */
export function freeCode(others: readonly Marked[], text: string): string {
  const code = text.toUpperCase();
  const other = others.find((one) => one.code === code && !one.archived);
  if (other) throw badField('code', `“${other.name}” has the code ${code} already.`);
  return code;
}

/** Two share a hue only where there are more of them than hues. @throws Refusal where another has it and some are free */
export function freeHue(others: readonly Marked[], hue: number): void {
  const shown = others.filter((one) => !one.archived);
  const other = shown.find((one) => one.hue === hue);
  const free = Array.from({ length: HUES }, (_, at) => at).filter((at) => !shown.some((one) => one.hue === at));
  if (other && free.length) throw badField('hue', `“${other.name}” has this hue already; others are free.`);
}
