import { codeFor } from '../base/codes';
import type { Row } from '../base/row';
import type { List } from './list.entity';

/** The one with this id or this name, in any case. */
export const called = <T extends { id: string; name: string }>(all: readonly T[], wanted: string): T | undefined =>
  all.find((one) => one.id === wanted || one.name.toLowerCase() === wanted.toLowerCase());

/** Tags of a new task with the one that everything on its list gets. */
export const withDefault = (tags: readonly string[], list: Pick<List, 'defaultTag'> | null): string[] =>
  list?.defaultTag && !tags.includes(list.defaultTag) ? [...tags, list.defaultTag] : [...tags];

/** Hues there are. */
export const HUES = 10;

/** The hue that fewest lists have, the first of them. */
function hueFor(all: readonly List[]): number {
  const used = (hue: number) => all.filter((one) => one.hue === hue && !one.archived).length;
  return Array.from({ length: HUES }, (_, hue) => hue).reduce((best, hue) => (used(hue) < used(best) ? hue : best), 0);
}

/** A list of which only the name is known, after those that are there. */
export const newList = (name: string, all: readonly List[]): Omit<List, keyof Row> => ({
  name: name.slice(0, 80),
  code: codeFor(
    name,
    all.map((one) => one.code),
  ),
  hue: hueFor(all),
  group: '',
  archived: false,
  ends: null,
  project: false,
  outcome: '',
  position: all.length,
  defaultTag: null,
  concentration: 'medium',
  billable: false,
});
