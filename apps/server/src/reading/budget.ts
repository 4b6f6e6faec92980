const MILLISECOND = 1_000_000n;
/** A clock that all threads share and nobody sets; milliseconds. */
const clock = (): number => Number(process.hrtime.bigint() / MILLISECOND);

/** Milliseconds after which a thread that has not begun is given up, too. */
const LONGEST_START = 60_000;

/**
 * How long a thread may take for one thing, in milliseconds from when it begins with it: that a busy machine starts it late
 * takes nothing of that.
 */
export class Budget {
  /** Goes to the thread with what it does; it says there when it begins. */
  readonly begun = new SharedArrayBuffer(8);
  private readonly asked = clock();
  private timer: NodeJS.Timeout;

  constructor(
    private readonly most: number,
    private readonly over: () => void,
  ) {
    this.timer = setTimeout(() => this.look(), most);
  }

  end(): void {
    clearTimeout(this.timer);
  }

  private look(): void {
    const begun = Number(Atomics.load(new BigInt64Array(this.begun), 0));
    const left = begun ? begun + this.most - clock() : Math.min(this.most, this.asked + LONGEST_START - clock());
    if (left <= 0) this.over();
    else this.timer = setTimeout(() => this.look(), left);
  }
}

export interface Budgeted {
  begun?: SharedArrayBuffer;
}

/** In the thread: what is done within a budget. */
export const budgeted =
  <J extends object, T>(read: (job: J) => T) =>
  (job: J & Budgeted): T => {
    if (job.begun) Atomics.store(new BigInt64Array(job.begun), 0, BigInt(clock()));
    return read(job);
  };
