import { backUp, backUpBeside, gatherStatistics, verify } from '@corvun/keeping';
import { parentPort, workerData } from 'node:worker_threads';

/** What a thread is to do with the data folder. */
export type KeepingTask =
  | { kind: 'backup'; data: string; file: string; withKeys: boolean }
  | { kind: 'beside'; data: string; name: string }
  | { kind: 'verify'; data: string }
  | { kind: 'statistics'; data: string };

/** What it says while it does, and at the end. */
export type KeepingSaid = { progress: [number, number | null] } | { done: unknown } | { failed: string };

/** Messages for progress are few: a hundred thousand files would be as many. */
const SAY_EVERY = 100;

const say = (message: KeepingSaid) => parentPort?.postMessage(message);

async function main(task: KeepingTask): Promise<void> {
  let said = 0;
  const progress = (done: number, total: number | null) => {
    if (Date.now() - said < SAY_EVERY && done !== total) return;
    said = Date.now();
    say({ progress: [done, total] });
  };
  try {
    if (task.kind === 'backup') say({ done: await backUp(task.data, task.file, { withKeys: task.withKeys, progress }) });
    else if (task.kind === 'beside') say({ done: await backUpBeside(task.data, task.name) });
    else if (task.kind === 'statistics') say({ done: gatherStatistics(task.data) });
    else say({ done: await verify(task.data, progress) });
  } catch (problem) {
    say({ failed: problem instanceof Error ? problem.message : String(problem) });
  }
}

void main(workerData as KeepingTask);
