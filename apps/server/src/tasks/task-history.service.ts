import { Injectable } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import type { HistoryLine } from '@corvun/contract';
import { dayOf, isoInZone, type Step, type Telling } from '@corvun/core';
import { In, Repository } from 'typeorm';
import type { User } from '../accounts/user.entity';
import { Clock } from '../base/clock';
import type { ActorKind } from '../kernel/entry.entity';
import { reshaped } from '../kernel/shapes';
import { List } from '../lists/list.entity';
import { Source } from '../sources/source.entity';
import { tellStep } from './tell-step';
import { Task } from './task.entity';

/** Lines of a history; what is older is left out. */
const MOST = 200;

/** An entry of the log, with those of its steps that are about the rows asked for, as JSON. */
interface Told {
  at: number;
  actor: ActorKind;
  actorId: string | null;
  action: string | null;
  sentence: string;
  shape: number;
  steps: string;
}

/** What belongs or belonged to a task, by id: itself, its blocks and its files. */
const OWN = `
  WITH "own" ("id") AS (
    SELECT ?1
    UNION SELECT "id" FROM "block" WHERE "taskId" = ?1
    UNION SELECT "id" FROM "task_file" WHERE "taskId" = ?1
    UNION SELECT json_extract("step"."value", '$.id') FROM "entry" e, json_each(e."changes") AS "step"
      WHERE e."revision" IN (SELECT "revision" FROM "entry_about" WHERE "rowId" = ?1)
        AND (json_extract("step"."value", '$.after.taskId') = ?1 OR json_extract("step"."value", '$.before.taskId') = ?1))`;
const LATEST = `${OWN}
  SELECT e."at", e."actor", e."actorId", e."action", e."sentence", e."shape",
    (SELECT json_group_array(json("step"."value")) FROM json_each(e."changes") AS "step"
      WHERE json_extract("step"."value", '$.id') IN (SELECT "id" FROM "own")) AS "steps"
  FROM "entry" e
  WHERE e."ownerId" = ?2
    AND e."revision" IN (SELECT "revision" FROM "entry_about" WHERE "rowId" IN (SELECT "id" FROM "own"))
  ORDER BY e."revision" DESC LIMIT ${MOST}`;

/** What happened to a task, from the log. */
@Injectable()
export class TaskHistory {
  constructor(
    @InjectRepository(Task) private readonly tasks: Repository<Task>,
    @InjectRepository(List) private readonly lists: Repository<List>,
    @InjectRepository(Source) private readonly sources: Repository<Source>,
    private readonly clock: Clock,
  ) {}

  /** Oldest first. */
  async of(user: User, taskId: string): Promise<HistoryLine[]> {
    const told = await this.tasks.query<Told[]>(LATEST, [taskId, user.id]);
    const telling = await this.telling(user, told);
    const names = await this.names(user, told);
    return told.reverse().flatMap((entry): HistoryLine[] => {
      const what = this.tell(entry, user, telling);
      const by = entry.actor === 'user' ? 'you' : (names.get(entry.actorId ?? '') ?? 'Corvun');
      return what ? [{ at: isoInZone(entry.at, user.zone), by, what }] : [];
    });
  }

  private tell(entry: Told, user: User, telling: Telling): string {
    const steps = reshaped(JSON.parse(entry.steps) as Step[], entry.shape);
    if (!steps.length) return entry.sentence;
    const words = steps.flatMap((step) => tellStep(step, entry.action, user.zone, telling)).join(', ');
    // What was taken back, or done again, has no words of its own in the log.
    const isTurn = entry.actor === 'user' && !entry.sentence && entry.action === null;
    return words && isTurn ? `turned back: ${words}` : words;
  }

  private async telling(user: User, told: readonly Told[]): Promise<Telling> {
    const lists = new Map((await this.lists.findBy({ ownerId: user.id })).map(({ id, name }) => [id, name]));
    const parents = told.flatMap(({ steps }) => [...steps.matchAll(/"parentId":"(\w+)"/g)].map((match) => match[1] ?? ''));
    const rows = parents.length ? await this.tasks.findBy({ ownerId: user.id, id: In([...new Set(parents)]) }) : [];
    const titles = new Map(rows.map(({ id, title }) => [id, title]));
    return {
      today: dayOf(this.clock.now(), user.zone),
      listName: (id) => lists.get(id) ?? '',
      taskTitle: (id) => titles.get(id) ?? '',
    };
  }

  private async names(user: User, told: readonly Told[]): Promise<Map<string, string>> {
    if (!told.some(({ actor }) => actor === 'source')) return new Map();
    return new Map((await this.sources.findBy({ ownerId: user.id })).map(({ id, name }) => [id, name]));
  }
}
