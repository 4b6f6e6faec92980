import { kindOf } from '../kernel/kind';
import { Mirror } from './mirror.entity';

export const mirrorKind = kindOf({
  entity: Mirror,
  exported: { name: 'mirrors', order: 'id', later: true },
  words: 'mirror with this id',
  told: true,
  undo: 'taken-back',
});
