export type Mood = 'well' | 'html' | 'half' | 'full' | 'deaf' | 'silent';
export const MOODS: readonly Mood[] = ['well', 'html', 'half', 'full', 'deaf', 'silent'];

export interface Kept {
  text: string;
  etag: string;
  /** The number of the change after which it is as it is. */
  at: number;
}

export interface Collection {
  name: string;
  component: 'VEVENT' | 'VTODO';
  objects: Record<string, Kept>;
  gone: Record<string, number>;
  /** Mail address of somebody else whose it is: only when they are busy is told. */
  of?: string;
  /** Not even that any more. */
  untold?: boolean;
}

export interface Account {
  collections: Record<string, Collection>;
  /** Counts changes; the token of RFC 6578. */
  changes: number;
  mood: Mood;
}
