import { kindOf } from '../kernel/kind';
import { SettingsRow } from './settings.entity';

/** Their place in an export is beside the account: there is one row for each. */
export const settingsKind = kindOf({
  entity: SettingsRow,
  exported: { name: 'settings', order: 'id' },
  words: 'settings of this account',
  told: true,
  undo: 'taken-back',
});
