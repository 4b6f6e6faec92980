import { kindOf } from '../kernel/kind';
import { TaskFile } from './task-file.entity';

export const taskFileKind = kindOf({
  entity: TaskFile,
  exported: { name: 'task_files', order: 'id', later: true },
  bytes: 'files',
  words: 'file with this id',
  told: true,
  undo: 'taken-back',
});
