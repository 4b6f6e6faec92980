import { dayOf, isoInZone, minutesBetween } from '@corvun/core';
import { writeCsv } from '@corvun/formats';
import type { Task } from '../tasks/task.entity';
import type { TimeEntry } from './time-entry.entity';

const COLUMNS = ['day', 'start', 'end', 'minutes', 'task', 'list', 'tags', 'person', 'billable', 'how', 'note', 'id'];

/** Time that was spent as a table, a line each; what runs is not in it. @param lists their names by id */
export function timeCsv(
  entries: readonly TimeEntry[],
  tasks: ReadonlyMap<string, Task>,
  lists: ReadonlyMap<string, string>,
  zone: string,
): string {
  const over = entries.filter(({ endAt }) => endAt !== null);
  return writeCsv(
    COLUMNS,
    over.map(({ id, taskId, startAt, endAt, by, note }) => {
      const task = tasks.get(taskId);
      const end = endAt ?? startAt;
      return [
        ...[dayOf(startAt, zone), isoInZone(startAt, zone), isoInZone(end, zone), minutesBetween(startAt, end)],
        ...[task?.title ?? '', lists.get(task?.listId ?? '') ?? '', (task?.tags ?? []).join(' ')],
        ...[task?.assignedTo ?? task?.waitingOn ?? '', task?.billable ? 'yes' : 'no', by, note, id],
      ];
    }),
  );
}
