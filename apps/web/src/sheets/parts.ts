import type { TaskFull } from '@corvun/contract';
import type { Part, Saying } from './part';
import { PARTS_WHAT } from './partsWhat';
import { PARTS_WHEN } from './partsWhen';

export type { Choice, Part, Saying } from './part';

/** Every part of the sentence of a task. */
const PARTS = { ...PARTS_WHAT, ...PARTS_WHEN };

export type PartName = keyof typeof PARTS;

/** A part as it is for a task. */
export const partOf = (name: PartName, task: TaskFull, saying: Saying): Part => PARTS[name](task, saying);
