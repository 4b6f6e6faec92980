import type { SeriesPart } from './series';
import type { NewPlace } from './times';

/** How much of a series a command is about. */
export type SeriesScope = 'this' | 'following' | 'all';

/** A part as it is kept: the series itself, or a changed date of it. */
export interface StoredPart extends SeriesPart {
  uid: string;
  /** Goes up with every change that others have to hear of (RFC 5546, 2.1.4). */
  sequence: number;
}

interface Meant {
  scope: SeriesScope;
  /** The date that is meant, as it is named; needed where the event repeats, unless all of it is meant. */
  occurrence: string | null;
}

/** What is to be done with an event or a series. `fields` are those that say nothing of when it is. */
export type SeriesCommand<T> =
  | ({
      do: 'change';
      to?: NewPlace | undefined;
      /** How it repeats from now on, null for not at all; left out: as it did. */
      rule?: string | null | undefined;
      fields: Partial<Omit<T, keyof StoredPart>>;
    } & Meant)
  | ({ do: 'remove' } & Meant);

/** What has to be written for it. */
export interface SeriesEdit<T> {
  insert: { like: T; fields: Partial<T> }[];
  update: { part: T; fields: Partial<T> }[];
  remove: T[];
}

/** A command that cannot be carried out, with a sentence for the user. */
export class SeriesProblem extends Error {
  constructor(
    readonly code: 'which' | 'no-such-date' | 'rule',
    sentence: string,
  ) {
    super(sentence);
  }
}
