import { blankTask } from '../decisions/blanks';
import type { Work } from '../kernel/work';
import type { Counterpart } from './source.entity';

/** Makes the task of a checklist item, below the task of its card. */
export async function makeStep(work: Work, item: Counterpart, parentId: string): Promise<void> {
  const task = await work.insert('task', {
    ...blankTask(),
    title: String(item.base['title'] ?? ''),
    parentId,
    status: item.base['done'] ? 'COMPLETED' : 'NEEDS-ACTION',
    completed: item.base['done'] ? work.now : null,
    position: work.now + Number(item.place['at'] ?? 0),
  });
  await work.update('counterpart', item, { taskId: task.id });
}
