/** Waits until `look` gives something; looks often, and says what it never came to. */
export async function until<T>(look: () => Promise<T | null | undefined | false>, what: string, within = 90_000): Promise<T> {
  const end = Date.now() + within;
  for (;;) {
    const seen = await look();
    if (seen) return seen;
    if (Date.now() > end) throw new Error(`It never came to this: ${what}`);
    await new Promise((resolve) => setTimeout(resolve, 40));
  }
}
