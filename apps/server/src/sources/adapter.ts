import type { SourceKind, SourceLook, SourceSettings } from '@corvun/contract';
import type { User } from '../accounts/user.entity';
import type { Work } from '../kernel/work';
import type { OutboxEntry } from './outbox.entity';
import type { Source } from './source.entity';

/** How to reach a source: its row, its secret in the clear, whose it is. */
export interface Reach {
  source: Source;
  secret: string;
  user: User;
  signal: AbortSignal;
  now: number;
}

/**
 * One piece of what a source has: written in one transaction together with the cursor after it, so that a crash
 * before the write brings it again, and one after it never does.
 */
export interface Step {
  write: (work: Work) => Promise<void>;
  cursor: Record<string, unknown>;
  done: number;
  total: number | null;
}

/** Speaks to one kind of source. */
export interface Adapter {
  readonly kind: SourceKind;
  /** Seconds between two looks. */
  readonly every: number;
  readonly defaults: SourceSettings;
  /** What there is, and what the present choice would bring in; writes nothing. @throws SourceProblem */
  look(reach: Reach): Promise<SourceLook>;
  /**
   * Makes what the chosen settings need here, and lets go of what they do not need any more; writes into the settings what
   * it made.
   * @param before what was chosen until now
   */
  prepare?(work: Work, source: Source, before: SourceSettings): Promise<void>;
  /** Everything after the cursor, piece by piece. @throws SourceProblem */
  steps(reach: Reach): AsyncGenerator<Step>;
  /** Sends one change back. What it must remember it writes itself. @throws SourceProblem */
  send(reach: Reach, entry: OutboxEntry): Promise<void>;
  /** What changed here while an entry was sent: noted anew, in the transaction in which it counts as sent. */
  again?(work: Work, source: Source, entry: OutboxEntry): Promise<void>;
  /** An entry was given up: what the source has will stand. */
  letStand?(work: Work, entry: OutboxEntry): Promise<void>;
  /** Takes back what the source shows because of us, before it goes. @throws SourceProblem */
  leave?(reach: Reach): Promise<void>;
  /** Tells at once when there is news, until the signal ends it. */
  listen?(reach: Reach, news: () => void): Promise<void>;
}
