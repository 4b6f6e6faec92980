import { kindOf } from '../kernel/kind';
import { PersonRow } from './person.entity';

export const personKind = kindOf({
  entity: PersonRow,
  exported: { name: 'people', order: 'id' },
  words: 'person with this id',
  told: true,
  undo: 'taken-back',
});
