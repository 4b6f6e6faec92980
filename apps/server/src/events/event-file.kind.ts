import { kindOf } from '../kernel/kind';
import { EventFile } from './event-file.entity';

export const eventFileKind = kindOf({
  entity: EventFile,
  exported: { name: 'event_files', order: 'id', later: true },
  bytes: 'files',
  words: 'file with this id',
  told: true,
  undo: 'taken-back',
  find: {
    at: (row) => `${row}."created"`,
    watched: ['name', 'words'],
    columns: (row) => [`${row}."name"`, `''`, `${row}."words"`],
  },
});
