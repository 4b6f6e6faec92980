import { once } from 'node:events';
import { request } from 'node:http';
import type { AddressInfo } from 'node:net';
import express from 'express';
import { sendInParts } from '../src/base/send-in-parts';

/** Serves one text. */
async function serve(text: string) {
  let sent: Promise<void> = Promise.resolve();
  const server = express()
    .get('/', (_, response) => {
      sent = sendInParts(response, text);
    })
    .listen(0, '127.0.0.1');
  await once(server, 'listening');
  const url = `http://127.0.0.1:${(server.address() as AddressInfo).port}/`;
  return { url, sent: () => sent, close: () => new Promise((done) => server.close(done)) };
}

describe('a long text', () => {
  it('arrives letter by letter, wherever it is cut', async () => {
    for (const text of ['', 'short ÿ', ...[0, 1, 2].map((shift) => 'x'.repeat(shift) + '🙂ü'.repeat(400_000))]) {
      const { url, close } = await serve(text);
      expect((await (await fetch(url)).text()) === text).toBe(true);
      await close();
    }
  });

  it('is no longer sent to somebody who left', async () => {
    const { url, sent, close } = await serve('x'.repeat(60_000_000));
    const asked = request(url).end();
    asked.on('error', () => undefined);
    const [response] = (await once(asked, 'response')) as [NodeJS.ReadableStream];
    await once(response, 'readable');
    asked.destroy();
    await expect(sent()).resolves.toBeUndefined();
    await close();
  });
});
