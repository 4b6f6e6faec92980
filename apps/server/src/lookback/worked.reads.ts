import { Injectable } from '@nestjs/common';
import { InjectDataSource } from '@nestjs/typeorm';
import { MINUTE, byDay, dayOf, tellSpentOn, type LogEntry } from '@corvun/core';
import { DataSource } from 'typeorm';
import type { User } from '../accounts/user.entity';
import { among, type OnDay, type Scope } from './log-scope';

interface TaskRow {
  id: string;
  title: string;
  parentId: string | null;
  parentTitle: string | null;
  listId: string | null;
  estimate: number | null;
  spent: number;
  status: string;
  completed: number | null;
}

interface SpentRow extends TaskRow {
  startAt: number;
  endAt: number;
}

const TASK = `t."id", t."title", t."parentId", p."title" AS "parentTitle", t."listId", t."estimate", t."spent", t."status", t."completed"`;
const PARENT = `LEFT JOIN "task" p ON p."id" = t."parentId"`;

/** What was finished, and what time was spent on. */
@Injectable()
export class WorkedReads {
  constructor(@InjectDataSource() private readonly source: DataSource) {}

  async within(user: User, scope: Scope): Promise<OnDay[]> {
    const only = among(scope, 'task');
    if (!only) return [];
    const { start, end } = scope.window;
    const [some, values] = only.ids ? [`AND t."id" IN (SELECT value FROM json_each(?))`, [JSON.stringify(only.ids)]] : ['', []];
    const [done, spent] = await Promise.all([
      this.source.query<TaskRow[]>(
        `SELECT ${TASK} FROM "task" t ${PARENT}
         WHERE t."ownerId" = ? AND t."completed" >= ? AND t."completed" < ? AND t."status" = 'COMPLETED' ${some}`,
        [user.id, start, end, ...values],
      ),
      this.source.query<SpentRow[]>(
        `SELECT e."startAt", e."endAt", ${TASK} FROM "time_entry" e JOIN "task" t ON t."id" = e."taskId" ${PARENT}
         WHERE e."ownerId" = ? AND e."startAt" < ? AND e."endAt" > ? ${some} ORDER BY e."startAt", e."id"`,
        [user.id, end, start, ...values],
      ),
    ]);
    return told(user, scope, done, spent);
  }
}

/** A task on a day, with what was spent on it then. */
interface Worked {
  day: string;
  task: TaskRow;
  from: number | null;
  spent: number;
}

function told(user: User, { window }: Scope, done: readonly TaskRow[], spent: readonly SpentRow[]): OnDay[] {
  const worked = new Map<string, Worked>();
  const on = (day: string, task: TaskRow) => {
    const key = `${day} ${task.id}`;
    const known = worked.get(key) ?? { day, task, from: null, spent: 0 };
    worked.set(key, known);
    return known;
  };
  for (const row of spent)
    for (const { day, start, end } of byDay(Math.max(row.startAt, window.start), Math.min(row.endAt, window.end), user.zone)) {
      const one = on(day, row);
      one.from ??= start;
      one.spent += end - start;
    }
  for (const task of done) on(dayOf(task.completed ?? 0, user.zone), task);
  const isDone = ({ day, task }: Worked) =>
    task.status === 'COMPLETED' && task.completed !== null && dayOf(task.completed, user.zone) === day;
  // A step that was done with its task is told with it.
  const within = ({ day, task }: Worked) => {
    const parent = task.parentId === null ? undefined : worked.get(`${day} ${task.parentId}`);
    return parent && isDone(parent) ? parent : undefined;
  };
  const all = [...worked.values()];
  const says = (one: Worked) =>
    tellSpentOn({
      ...{ done: isDone(one), spent: Math.round(one.spent / MINUTE), took: one.task.spent, estimate: one.task.estimate },
    });
  return all
    .filter((one) => !within(one))
    .map((one) => ({
      day: one.day,
      entry: {
        ...{ kind: isDone(one) ? 'done' : 'spent', id: one.task.id, at: one.from ?? one.task.completed },
        ...{ title: one.task.title, listId: one.task.listId, calendarId: null },
        text: [says(one), one.task.parentTitle && `a step of “${one.task.parentTitle}”`].filter(Boolean).join(', '),
        thing: { kind: 'task', id: one.task.id, occurrence: null },
        parts: all
          .filter((step) => within(step) === one)
          .map((step) => ({
            ...{ title: step.task.title, text: says(step) },
            thing: { kind: 'task', id: step.task.id, occurrence: null },
          })),
      } satisfies LogEntry,
    }));
}
