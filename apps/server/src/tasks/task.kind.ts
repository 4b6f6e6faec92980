import { kindOf } from '../kernel/kind';
import { noRing } from './no-ring';
import { Task } from './task.entity';

export const taskKind = kindOf({
  entity: Task,
  exported: { name: 'tasks', order: 'id' },
  words: 'task with this id',
  told: true,
  undo: 'taken-back',
  settle: noRing,
  find: {
    at: (row) => `${row}."created"`,
    watched: ['title', 'notes', 'waitingOn'],
    columns: (row) => [`${row}."title"`, `COALESCE(${row}."waitingOn", '')`, `${row}."notes"`],
  },
});
