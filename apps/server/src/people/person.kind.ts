import { kindOf } from '../kernel/kind';
import { Person } from './person.entity';

export const personKind = kindOf({
  entity: Person,
  exported: { name: 'people', order: 'id' },
  words: 'person with this id',
  told: true,
  undo: 'taken-back',
  find: {
    at: (row) => `${row}."created"`,
    watched: ['name', 'address', 'addresses', 'organisation', 'note'],
    columns: (row) => [
      `${row}."name"`,
      `${row}."address" || ' ' || ${row}."addresses"`,
      `${row}."organisation" || ' ' || ${row}."note"`,
    ],
  },
  // Exports of before do not have it.
  in: (row) => ({ addresses: [], ...row }),
});
