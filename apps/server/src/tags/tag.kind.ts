import { kindOf } from '../kernel/kind';
import { Tag } from './tag.entity';

export const tagKind = kindOf({
  entity: Tag,
  exported: { name: 'tags', order: 'id' },
  words: 'tag with this name',
  told: true,
  undo: 'taken-back',
});
