import { kindOf } from '../kernel/kind';
import { Task } from './task.entity';

export const taskKind = kindOf({
  entity: Task,
  exported: { name: 'tasks', order: 'id' },
  words: 'task with this id',
  told: true,
  undo: 'taken-back',
  find: {
    at: (row) => `${row}."created"`,
    watched: ['title', 'notes', 'waitingOn'],
    columns: (row) => [`${row}."title"`, `COALESCE(${row}."waitingOn", '')`, `${row}."notes"`],
  },
});
