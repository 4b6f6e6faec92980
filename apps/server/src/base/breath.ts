/** Milliseconds after which something long lets everybody else have a turn. */
const TURN = 5;

/** Something that takes long on the thread that answers everybody: it stops for breath between two of its parts. */
export class Breath {
  private since = performance.now();

  /** Lets others have a turn where the last one is long ago. */
  async take(): Promise<void> {
    if (performance.now() - this.since < TURN) return;
    await new Promise((resolve) => setImmediate(resolve));
    this.since = performance.now();
  }
}
