/** Two letters for a name that nothing else has: its beginning, its initials, or one with a digit. */
export function codeFor(name: string, taken: readonly string[]): string {
  const letters = name.toUpperCase().replace(/[^\p{L}\d ]/gu, '');
  const words = letters.split(' ').filter(Boolean);
  const joined = words.join('').padEnd(2, 'X');
  const tries = [
    joined.slice(0, 2),
    words
      .map((word) => word[0])
      .join('')
      .slice(0, 2),
    ...Array.from({ length: 9 }, (_, digit) => `${joined[0]}${digit + 1}`),
  ];
  return tries.find((code) => code.length === 2 && !taken.includes(code)) ?? joined.slice(0, 2);
}
