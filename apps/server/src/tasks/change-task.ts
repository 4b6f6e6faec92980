import type { TaskFields } from '@corvun/contract';
import { In } from 'typeorm';
import type { Work } from '../kernel/work';
import type { List } from '../lists/list.entity';
import { keepTags } from '../tags/keep-tags';
import { endNow } from './free-time';
import { Task } from './task.entity';

const OPEN = ['NEEDS-ACTION', 'IN-PROCESS'];

/** The columns that fields say, and those that follow from them. @param list where the fields name one; undefined: they do not */
export function patchOf({ list: _list, steps: _steps, ...fields }: TaskFields, list: List | null | undefined): Partial<Task> {
  const patch: Partial<Task> = { ...fields };
  if (list !== undefined) patch.listId = list?.id ?? null;
  if (fields.title !== undefined) patch.title = fields.title.trim();
  if (fields.tags) patch.tags = [...new Set(fields.tags.map((tag) => tag.trim()).filter(Boolean))];
  if (fields.plannedDay) patch.plannedWeek = null;
  if (fields.plannedWeek) patch.plannedDay = null;
  if (fields.deadline === null) patch.deadlineFixed = false;
  if (fields.repeat === null) patch.repeatFrom = 'schedule';
  if (fields.waitingOn !== undefined) patch.waitingOn = fields.waitingOn?.trim() ? fields.waitingOn.trim() : null;
  if (fields.waitingOn !== undefined) Object.assign(patch, { nudged: null, waitingThread: null, answeredBy: null });
  if (patch.waitingOn === null) Object.assign(patch, { waitingSince: null, waitingUntil: null });
  if (fields.assignedTo !== undefined) patch.assignedTo = fields.assignedTo?.trim() ? fields.assignedTo.trim() : null;
  return patch;
}

/** Changes a task; its steps go along to another list, and where they are to be done or dropped with it. */
export async function changeTask(work: Work, task: Task, patch: Partial<Task>, steps: 'done' | 'leave' = 'leave'): Promise<Task> {
  const own = { ...patch, ...finishing(task, patch.status, work.now) };
  // A step that goes to another list leaves its task.
  if (task.parentId && own.parentId === undefined && own.listId !== undefined && own.listId !== task.listId) own.parentId = null;
  if (patch.waitingOn && patch.waitingOn !== task.waitingOn) own.waitingSince = work.now;
  if (patch.tags) await keepTags(work, patch.tags);
  const after = await work.update('task', task, own);
  if (after.status === 'COMPLETED' && task.status !== 'COMPLETED') await endNow(work, task.id);
  const moved = after.listId !== task.listId;
  const ended =
    after.status !== task.status && (after.status === 'CANCELLED' || (after.status === 'COMPLETED' && steps === 'done'));
  if (moved || ended)
    for (const step of await stepsOf(work, [task.id])) {
      const status =
        ended && OPEN.includes(step.status) ? { status: after.status, ...finishing(step, after.status, work.now) } : {};
      if (ended && after.status === 'COMPLETED') await endNow(work, step.id);
      await work.update('task', step, { ...(moved ? { listId: after.listId } : {}), ...status });
    }
  return after;
}

const finishing = (task: Task, status: Task['status'] | undefined, now: number): Partial<Task> =>
  status === undefined || status === task.status ? {} : { completed: status === 'COMPLETED' ? (task.completed ?? now) : null };

/** The steps of tasks, and theirs. @param wanted what is not wanted is left out with everything below it */
export async function stepsOf(work: Work, ids: readonly string[], wanted: (step: Task) => boolean = () => true): Promise<Task[]> {
  const seen = new Set(ids);
  const found: Task[] = [];
  for (let above = [...ids]; above.length;) {
    const below = await work.manager.findBy(Task, { ownerId: work.ownerId, parentId: In(above) });
    const fresh = below.filter((step) => !seen.has(step.id) && wanted(step));
    for (const { id } of fresh) seen.add(id);
    found.push(...fresh);
    above = fresh.map(({ id }) => id);
  }
  return found;
}
