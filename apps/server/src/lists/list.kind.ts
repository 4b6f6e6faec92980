import { kindOf } from '../kernel/kind';
import { List } from './list.entity';

export const listKind = kindOf({
  entity: List,
  exported: { name: 'lists', order: 'id' },
  words: 'list with this id',
  told: true,
  undo: 'taken-back',
});
