import type { Owned } from '../kernel/kind';
import { kindOf } from '../kernel/kind';
import { Incoming, StoredAttachment } from './incoming.entity';

export const incomingKind = kindOf({
  entity: Incoming,
  exported: { name: 'incoming', order: 'id' },
  words: 'incoming thing with this id',
  told: true,
  undo: 'taken-back',
  find: {
    at: (row) => `${row}."received"`,
    watched: ['subject', 'text', 'senderName', 'senderAddress'],
    columns: (row) => [`${row}."subject"`, `${row}."senderName" || ' ' || ${row}."senderAddress"`, `${row}."text"`],
  },
});

export const attachments: Owned = {
  entity: StoredAttachment,
  exported: { name: 'attachments', order: 'id' },
  bytes: 'attachments',
  in: (row) => ({ words: '', ...row }),
  find: {
    at: (row) => `(SELECT "received" FROM "incoming" WHERE "id" = ${row}."incomingId")`,
    watched: ['name', 'words'],
    columns: (row) => [`${row}."name"`, `''`, `${row}."words"`],
  },
};
