import { MINUTE, endOfDay, minutesBetween, sayMinutes, startOfDay } from '@corvun/core';
import { Between, In, MoreThan, type FindOperator } from 'typeorm';
import { Block } from '../blocks/block.entity';
import type { Work } from '../kernel/work';

/**
 * A task that is done early does not need the rest of its time: a block that is running ends now. Blocks to come stay where
 * they were, as done, and take no time any more.
 */
export async function endNow(work: Work, taskId: string): Promise<void> {
  const until = Math.ceil(work.now / MINUTE) * MINUTE;
  const blocks = await work.manager.findBy(Block, { ownerId: work.ownerId, taskId, endAt: MoreThan(until) });
  for (const block of blocks) if (block.startAt < work.now) await work.update('block', block, { endAt: until });
}

/** How much time the tasks that were finished gave back, for the sentence; empty where they gave nothing. */
export async function sayFreed(work: Work): Promise<string> {
  const steps = work.changes();
  const done = steps.filter(({ kind, before, after }) => kind === 'task' && before && after?.['status'] === 'COMPLETED');
  if (!done.length) return '';
  const coming = await work.manager.findBy(Block, {
    ownerId: work.ownerId,
    taskId: In(done.map(({ id }) => id)),
    startAt: MoreThan(work.now),
  });
  const cut = steps.flatMap(({ kind, before, after }) =>
    kind === 'block' && before && after && 'endAt' in after
      ? [minutesBetween(Number(after['endAt']), Number(before['endAt']))]
      : [],
  );
  const minutes = [...cut, ...coming.filter((one) => one.busy).map(({ startAt, endAt }) => minutesBetween(startAt, endAt))];
  const freed = minutes.reduce((sum, one) => sum + one, 0);
  return freed >= 1 ? `; ${sayMinutes(freed)} of your time is free again` : '';
}

async function giveBack(work: Work, taskIds: readonly string[], startAt: FindOperator<number>): Promise<number> {
  const blocks = await work.manager.findBy(Block, { ownerId: work.ownerId, taskId: In([...taskIds]), startAt });
  for (const block of blocks) await work.remove('block', block);
  return blocks.reduce((sum, block) => sum + minutesBetween(block.startAt, block.endAt), 0);
}

/** Gives back the time of tasks that has not begun. @returns its minutes */
export const freeComing = (work: Work, taskIds: readonly string[]): Promise<number> =>
  giveBack(work, taskIds, MoreThan(work.now));

/** Gives back the time of tasks on a day that has not begun. @returns its minutes */
export const freeOn = (work: Work, taskIds: readonly string[], day: string, zone: string): Promise<number> =>
  giveBack(work, taskIds, Between(Math.max(work.now, startOfDay(day, zone)), endOfDay(day, zone) - 1));
