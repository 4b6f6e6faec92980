import { once } from 'node:events';
import { request } from 'node:http';
import type { AddressInfo } from 'node:net';
import express from 'express';
import { sendInParts } from '../src/base/send-in-parts';

/** Serves one answer. */
async function serve(parts: readonly string[]) {
  let sent: Promise<void> = Promise.resolve();
  const server = express()
    .get('/', (_, response) => {
      sent = sendInParts(response, parts);
    })
    .listen(0, '127.0.0.1');
  await once(server, 'listening');
  const url = `http://127.0.0.1:${(server.address() as AddressInfo).port}/`;
  return { url, sent: () => sent, close: () => new Promise((done) => server.close(done)) };
}

describe('an answer of many parts', () => {
  it('arrives letter by letter, long or short', async () => {
    for (const parts of [
      [],
      ['short ', 'ÿ'],
      Array.from({ length: 40_000 }, (_, at) => `🙂 ü ${at} `),
      ['x'.repeat(9_000_000), 'end'],
    ]) {
      const { url, close } = await serve(parts);
      expect((await (await fetch(url)).text()) === parts.join('')).toBe(true);
      await close();
    }
  });

  it('is no longer sent to somebody who left', async () => {
    const { url, sent, close } = await serve(Array<string>(600).fill('x'.repeat(100_000)));
    const asked = request(url).end();
    asked.on('error', () => undefined);
    const [response] = (await once(asked, 'response')) as [NodeJS.ReadableStream];
    await once(response, 'readable');
    asked.destroy();
    await expect(sent()).resolves.toBeUndefined();
    await close();
  });
});
