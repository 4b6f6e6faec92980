import fc from 'fast-check';
import { addressOf, isSamePlace } from '../src/sources/account/dav-values';

/** Pieces of addresses, in any order. */
const soup = fc
  .array(
    fc.constantFrom(
      ...[
        '/',
        '//',
        '\\',
        ':',
        '@',
        '?',
        '#',
        '.',
        '..',
        '%2f',
        '%00',
        '%5c',
        ' ',
        '\t',
        '\n',
        'http:',
        'https:',
        'file:',
        'data:',
      ],
      ...['dav.fen.example', 'other.example', 'fen', '[::1]', '127.0.0.1', ':8443', ':443', 'home', 'x.ics', 'é', '。'],
    ),
    { maxLength: 12 },
  )
  .map((parts) => parts.join(''));
const PLACES = [
  'https://dav.fen.example/',
  'http://dav.fen.example/dav/',
  'http://127.0.0.1:5232/maren/',
  'https://dav.fen.example:8443/',
];

it('whatever a server names, what is asked for next is at the place that was named', () => {
  fc.assert(
    fc.property(fc.constantFrom(...PLACES), soup, (place, href) => {
      if (!URL.canParse(href, place)) return;
      const found = new URL(href, place).href;
      if (!isSamePlace(place, found)) return;
      const host = new URL(place).hostname;
      expect(new URL(found).hostname).toBe(host);
      // Taken apart into its path, and put together again.
      const again = addressOf(place, new URL(found).pathname);
      expect(new URL(again).origin).toBe(new URL(place).origin);
    }),
    { numRuns: 5000 },
  );
});

it('under the same name it may go on to where nobody listens, and not back', () => {
  expect(isSamePlace('http://dav.fen.example/', 'https://dav.fen.example/home/')).toBe(true);
  for (const [said, found] of [
    ['https://dav.fen.example/', 'http://dav.fen.example/'],
    ['https://dav.fen.example/', 'https://fen.example/'],
    ['http://dav.fen.example/', 'http://dav.fen.example:8080/'],
    ['https://dav.fen.example/', 'https://dav.fen.example.other.example/'],
  ] as const)
    expect([said, found, isSamePlace(said, found)]).toEqual([said, found, false]);
});
