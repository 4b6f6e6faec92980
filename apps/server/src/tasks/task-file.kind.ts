import { kindOf } from '../kernel/kind';
import { TaskFile } from './task-file.entity';

export const taskFileKind = kindOf({
  entity: TaskFile,
  exported: { name: 'task_files', order: 'id', later: true },
  bytes: 'files',
  words: 'file with this id',
  told: true,
  undo: 'taken-back',
  in: (row) => ({ words: '', ...row }),
  find: {
    at: (row) => `${row}."created"`,
    watched: ['name', 'words'],
    columns: (row) => [`${row}."name"`, `''`, `${row}."words"`],
  },
});
