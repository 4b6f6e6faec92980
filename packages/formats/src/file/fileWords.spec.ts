import { MOST_WORDS, fileWords } from './fileWords';

const bytes = (text: string) => new TextEncoder().encode(text);

describe('the words of a file', () => {
  it('are its text, by its type or its name', () => {
    expect(fileWords('notes', 'text/plain; charset=utf-8', bytes('Reed  counts\nof Jühl'))).toBe('Reed counts of Jühl');
    expect(fileWords('counts.CSV', 'application/octet-stream', bytes('plot,count\n4,17'))).toBe('plot,count 4,17');
    expect(fileWords('survey.pdf', 'application/pdf', bytes('%PDF-1.7'))).toBe('');
  });

  it('of another encoding are read, of anything else than text there are none', () => {
    expect(fileWords('a.txt', 'text/plain', Uint8Array.from([0x4a, 0xfc, 0x68, 0x6c]))).toBe('Jühl');
    expect(fileWords('a.txt', 'text/plain', Uint8Array.from([1, 0, 2]))).toBe('');
  });

  it('of a page are what stands on it', () => {
    const page = '<html><style>p{}</style><p title="x">Plot <b>C</b></p><script>alert(1)</script>';
    expect(fileWords('page.html', 'text/html', bytes(page))).toBe('Plot C');
    expect(fileWords('open.html', 'text/html', bytes('<'.repeat(30_000))).length).toBeLessThanOrEqual(MOST_WORDS);
  });

  it('of a page that is built to keep one busy come at once, and leave its scripts out', () => {
    const closed = '<script>x</script>'.repeat(2000);
    const open = '<script>y'.repeat(8000);
    expect(fileWords('a.html', 'text/html', bytes(`<p>Sedge</p>${closed}`))).toBe('Sedge');
    expect(fileWords('b.html', 'text/html', bytes(`<p>Sedge</p>${open}`))).toContain('Sedge');
  });

  it('of names that say text, but hold signs of a program, are none', () => {
    for (const name of ['a.png', 'b', 'c.txt.exe']) expect(fileWords(name, 'application/octet-stream', bytes('text'))).toBe('');
  });

  it('of a long file are those of its beginning, never half a letter', () => {
    const words = fileWords('long.txt', 'text/plain', bytes(`a${'ü'.repeat(60_000)}`));
    expect(words).toBe(`a${'ü'.repeat(MOST_WORDS - 1)}`);
  });
});
