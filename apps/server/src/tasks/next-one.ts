import { addDays, dayOf, instantOf, wallOf, type NextRound } from '@corvun/core';
import type { Row } from '../base/row';
import { Block } from '../blocks/block.entity';
import type { Work } from '../kernel/work';
import { lineGoesOn } from '../sources/goes-on';
import { stepsOf } from './change-task';
import { TaskFile } from './task-file.entity';
import { Task } from './task.entity';

const ROW = ['id', 'ownerId', 'version', 'created', 'changed'] as const;

/** What a row holds besides what every row has. */
function contentOf<T extends Row>(row: T): Omit<T, keyof Row> {
  const content: Partial<T> = { ...row };
  for (const column of ROW) delete content[column];
  return content as Omit<T, keyof Row>;
}

/** Makes the next of a repeating task: with its steps, its files, and the time it had on its day. @returns its blocks */
export async function nextOne(work: Work, task: Task, { later, passed: _, ...dates }: NextRound, zone: string): Promise<Block[]> {
  const fresh = { status: 'NEEDS-ACTION', completed: null, spent: 0, ...NOT_WAITING } as const;
  const next = await work.insert('task', {
    ...contentOf(task),
    ...fresh,
    ...dates,
    shelved: false,
    lookAgain: null,
    leftOpen: null,
    dayOrder: 0,
  });
  await lineGoesOn(work, task, next, zone);
  await copySteps(work, task.id, next.id, later);
  for (const file of await work.manager.findBy(TaskFile, { ownerId: work.ownerId, taskId: task.id }))
    await work.insert('taskFile', { ...contentOf(file), taskId: next.id });
  return placeAgain(work, await timesOf(work, task, zone), next.id, dates.repeatOn, zone);
}

const NOT_WAITING = {
  ...{ waitingOn: null, waitingSince: null, waitingUntil: null },
  ...{ nudged: null, waitingThread: null, answeredBy: null },
};

const moved = (time: string | null, later: number) => time && `${addDays(time.slice(0, 10), later)}${time.slice(10)}`;

const stepsUnder = (work: Work, parentId: string): Promise<Task[]> =>
  work.manager.find(Task, { where: { ownerId: work.ownerId, parentId }, order: { position: 'ASC' } });

/** A checklist comes back whole: what was done of it is open again, what was dropped stays dropped. */
async function copySteps(work: Work, from: string, to: string, later: number, seen = new Set([from])): Promise<void> {
  for (const step of await stepsUnder(work, from)) {
    if (step.status === 'CANCELLED' || seen.has(step.id)) continue;
    seen.add(step.id);
    const copy = await work.insert('task', {
      ...contentOf(step),
      ...openStep(step, later),
      ...NOT_WAITING,
      spent: 0,
      parentId: to,
    });
    await lineGoesOn(work, step, copy);
    await copySteps(work, step.id, copy.id, later, seen);
  }
}

const openStep = (step: Task, later: number) =>
  ({
    ...({ status: 'NEEDS-ACTION', completed: null, plannedWeek: null } as const),
    plannedDay: moved(step.plannedDay, later),
    deadline: moved(step.deadline, later),
    notBefore: moved(step.notBefore, later),
    reminder: moved(step.reminder, later),
  }) satisfies Partial<Task>;

/** Opens the steps of a task again, so many days later. */
export async function openAgain(work: Work, taskId: string, later: number): Promise<void> {
  for (const step of await stepsOf(work, [taskId], ({ status }) => status !== 'CANCELLED'))
    await work.update('task', step, openStep(step, later));
}

/** The blocks a task had on its day, as they were before this unit of work cut or removed any. */
export async function timesOf(work: Work, task: Task, zone: string): Promise<Block[]> {
  if (!task.plannedDay) return [];
  const steps = new Map(work.changes().flatMap((step) => (step.kind === 'block' ? [[step.id, step] as const] : [])));
  const was = (row: Block): Block => ({ ...row, ...steps.get(row.id)?.before });
  const rows = await work.manager.findBy(Block, { ownerId: work.ownerId, taskId: task.id, kind: 'work' });
  return rows.map(was).filter(({ startAt }) => dayOf(startAt, zone) === task.plannedDay);
}

/** The same times by the clock on another day. */
const timesOn = (block: Block, day: string, zone: string) => {
  const startAt = instantOf(`${day}T${wallOf(block.startAt, zone).slice(11)}`, zone);
  return { startAt, endAt: startAt + block.endAt - block.startAt };
};

async function placeAgain(work: Work, blocks: Block[], taskId: string, day: string, zone: string): Promise<Block[]> {
  const placed: Block[] = [];
  for (const block of blocks)
    placed.push(await work.insert('block', { ...contentOf(block), ...timesOn(block, day, zone), taskId }));
  return placed;
}

/** Moves the blocks that are still to come to another day; what was worked stays where it was. */
export async function movedTo(work: Work, blocks: Block[], taskId: string, day: string, zone: string): Promise<Block[]> {
  const begun = blocks.filter(({ startAt }) => startAt < work.now);
  const placed = await placeAgain(work, begun, taskId, day, zone);
  for (const block of blocks.filter((one) => !begun.includes(one)))
    placed.push(await work.update('block', block, timesOn(block, day, zone)));
  return placed;
}
