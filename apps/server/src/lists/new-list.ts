import { codeFor } from '../base/codes';
import type { Row } from '../base/row';
import type { List } from './list.entity';

/** The one with this id or this name, in any case. */
export const called = <T extends { id: string; name: string }>(all: readonly T[], wanted: string): T | undefined =>
  all.find((one) => one.id === wanted || one.name.toLowerCase() === wanted.toLowerCase());

/** A list of which only the name is known, after those that are there. */
export const newList = (name: string, all: readonly List[]): Omit<List, keyof Row> => ({
  name: name.slice(0, 80),
  code: codeFor(
    name,
    all.map((one) => one.code),
  ),
  hue: all.length % 10,
  group: '',
  project: false,
  outcome: '',
  position: all.length,
  defaultTag: null,
  concentration: 'medium',
});
