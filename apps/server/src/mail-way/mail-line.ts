import { connect, type Socket } from 'node:net';
import { SourceProblem } from '../sources/problem';

const ANSWER_TIME = 8000;
const LOOKED_AT = 100;
/** What a mail server may say while one mail is handed over; lines without an end are no answers. */
const MOST_SAID = 256 * 1024;

/**
 * A line to a mail server that neither lasts for ever nor says without end.
 * @param address of the server, looked up already
 * @param called what it is called in sentences
 * @param lasts milliseconds for the whole exchange
 * @throws SourceProblem nothing answers there; later the line is broken off with one
 */
export function mailLine(address: string, port: number, called: string, lasts: number): Promise<Socket> {
  return new Promise((resolve, reject) => {
    const line = connect({ host: address, port });
    const late = setTimeout(() => line.destroy(silent(called)), ANSWER_TIME).unref();
    const end = setTimeout(() => line.destroy(silent(called)), lasts).unref();
    const watch = setInterval(() => {
      if (line.bytesRead > MOST_SAID) line.destroy(new SourceProblem(`${called} talks without end.`, 'refused'));
    }, LOOKED_AT).unref();
    line.once('error', reject);
    line.once('connect', () => {
      clearTimeout(late);
      line.off('error', reject);
      resolve(line);
    });
    line.once('close', () => {
      clearTimeout(late);
      clearTimeout(end);
      clearInterval(watch);
    });
  });
}

const silent = (called: string) => new SourceProblem(`${called} did not answer in time.`);
