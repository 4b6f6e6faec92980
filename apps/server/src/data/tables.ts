import type { EntityTarget, ObjectLiteral } from 'typeorm';
import { Block } from '../blocks/block.entity';
import { Calendar } from '../calendars/calendar.entity';
import { CaptureKey } from '../capture/capture-key.entity';
import { Decision, type RowChange } from '../decisions/decision.entity';
import { EventRow } from '../events/event.entity';
import { Incoming, StoredAttachment } from '../incoming/incoming.entity';
import { List } from '../lists/list.entity';
import { Note } from '../notes/note.entity';
import { PersonRow } from '../people/person.entity';
import { OutboxEntry } from '../sources/outbox.entity';
import { Counterpart, Source } from '../sources/source.entity';
import { Tag } from '../tags/tag.entity';
import { Task } from '../tasks/task.entity';

type Content = Record<string, unknown>;

/** One table of an export: what is written of a row, and what is made of it when it is read in again. */
export interface ExportedTable {
  name: string;
  entity: EntityTarget<ObjectLiteral>;
  order: string;
  /** A row without its owner, and without what holds only where it was. */
  out?: (row: Content) => Content;
  in?: (row: Content, ownerId: string) => Content;
}

/** What was under way stays where it was: two servers must not both send it. */
const NOT_SENT = 'It was waiting when this was exported, and was not sent from here.';

const withoutOwner = (row: unknown): unknown => {
  if (row === null || typeof row !== 'object') return row;
  const { ownerId: _ownerId, ...rest } = row as Content;
  return rest;
};

/** Every table that belongs to a user, in the order in which it can be read in. */
export const EXPORTED: ExportedTable[] = [
  { name: 'lists', entity: List, order: 'id' },
  { name: 'tags', entity: Tag, order: 'id' },
  { name: 'calendars', entity: Calendar, order: 'id' },
  { name: 'people', entity: PersonRow, order: 'id' },
  {
    name: 'sources',
    entity: Source,
    order: 'id',
    out: (row) => ({
      ...row,
      secret: null,
      state: 'paused',
      lastTry: null,
      lastSuccess: null,
      nextTry: 0,
      failures: 0,
      problem: '',
    }),
  },
  { name: 'incoming', entity: Incoming, order: 'id' },
  { name: 'attachments', entity: StoredAttachment, order: 'id' },
  { name: 'tasks', entity: Task, order: 'id' },
  { name: 'blocks', entity: Block, order: 'id' },
  { name: 'events', entity: EventRow, order: 'id' },
  { name: 'notes', entity: Note, order: 'id' },
  { name: 'counterparts', entity: Counterpart, order: 'id', out: inFiles, in: fromFiles },
  {
    name: 'outbox',
    entity: OutboxEntry,
    order: 'id',
    out: (row) => (row['state'] === 'waiting' ? { ...row, state: 'given-up', problem: NOT_SENT, nextTry: 0, attempts: 0 } : row),
  },
  {
    name: 'log',
    entity: Decision,
    order: 'seq',
    out: (row) => ({ ...row, changes: (row['changes'] as RowChange[]).map((one) => eachSide(one, withoutOwner)) }),
    in: (row, ownerId) => ({
      ...row,
      changes: (row['changes'] as RowChange[]).map((one) =>
        eachSide(one, (side) => (side === null ? null : { ...(side as Content), ownerId })),
      ),
    }),
  },
  { name: 'capture-keys', entity: CaptureKey, order: 'key' },
];

const eachSide = (change: RowChange, map: (side: unknown) => unknown) => ({
  ...change,
  before: map(change.before),
  after: map(change.after),
});

/** Counterparts of imported files name their owner in place of a source. */
function inFiles(row: Content): Content {
  return String(row['sourceId']).startsWith('import:') ? { ...row, sourceId: 'import:' } : row;
}

function fromFiles(row: Content, ownerId: string): Content {
  return row['sourceId'] === 'import:' ? { ...row, sourceId: `import:${ownerId}` } : row;
}
