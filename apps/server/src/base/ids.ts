import { randomBytes } from 'node:crypto';

const LETTERS = 'abcdefghjkmnpqrstuvwxyz23456789x';
const LENGTH = 20;

type Source = (count: number) => Uint8Array;
let source: Source = randomBytes;

/** A random id of 20 letters and digits (100 bits), without letters that are easily mixed up. */
export function newId(): string {
  return Array.from(source(LENGTH), (byte) => LETTERS[byte & 31]).join('');
}

/** Runs `work` with ids from another source: demo data have the same ids every time. */
export async function withIdSource<T>(other: Source, work: () => Promise<T>): Promise<T> {
  source = other;
  try {
    return await work();
  } finally {
    source = randomBytes;
  }
}
