import type { Changed, ChangedByRequest, StreamChange } from '@corvun/contract';

type Apply = (changes: readonly StreamChange[]) => void;

/** Milliseconds for which what the stream tells waits for the answer to a request of this window. */
const PATIENCE = 2000;

/**
 * What this window knows of the log. Each change is applied once, whether the answer to a request brings it first or the
 * stream; what the stream tells of this window's own changes only confirms them.
 */
export class Ledger {
  /** Changes that an answer brought and the stream has not told yet. */
  private readonly own = new Set<number>();
  private waiting: Changed[] = [];
  private open = 0;
  private last = 0;

  constructor(
    private readonly later: (work: () => void, time: number) => void = (work, time) => void setTimeout(work, time),
    private apply: Apply = () => undefined,
  ) {}

  /** Says what is to be done with changes, and up to which entry of the log everything is known already. */
  begin(apply: Apply, revision: number): void {
    this.apply = apply;
    this.last = Math.max(this.last, revision);
  }

  /** The number up to which everything was heard. */
  get revision(): number {
    return this.last;
  }

  /**
   * A request that changes something is on its way: until it is answered nothing is applied that may be its own echo.
   * @returns to be called with what the answer carries
   */
  asking(): (changed?: ChangedByRequest) => void {
    this.open += 1;
    let over = false;
    const end = () => {
      if (over) return;
      over = true;
      this.open -= 1;
      this.drain();
    };
    // An answer that does not come must not keep other windows' changes from this one.
    this.later(end, PATIENCE);
    return (changed) => {
      if (changed) this.answered(changed);
      end();
    };
  }

  private answered({ revisions, changes }: ChangedByRequest): void {
    const fresh = revisions.filter((revision) => revision > this.last);
    for (const revision of fresh) this.own.add(revision);
    if (fresh.length && changes.length) this.apply(changes);
  }

  /** The stream told something. */
  heard(changed: Changed): void {
    this.waiting.push(changed);
    if (this.open === 0) this.drain();
  }

  /** Too much happened to be told: everything up to `revision` is loaded anew. */
  skipTo(revision: number): void {
    this.own.clear();
    this.waiting = [];
    this.last = Math.max(this.last, revision);
  }

  private drain(): void {
    if (this.open > 0) return;
    const told = this.waiting;
    this.waiting = [];
    const changes = told.flatMap((one) => (this.isNew(one) ? one.changes : []));
    if (changes.length) this.apply(changes);
  }

  private isNew({ revision }: Changed): boolean {
    if (revision === null) return true;
    if (revision <= this.last) return false;
    this.last = revision;
    return !this.own.delete(revision);
  }
}

/** The one of this window. */
export const ledger = new Ledger();
