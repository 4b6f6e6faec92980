/** Middle value of some measurements. */
export function median(values: number[]): number {
  const sorted = [...values].sort((a, b) => a - b);
  return sorted[Math.floor(sorted.length / 2)] ?? Number.NaN;
}

/** Prints one ratio: how many times the reference something takes. Below the given bound is what is aimed at. */
export function ratio(name: string, ours: number, reference: number, aim: number, unit = 'ms'): void {
  const value = ours / reference;
  process.stdout.write(
    `${name}: ${value.toFixed(2)} × the reference (aim: below ${aim}) — ${ours.toFixed(2)} ${unit} against ${reference.toFixed(2)} ${unit}\n`,
  );
}

export async function timed(work: () => unknown): Promise<number> {
  const start = performance.now();
  await work();
  return performance.now() - start;
}
