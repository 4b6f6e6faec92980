import { kindOf, type Content, type Owned } from '../kernel/kind';
import { Remote } from './account/remote.entity';
import { isBegun, lastingOf, OutboxEntry } from './outbox.entity';
import { Counterpart, Source } from './source.entity';

/** What was under way stays where it was: two servers must not both send it. */
const NOT_SENT = 'It was waiting when this was exported, and was not sent from here.';

export const outboxKind = kindOf({
  entity: OutboxEntry,
  exported: { name: 'outbox', order: 'id' },
  words: 'entry in the outbox with this id',
  told: true,
  undo: 'held-back',
  begun: isBegun,
  lasting: lastingOf,
  out: (row) => (row['state'] === 'waiting' ? { ...row, state: 'given-up', problem: NOT_SENT, nextTry: 0, attempts: 0 } : row),
});

export const counterpartKind = kindOf({
  entity: Counterpart,
  exported: { name: 'counterparts', order: 'id' },
  words: 'counterpart with this id',
  told: false,
  undo: 'taken-back',
  out: inFiles,
  in: fromFiles,
});

/** A source comes back paused and without its password: it is another server that would look into it. */
export const sources: Owned = {
  entity: Source,
  exported: { name: 'sources', order: 'id' },
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
};

/** What an account has, too: connected again, nothing is there twice. */
export const remotes: Owned = {
  entity: Remote,
  exported: { name: 'remotes', order: 'id', later: true },
  // As it is there it is read again, with what nobody here knows of it.
  out: (row) => ({ ...row, etag: null }),
};

/** Counterparts of imported files name their owner in place of a source. */
function inFiles(row: Content): Content {
  return String(row['sourceId']).startsWith('import:') ? { ...row, sourceId: 'import:' } : row;
}

function fromFiles(row: Content, ownerId: string): Content {
  return row['sourceId'] === 'import:' ? { ...row, sourceId: `import:${ownerId}` } : row;
}
