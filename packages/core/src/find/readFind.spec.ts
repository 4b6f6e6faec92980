import fc from 'fast-check';
import { instantOf } from '../time/zones';
import { ftsQuery, readFind } from './readFind';

const at = { now: instantOf('2026-08-03T10:50', 'Europe/Vienna'), zone: 'Europe/Vienna' };
const read = (text: string) => readFind(text, at);

describe('what is typed to find something', () => {
  it.each([
    ['gauge readings', { words: ['gauge', 'readings'] }],
    ['"gauge 14" county', { phrases: ['gauge 14'], words: ['county'] }],
    ['@Ines >Permits #Call quote', { people: ['Ines'], lists: ['Permits'], tags: ['call'], words: ['quote'] }],
    ['@"Tomas Rieger" >"In town"', { people: ['Tomas Rieger'], lists: ['In town'], words: [] }],
    ['+mail +file invoice', { kinds: ['mail'], file: true, words: ['invoice'] }],
    ['+unknown', { kinds: [], words: ['unknown'] }],
    ['rope since 1 July until 15 July', { since: '2026-07-01', until: '2026-07-15', words: ['rope'] }],
    ['since Thursday pump', { since: '2026-07-30', words: ['pump'] }],
    ['since the flood', { since: null, words: ['since', 'the', 'flood'] }],
    ['C# 5 > 3', { tags: [], lists: [], words: ['C', '5', '3'] }],
    ['', { words: [] }],
  ])('%s', (text, expected) => {
    expect(read(text)).toMatchObject(expected);
  });

  it('asks for the beginning of each word, phrases as they are, people in their own column', () => {
    expect(ftsQuery(read('gau "section C" @Ines'))).toBe('"gau"* AND "section C" AND people : "Ines" *');
    expect(ftsQuery(read('+mail'))).toBe('');
  });

  it('never breaks out of its quotes, whatever is typed', () => {
    fc.assert(
      fc.property(fc.string({ maxLength: 60 }), (text) => {
        const query = ftsQuery(read(text));
        expect((query.match(/"/g) ?? []).length % 2).toBe(0);
        expect(query.replace(/"(?:[^"]|"")*"/g, '')).toMatch(/^[\s*]*(?:(?:AND|people :)[\s*]*)*$/);
      }),
    );
  });
});
