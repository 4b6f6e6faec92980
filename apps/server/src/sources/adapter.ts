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
  /** Everything after the cursor, piece by piece. @throws SourceProblem */
  steps(reach: Reach): AsyncGenerator<Step>;
  /** Sends one change back. What it must remember it writes itself. @throws SourceProblem */
  send(reach: Reach, entry: OutboxEntry): Promise<void>;
  /** Tells at once when there is news, until the signal ends it. */
  listen?(reach: Reach, news: () => void): Promise<void>;
}
