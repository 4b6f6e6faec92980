import { kindOf } from '../kernel/kind';
import { HeadsDown } from './heads-down.entity';
import { PresenceRow } from './presence.entity';
import { TimeEntry } from './time-entry.entity';

export const timeEntryKind = kindOf({
  entity: TimeEntry,
  exported: { name: 'time-entries', order: 'id', later: true },
  words: 'time spent with this id',
  told: true,
  undo: 'taken-back',
});

export const headsDownKind = kindOf({
  entity: HeadsDown,
  exported: { name: 'heads-down', order: 'id', later: true },
  words: 'task that is worked on heads-down',
  told: true,
  undo: 'taken-back',
});

export const presenceKind = kindOf({
  entity: PresenceRow,
  exported: { name: 'presences', order: 'id', later: true },
  words: 'presence',
  told: true,
  undo: 'taken-back',
});
