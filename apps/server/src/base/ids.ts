import { randomBytes } from 'node:crypto';

const LETTERS = 'abcdefghjkmnpqrstuvwxyz23456789x';
const LENGTH = 20;

type Source = (count: number) => Uint8Array;

/** Random bytes are fetched for many ids at once. */
const POOL = 200 * LENGTH;
let pool: Uint8Array = new Uint8Array();

const pooled: Source = (count) => {
  if (pool.length < count) pool = randomBytes(Math.max(POOL, count));
  const some = pool.subarray(0, count);
  pool = pool.subarray(count);
  return some;
};

let source: Source = pooled;

/** A random id of 20 letters and digits (100 bits), without letters that are easily mixed up. */
export function newId(): string {
  let id = '';
  for (const byte of source(LENGTH)) id += LETTERS.charAt(byte & 31);
  return id;
}

/** Runs `work` with ids from another source: demo data have the same ids every time. */
export async function withIdSource<T>(other: Source, work: () => Promise<T>): Promise<T> {
  source = other;
  try {
    return await work();
  } finally {
    source = pooled;
  }
}
