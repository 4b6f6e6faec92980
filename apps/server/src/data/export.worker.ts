import 'reflect-metadata';
import { parentPort, workerData } from 'node:worker_threads';
import { ExportWriter } from './export-writer';

/** Whose export is made, from which folder. */
export interface ExportTask {
  data: string;
  userId: string;
  /** For what is only needed meanwhile. */
  folder: string;
}

/** What comes out of the thread: bytes, each asked for with a message; null at the end. */
export type ExportSaid = Uint8Array | null;

/** Bytes that are handed out at once: an archive of many small files is made of very many small pieces. */
const ENOUGH = 256 * 1024;

/** The next part of an archive; null at its end. */
async function part(pieces: AsyncIterator<Buffer>): Promise<ExportSaid> {
  const found: Buffer[] = [];
  for (let size = 0; size < ENOUGH;) {
    const next = await pieces.next();
    if (next.done) break;
    found.push(next.value);
    size += next.value.length;
  }
  return found.length ? Buffer.concat(found) : null;
}

/** Makes an export in a thread of its own: what is written out is everything one has. */
function work({ data, userId, folder }: ExportTask): void {
  const pieces = new ExportWriter({ data }, folder).stream(userId)[Symbol.asyncIterator]() as AsyncIterator<Buffer>;
  parentPort?.on('message', () => {
    part(pieces).then(
      (said) => parentPort?.postMessage(said),
      // Ends the thread with what went wrong.
      (problem: unknown) =>
        setImmediate(() => {
          throw problem instanceof Error ? problem : new Error('The export failed.');
        }),
    );
  });
}

work(workerData as ExportTask);
