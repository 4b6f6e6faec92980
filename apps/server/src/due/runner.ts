import { Injectable, Logger, type BeforeApplicationShutdown, type OnApplicationBootstrap } from '@nestjs/common';
import { Clock } from '../base/clock';

/** Something to be done now. */
export interface Due {
  /** Of one key only one runs at a time. */
  key: string;
  /** Does it, and notes in the database that it is done or when it is due again. */
  run(signal: AbortSignal): Promise<void>;
}

/** A kind of things that are due at a time. When, stands in its own table: a kill loses nothing. */
export interface DueKind {
  name: string;
  /** How many of them run at the same time. */
  atOnce: number;
  /** What is due, the longest due first. */
  due(now: number, most: number): Promise<Due[]>;
}

interface Run {
  kind: string;
  stop: AbortController;
  finished: Promise<void>;
}

/** How often it is looked up what is due. Milliseconds. */
const EVERY = 500;
const FIRST_PAUSE = 15_000;
const LONGEST_PAUSE = 30 * 60_000;

/** Growing pauses after failures: 15 s, 30 s, 1 min … half an hour. @param asked seconds the other side asked for */
export const pauseAfter = (failures: number, asked: number | null = null): number =>
  asked === null ? Math.min(LONGEST_PAUSE, FIRST_PAUSE * 2 ** Math.max(0, failures - 1)) : asked * 1000;

/**
 * Does everything that is due at a time, for every kind in one loop. What is due is read from the database each time, so
 * that a clock that jumps brings a thing forward or back, and never twice.
 */
@Injectable()
export class Runner implements OnApplicationBootstrap, BeforeApplicationShutdown {
  private readonly logger = new Logger('due');
  private readonly kinds: DueKind[] = [];
  private readonly runs = new Map<string, Run>();
  private readonly waiting = new Map<string, (() => void)[]>();
  private timer: NodeJS.Timeout | undefined;
  private looking = false;
  private looked: Promise<void> = Promise.resolve();
  private ending = false;

  constructor(private readonly clock: Clock) {}

  register(kind: DueKind): void {
    this.kinds.push(kind);
  }

  onApplicationBootstrap(): void {
    this.timer = setInterval(() => this.soon(), EVERY);
    this.timer.unref();
  }

  /** What has begun is told to end, and waited for. */
  async beforeApplicationShutdown(): Promise<void> {
    this.ending = true;
    clearInterval(this.timer);
    for (const { stop } of this.runs.values()) stop.abort();
    // A look that is going on asks the database, which is closed after this.
    await this.looked;
    await Promise.all([...this.runs.values()].map(({ finished }) => finished));
  }

  /** Whether the server ends: what is stopped now goes on with the next start. */
  get isEnding(): boolean {
    return this.ending;
  }

  /** Looks at once what is due. */
  soon(): void {
    if (this.looking || this.ending) return;
    this.looking = true;
    this.looked = this.look()
      .catch((problem: unknown) => this.logger.error(problem))
      .finally(() => (this.looking = false));
  }

  /** Begins one now, due or not; false when its key is busy, or the server ends. */
  start(kind: string, due: Due): boolean {
    const { key } = due;
    if (this.ending || this.runs.has(key)) return false;
    const stop = new AbortController();
    const finished = Promise.resolve()
      .then(() => due.run(stop.signal))
      .then(
        () => true,
        (problem: unknown) => {
          this.logger.error(problem);
          return false;
        },
      )
      .then((well) => {
        this.runs.delete(key);
        const waiting = this.waiting.get(key) ?? [];
        this.waiting.delete(key);
        for (const resolve of waiting) resolve();
        // Another of its kind may wait for its place. What could not even note that it failed is due still: it waits a while.
        if (well) this.soon();
      });
    this.runs.set(key, { kind, stop, finished });
    return true;
  }

  isRunning(key: string): boolean {
    return this.runs.has(key);
  }

  /** Resolves when the next run of a key is over, also one that has not begun. */
  nextEnd(key: string): Promise<void> {
    return new Promise((resolve) => this.waiting.set(key, [...(this.waiting.get(key) ?? []), resolve]));
  }

  /** Ends what runs under a key, and waits for it. */
  async stop(key: string): Promise<void> {
    const run = this.runs.get(key);
    run?.stop.abort();
    await run?.finished;
  }

  private async look(): Promise<void> {
    for (const kind of this.kinds) {
      if (this.ending) return;
      const { name, atOnce } = kind;
      const free = () => atOnce - [...this.runs.values()].filter((run) => run.kind === name).length;
      if (free() <= 0) continue;
      // Those that run already are due, too, and come first.
      for (const one of await kind.due(this.clock.now(), atOnce * 2)) if (free() > 0) this.start(name, one);
    }
  }
}
