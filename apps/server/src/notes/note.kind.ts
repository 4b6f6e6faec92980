import { kindOf } from '../kernel/kind';
import { Note } from './note.entity';

export const noteKind = kindOf({
  entity: Note,
  exported: { name: 'notes', order: 'id' },
  words: 'note with this id',
  told: true,
  undo: 'taken-back',
  find: {
    at: (row) => `${row}."created"`,
    watched: ['title', 'text'],
    columns: (row) => [`${row}."title"`, `''`, `${row}."text"`],
  },
});
