import type { Block } from './block.entity';
import type { Row } from '../base/row';

/** Time that is set aside for a task, as it begins: others see it as taken, and planning may move it. */
export const timeFor = (taskId: string, startAt: number, endAt: number): Omit<Block, keyof Row> => ({
  ...{ kind: 'work', taskId, title: '', startAt, endAt },
  ...{ busy: true, pinned: false, sites: null, besideId: null },
});
