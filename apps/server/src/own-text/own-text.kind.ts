import type { Owned } from '../kernel/kind';
import { OwnText } from './own-text.entity';

/** Texts of events and tasks go along, so that what nobody here reads comes back, too. */
export const ownTexts: Owned = {
  entity: OwnText,
  exported: { name: 'own-texts', order: 'id', later: true },
};
