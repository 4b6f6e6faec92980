import type { HistoryLine } from '@corvun/contract';
import { isoInZone } from '@corvun/core';
import type { EntityManager } from 'typeorm';
import type { User } from '../accounts/user.entity';

/** Lines of a history; what is older is left out. */
const MOST_LINES = 100;

interface Line {
  at: number;
  actor: string;
  actorId: string | null;
  sentence: string;
  /** JSON: what was done to its rows, where the log has no sentence: the fields of each, null of one that came or went. */
  steps: string | null;
}

interface Step {
  came: 0 | 1;
  went: 0 | 1;
  fields: string[];
}

const STEPS = `
  SELECT json_group_array(json_object(
    'came', json_type("step"."value", '$.before') = 'null',
    'went', json_type("step"."value", '$.after') = 'null',
    'fields', (SELECT json_group_array("field"."key") FROM json_each("step"."value", '$.after') AS "field")))
  FROM json_each(e."changes") AS "step"
  WHERE json_extract("step"."value", '$.id') IN (SELECT "value" FROM json_each(?2))`;

const LATEST = `
  SELECT e."at", e."actor", e."actorId", e."sentence", CASE WHEN e."sentence" = '' THEN (${STEPS}) END AS "steps"
  FROM "entry" e
  WHERE e."ownerId" = ?1 AND e."revision" IN
    (SELECT "revision" FROM "entry_about" WHERE "rowId" IN (SELECT "value" FROM json_each(?2)))
  ORDER BY e."revision" DESC LIMIT ${MOST_LINES}`;

const WORDS: Readonly<Record<string, string>> = {
  title: 'title',
  start: 'time',
  end: 'time',
  allDay: 'time',
  location: 'place',
  rrule: 'repeat',
  exdates: 'dates',
  attendees: 'guests',
  status: 'status',
  description: 'notes',
};

/** What happened to an event, oldest first. @param ids of its rows and files @param names of sources by id */
export async function eventHistory(
  manager: EntityManager,
  user: User,
  ids: readonly string[],
  names: ReadonlyMap<string, string>,
): Promise<HistoryLine[]> {
  const lines = await manager.query<Line[]>(LATEST, [user.id, JSON.stringify(ids)]);
  return lines.reverse().map(({ at, actor, actorId, sentence, steps }) => ({
    at: isoInZone(at, user.zone),
    by: actor === 'user' ? 'you' : (names.get(actorId ?? '') ?? 'Corvun'),
    what: sentence || (actor === 'user' ? 'turned back' : tell(JSON.parse(steps ?? '[]') as Step[])),
  }));
}

/** What came from elsewhere has no sentence of its own. */
function tell(steps: readonly Step[]): string {
  if (steps.length && steps.every(({ came }) => came)) return 'came in';
  if (steps.length && steps.every(({ went }) => went)) return 'taken away there';
  const words = new Set(steps.flatMap(({ fields }) => fields.map((field) => WORDS[field] ?? '')).filter(Boolean));
  return words.size ? `changed there: ${[...words].join(', ')}` : 'changed';
}
