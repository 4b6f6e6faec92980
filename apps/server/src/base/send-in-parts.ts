import { pipeline } from 'node:stream/promises';
import type { Response } from 'express';
import { Breath } from './breath';

/** Characters that are put into bytes at once. */
const PART = 250_000;

/**
 * Sends a text that may be long without holding everybody else up. It has no tag of its content: that is of no use to
 * whoever asks a question, and takes longer the more there is.
 */
export async function sendInParts(response: Response, text: string): Promise<void> {
  if (text.length <= PART) {
    response.end(text);
    return;
  }
  try {
    await pipeline(partsOf(text), response);
  } catch (problem) {
    // Whoever asked has left.
    if (!response.destroyed) throw problem;
  }
}

async function* partsOf(text: string): AsyncGenerator<string> {
  const breath = new Breath();
  for (let from = 0, to; from < text.length; from = to) {
    to = from + PART;
    // A character of two halves stays whole.
    if (isFirstHalf(text.charCodeAt(to - 1))) to += 1;
    yield text.slice(from, to);
    await breath.take();
  }
}

const isFirstHalf = (code: number): boolean => code >= 0xd800 && code < 0xdc00;
