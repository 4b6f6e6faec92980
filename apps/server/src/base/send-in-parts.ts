import { pipeline } from 'node:stream/promises';
import type { Response } from 'express';
import { Breath } from './breath';

/** Characters that are put into bytes at once. */
const AT_ONCE = 250_000;

/**
 * Sends what may be long without holding everybody else up. It has no tag of its content: that is of no use to whoever
 * asks a question, and takes longer the more there is.
 */
export async function sendInParts(response: Response, parts: readonly string[]): Promise<void> {
  if (sizeOf(parts) <= AT_ONCE) {
    response.end(parts.join(''));
    return;
  }
  try {
    await pipeline(together(parts), response);
  } catch (problem) {
    // Whoever asked has left.
    if (!response.destroyed) throw problem;
  }
}

const sizeOf = (parts: readonly string[]): number => parts.reduce((sum, { length }) => sum + length, 0);

async function* together(parts: readonly string[]): AsyncGenerator<string> {
  const breath = new Breath();
  let open = '';
  for (const part of parts) {
    open += part;
    if (open.length < AT_ONCE) continue;
    yield open;
    open = '';
    await breath.take();
  }
  yield open;
}
