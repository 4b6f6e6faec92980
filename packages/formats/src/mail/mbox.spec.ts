import fc from 'fast-check';
import { Readable } from 'node:stream';
import { readMbox } from './mbox';

async function all(text: string, chunk = 7, max = 1e6): Promise<(string | null)[]> {
  const chunks = Array.from({ length: Math.ceil(text.length / chunk) }, (_, at) =>
    Buffer.from(text.slice(at * chunk, (at + 1) * chunk), 'latin1'),
  );
  const found: (string | null)[] = [];
  for await (const one of readMbox(Readable.from(chunks), max)) found.push(one?.toString('latin1') ?? null);
  return found;
}

describe('readMbox', () => {
  it('cuts at From lines after a blank line only, and unquotes >From', async () => {
    expect(await all('From a Mon\nSubject: 1\n\nhi\n>From me\nFrom here on\n\nFrom b Tue\nSubject: 2\n\nyo\n')).toEqual([
      'Subject: 1\n\nhi\nFrom me\nFrom here on\n\n',
      'Subject: 2\n\nyo\n',
    ]);
  });

  it('gives what a file that is cut off still holds, and null for what is too large', async () => {
    expect(await all('From a\nSubject: 1\n\nx\n\nFrom b\nSubj')).toEqual(['Subject: 1\n\nx\n\n', 'Subj']);
    expect(await all(`From a\n${'x'.repeat(99)}\n\nFrom b\nSubject: 2\n\n`, 7, 50)).toEqual([null, 'Subject: 2\n\n']);
    expect(await all('no mbox at all')).toEqual([]);
  });

  it('finds the same messages however the bytes arrive', async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.array(fc.stringMatching(/^[a-z >\n]{1,40}$/), { maxLength: 6 }),
        fc.integer({ min: 1, max: 50 }),
        async (bodies, chunk) => {
          const text = bodies.map((body) => `From x\nSubject: s\n\n${body.replace(/^(>*From )/gm, '>$1')}\n\n`).join('');
          expect(await all(text, chunk)).toEqual(await all(text, 1000));
          expect((await all(text, chunk)).length).toBe(bodies.length);
        },
      ),
      { numRuns: 60 },
    );
  });
});
