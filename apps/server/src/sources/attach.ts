import type { DecidingTask } from '@corvun/contract';
import type { Work } from '../kernel/work';
import type { Incoming } from '../incoming/incoming.entity';
import type { Task } from '../tasks/task.entity';
import { Counterpart, Source } from './source.entity';
import { makeStep } from './steps';

const ofIncoming = (work: Work, incoming: Incoming) =>
  incoming.kind === 'card' && !incoming.conflict
    ? work.manager.findOneBy(Counterpart, { ownerId: work.ownerId, incomingId: incoming.id })
    : Promise.resolve(null);

/** What a card says of itself: where the user chose nothing else, deciding must not change the card. */
export async function cardDefaults(
  work: Work,
  incoming: Incoming,
): Promise<Pick<DecidingTask, 'deadline' | 'minutes' | 'fixed'>> {
  const counterpart = await ofIncoming(work, incoming);
  if (!counterpart) return {};
  const source = await work.manager.findOneBy(Source, { id: counterpart.sourceId });
  const { due, estimate } = counterpart.base;
  return {
    ...('due' in counterpart.base ? { deadline: due as string | null, fixed: source?.settings.due === 'fixed' } : {}),
    minutes: estimate as number | null,
  };
}

/** Ties a task to the card it came from, and makes the card's checklist its steps. */
export async function attachTask(work: Work, incoming: Incoming, task: Task): Promise<void> {
  const counterpart = await ofIncoming(work, incoming);
  if (!counterpart || counterpart.taskId) return;
  await work.update('counterpart', counterpart, { taskId: task.id });
  const items = await work.manager.findBy(Counterpart, { parentId: counterpart.id, gone: false });
  for (const item of items) await makeStep(work, item, task.id);
}
