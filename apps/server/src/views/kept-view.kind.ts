import { kindOf } from '../kernel/kind';
import { KeptView } from './kept-view.entity';

export const viewKind = kindOf({
  entity: KeptView,
  exported: { name: 'views', order: 'id', later: true },
  words: 'view with this id',
  told: true,
  undo: 'taken-back',
});
