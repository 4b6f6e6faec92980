import { kindOf } from '../kernel/kind';
import { Block } from './block.entity';

export const blockKind = kindOf({
  entity: Block,
  exported: { name: 'blocks', order: 'id' },
  words: 'block with this id',
  told: true,
  undo: 'taken-back',
});
