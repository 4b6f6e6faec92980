import type { EntityManager } from 'typeorm';
import { Task } from './task.entity';

/** Steps in steps in steps: deeper ones are nobody’s plan. */
const DEEPEST = 30;

/**
 * A task is no step of itself, nor of one of its own steps: one that would be stands by itself, and so does one that lies
 * deeper than anybody plans. Other programs say whatever they like in RELATED-TO.
 */
export async function noRing(manager: EntityManager, { id, ownerId, parentId }: Task): Promise<Partial<Task>> {
  let above = parentId;
  for (let depth = 0; above; depth += 1) {
    if (above === id || depth >= DEEPEST) return { parentId: null };
    const row = await manager.findOne(Task, { where: { ownerId, id: above }, select: { id: true, parentId: true } });
    above = row?.parentId ?? null;
  }
  return {};
}
