import { kindOf } from '../kernel/kind';
import { Reminder } from './reminder.entity';

export const reminderKind = kindOf({
  entity: Reminder,
  exported: { name: 'reminders', order: 'id', later: true },
  words: 'reminder with this id',
  told: true,
  undo: 'taken-back',
});
