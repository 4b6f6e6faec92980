import type { Request, Response } from 'express';
import { once } from 'node:events';
import { createGzip, constants } from 'node:zlib';

/** Bytes from which on an answer is packed: a smaller one costs more time than it saves. */
const WORTH_PACKING = 64 * 1024;

/**
 * Sends a list of any length as one JSON array, a page at a time, packed where whoever asks can unpack it: neither the list nor
 * its text is ever whole, and others have their turn in between.
 * @throws what the first page throws; later the answer is cut off, which is no JSON
 */
export async function sendPages(request: Request, response: Response, pages: AsyncIterable<readonly unknown[]>): Promise<void> {
  const source = pages[Symbol.asyncIterator]();
  let next = await source.next();
  const first = next.done ? '' : rowsOf(next.value);
  response.type('application/json; charset=utf-8');
  response.vary('Accept-Encoding');
  const packed = first.length > WORTH_PACKING && Boolean(request.acceptsEncodings('gzip'));
  if (packed) response.setHeader('Content-Encoding', 'gzip');
  const out = packed ? createGzip({ level: constants.Z_BEST_SPEED }) : response;
  if (out !== response) out.pipe(response);
  const write = async (text: string) => {
    if (!out.write(text)) await Promise.race([once(out, 'drain'), once(response, 'close')]);
  };
  try {
    await write(`[${first}`);
    let empty = first === '';
    while (!next.done && !response.closed) {
      next = await source.next();
      const rows = next.done ? '' : rowsOf(next.value);
      if (rows) await write(`${empty ? '' : ','}${rows}`);
      empty &&= rows === '';
    }
    out.end(']');
  } catch (problem) {
    response.destroy();
    throw problem;
  } finally {
    await source.return?.();
  }
}

/** The rows of a page, without the brackets around them. */
const rowsOf = (rows: readonly unknown[]): string => (rows.length ? JSON.stringify(rows).slice(1, -1) : '');
