import { Injectable } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import type { ProjectInfo } from '@corvun/contract';
import { dayOf, isoInZone, sayStalled } from '@corvun/core';
import { Repository } from 'typeorm';
import type { User } from '../accounts/user.entity';
import { Clock } from '../base/clock';
import { Task } from '../tasks/task.entity';
import { List } from './list.entity';

interface Counted {
  listId: string;
  done: number;
  open: number;
  minutesDone: number;
  minutesLeft: number;
  lastDone: number | null;
}

const OPEN = `"status" IN ('NEEDS-ACTION', 'IN-PROCESS')`;
const MINE = `"ownerId" = ?1 AND "parentId" IS NULL AND "listId" IN (SELECT "value" FROM json_each(?2))`;
const COUNTED = `
  SELECT "listId", SUM("status" = 'COMPLETED') AS "done", SUM(${OPEN}) AS "open",
    SUM(CASE WHEN "status" = 'COMPLETED' THEN COALESCE(NULLIF("spent", 0), "estimate", 0) ELSE 0 END) AS "minutesDone",
    SUM(CASE WHEN ${OPEN} THEN MAX(COALESCE("estimate", 0) - "spent", 0) ELSE 0 END) AS "minutesLeft",
    MAX(CASE WHEN "status" = 'COMPLETED' THEN "completed" END) AS "lastDone"
  FROM "task" WHERE ${MINE} GROUP BY "listId"`;
/** Of every list the first task that waits for nobody and for no day. With MIN the other columns are those of its row. */
const NEXT = `
  SELECT "listId", "id", "title", MIN("position") AS "position"
  FROM "task" WHERE ${MINE} AND ${OPEN} AND "shelved" = 0 AND "waitingOn" IS NULL AND "assignedTo" IS NULL
    AND ("notBefore" IS NULL OR "notBefore" <= ?3)
  GROUP BY "listId"`;

/** How far projects are. */
@Injectable()
export class Projects {
  constructor(
    @InjectRepository(Task) private readonly tasks: Repository<Task>,
    @InjectRepository(List) private readonly lists: Repository<List>,
    private readonly clock: Clock,
  ) {}

  /** Those that are not put away, in the order of their lists. */
  async all(user: User): Promise<ProjectInfo[]> {
    const where = { ownerId: user.id, project: true, archived: false };
    const projects = await this.lists.find({ where, order: { position: 'ASC', id: 'ASC' } });
    if (!projects.length) return [];
    const today = dayOf(this.clock.now(), user.zone);
    const ids = JSON.stringify(projects.map(({ id }) => id));
    const counted = await this.tasks.query<Counted[]>(COUNTED, [user.id, ids]);
    const next = await this.tasks.query<{ listId: string; id: string; title: string }[]>(NEXT, [user.id, ids, today]);
    return projects.map(({ id, created }) => {
      const found = counted.find(({ listId }) => listId === id);
      const first = next.find(({ listId }) => listId === id);
      const progress = {
        done: found?.done ?? 0,
        open: found?.open ?? 0,
        minutesDone: found?.minutesDone ?? 0,
        minutesLeft: found?.minutesLeft ?? 0,
        lastDone: found?.lastDone ? isoInZone(found.lastDone, user.zone) : null,
        next: first ? { id: first.id, title: first.title } : null,
      };
      return { listId: id, ...progress, stalled: sayStalled(progress, new Date(created).toISOString(), today, user.zone) };
    });
  }
}
