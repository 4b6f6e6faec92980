import { kindOf } from '../kernel/kind';
import { Person } from './person.entity';

export const personKind = kindOf({
  entity: Person,
  exported: { name: 'people', order: 'id' },
  words: 'person with this id',
  told: true,
  undo: 'taken-back',
  // Exports of before do not have it.
  in: (row) => ({ addresses: [], ...row }),
});
