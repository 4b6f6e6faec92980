import type { Clock } from '../base/clock';
import type { StreamService } from '../stream/stream.service';
import type { Runner } from './runner';

const AFTER_FAILURE = 15_000;

interface Watched {
  /** Names it among what is due. */
  name: string;
  /** Kinds whose change can change what it comes to. */
  relevant: ReadonlySet<string>;
  /** Does it for one account. Gives when it is to be done again by itself; null: the account is gone. */
  work: (owner: string) => Promise<number | null>;
}

/** Something that is done for each account again: when what it rests on changed, and when its time comes. */
export class ForEachAccount {
  /** When to do it again, by account. */
  private readonly next = new Map<string, number>();

  constructor(
    private readonly what: Watched,
    private readonly clock: Clock,
    runner: Runner,
    stream: StreamService,
  ) {
    runner.register({
      ...{ name: what.name, atOnce: 1 },
      due: (now) =>
        Promise.resolve(
          [...this.next]
            .filter(([, at]) => at <= now)
            .map(([owner]) => ({ key: `${what.name}:${owner}`, run: () => this.run(owner) })),
        ),
    });
    stream.all().subscribe(({ ownerId, changes, behind }) => {
      if (behind ?? changes.some(({ kind }) => what.relevant.has(kind))) this.next.set(ownerId, 0);
    });
  }

  begin(owners: readonly string[]): void {
    for (const owner of owners) this.next.set(owner, 0);
  }

  /** Whether everything that changed until now is counted. */
  get isSettled(): boolean {
    const now = this.clock.now();
    return [...this.next.values()].every((at) => at > now && at < Infinity);
  }

  private async run(owner: string): Promise<void> {
    // A change that is told while this is counted brings it here again.
    this.next.set(owner, Infinity);
    try {
      const next = await this.what.work(owner);
      if (this.next.get(owner) !== Infinity) return;
      if (next === null) this.next.delete(owner);
      else this.next.set(owner, next);
    } catch (problem) {
      this.next.set(owner, this.clock.now() + AFTER_FAILURE);
      throw problem;
    }
  }
}
