import { kindOf } from '../kernel/kind';
import { Calendar } from './calendar.entity';

export const calendarKind = kindOf({
  entity: Calendar,
  exported: { name: 'calendars', order: 'id' },
  words: 'calendar with this id',
  told: true,
  undo: 'taken-back',
});
