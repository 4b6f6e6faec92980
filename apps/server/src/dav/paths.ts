import type { Collection, Listed } from './collections';
import { decodedName } from './decoded-name';

export const pathOf = (collection: Collection, { name }: Pick<Listed, 'name'>) => collection.path + encodeURIComponent(name);
/** The path of an address, which may be a whole one. */
export const pathIn = (address: string) => address.trim().replace(/^https?:\/\/[^/]+/, '');
/** The same path as it is written here. */
export const encodedPath = (path: string) => {
  const at = path.lastIndexOf('/') + 1;
  try {
    return path.slice(0, at) + encodeURIComponent(decodeURIComponent(path.slice(at)));
  } catch {
    return path;
  }
};
/** The name in a path, where that lies in a collection. */
export const nameIn = (collection: Collection, path: string): string[] =>
  path.startsWith(collection.path) && isWhole(path) ? [decodedName(path.slice(collection.path.length))] : [];

/** Whether what is written with % in it can be read. */
const isWhole = (path: string): boolean => encodedPath(path) === path && !/%(?![0-9a-f]{2})/i.test(path);
