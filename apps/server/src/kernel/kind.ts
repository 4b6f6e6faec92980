import type { EntityManager, EntityTarget, ObjectLiteral } from 'typeorm';

export type Content = Record<string, unknown>;

/** A table whose rows belong to users, and how it stands in an export. */
export interface Owned {
  entity: EntityTarget<ObjectLiteral>;
  /** Its name in an export, and the column in whose order it is written. `later`: exports of before do not have it. */
  exported: { name: string; order: string; later?: boolean };
  /** The folder of an export in which the files lie that its rows name by `hash`. */
  bytes?: 'attachments' | 'files';
  /** Which of a user's rows go along; all when absent. */
  only?: Content;
  /** A row without what holds only where it was. */
  out?: (row: Content) => Content;
  in?: (row: Content, ownerId: string) => Content;
  find?: Searchable;
}

/** What of a kind can be found: its date, the columns whose change counts, and what stands where in the index. */
export interface Searchable {
  /** SQL for its instant, of a row. */
  at: (row: string) => string;
  watched: readonly string[];
  /** SQL over a row: its title, who is in it, and its text. */
  columns: (row: string) => readonly [title: string, people: string, body: string];
}

/** A kind of object, described once, beside its entity; see docs/how-to-add-an-object.md. */
export interface KindOf<Entity extends ObjectLiteral> extends Owned {
  entity: new () => Entity;
  /** What it is called where one is not there: “There is no task with this id.” */
  words: string;
  /** Whether windows are told that one changed; what has no place of its own is not. */
  told: boolean;
  /** What of a row cannot stand as it is about to be written, put right: whoever writes it, and whichever way. */
  settle?: (manager: EntityManager, row: Entity) => Promise<Partial<Entity>>;
  /** What undo does with it: `taken-back`, or `held-back` where what went out cannot be called back. */
  undo: 'taken-back' | 'held-back';
  /** Whether what goes out is on its way already, though it still waits. */
  begun?: (row: object) => boolean;
  /** What of it cannot be called back once it went out, as words: `the mail has gone out`; empty where it is put right there. */
  lasting?: (row: object) => string;
}

/** Declares a kind; the type of its rows stays known. */
export const kindOf = <Entity extends ObjectLiteral>(kind: KindOf<Entity>): KindOf<Entity> => kind;
