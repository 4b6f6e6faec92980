import type { IncomingLine, Undecided } from '@corvun/contract';

/** Decides an incoming: the one that is open, where none is named. */
export type Decide = (input: Undecided, of?: IncomingLine) => Promise<void>;
