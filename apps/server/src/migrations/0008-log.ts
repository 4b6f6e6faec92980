import type { MigrationInterface, QueryRunner } from 'typeorm';

type Side = Record<string, unknown> | null;
interface Change {
  kind: string;
  id: string;
  before: Side;
  after: Side;
}
interface OldRow {
  id: string;
  ownerId: string;
  action: string;
  destination: string | null;
  sentence: string;
  at: number;
  incomingIds: string;
  changes: string;
  state: string;
}

const AT_ONCE = 200;
const COUNTERS = ['version', 'changed'];

/** The log of everything that is written, by whomever; of a changed row it keeps the columns that changed. */
export class Log8 implements MigrationInterface {
  name = 'Log1764000000008';

  async up(runner: QueryRunner): Promise<void> {
    for (const statement of STATEMENTS) await runner.query(statement);
    for (let from = 0; ; from += AT_ONCE) {
      const rows = (await runner.query(
        `SELECT * FROM "decision" ORDER BY "ownerId", "seq" LIMIT ${AT_ONCE} OFFSET ${from}`,
      )) as OldRow[];
      for (const row of rows)
        await runner.query(
          `INSERT INTO "entry" ("id", "ownerId", "actor", "actorId", "action", "destination", "sentence", "at", "incomingIds", "changes", "shape", "state")
           VALUES (?, ?, 'user', ?, ?, ?, ?, ?, ?, ?, 1, ?)`,
          [
            row.id,
            row.ownerId,
            row.ownerId,
            row.action,
            row.destination,
            row.sentence,
            row.at,
            row.incomingIds,
            JSON.stringify((JSON.parse(row.changes) as Change[]).map(smaller)),
            row.state,
          ],
        );
      if (rows.length < AT_ONCE) break;
    }
    await runner.query('DROP TABLE "decision"');
  }

  /** @throws Error what was done since cannot be said in the old words */
  down(): Promise<void> {
    return Promise.reject(new Error('The log cannot be made what it was before; go back to the backup before this version.'));
  }
}

const same = (a: unknown, b: unknown) => JSON.stringify(a ?? null) === JSON.stringify(b ?? null);

/** Both sides of a changed row hold what differs and nothing else. */
function smaller({ kind, id, before, after }: Change): Change {
  if (!before || !after) return { kind, id, before, after };
  const columns = Object.keys(after).filter((column) => !COUNTERS.includes(column) && !same(before[column], after[column]));
  const of = (side: Record<string, unknown>) => Object.fromEntries(columns.map((column) => [column, side[column] ?? null]));
  return { kind, id, before: of(before), after: of(after) };
}

const STATEMENTS = [
  `CREATE TABLE "entry" (
    "revision" integer PRIMARY KEY AUTOINCREMENT NOT NULL,
    "id" text NOT NULL,
    "ownerId" text NOT NULL,
    "actor" text NOT NULL,
    "actorId" text,
    "action" text,
    "destination" text,
    "sentence" text NOT NULL,
    "at" integer NOT NULL,
    "incomingIds" text NOT NULL,
    "changes" text NOT NULL,
    "shape" integer NOT NULL,
    "state" text NOT NULL)`,
  `CREATE UNIQUE INDEX "entry_id" ON "entry" ("id")`,
  `CREATE INDEX "entry_owner" ON "entry" ("ownerId", "revision")`,
  `CREATE INDEX "entry_done" ON "entry" ("actorId", "revision") WHERE "state" = 'done'`,
  `CREATE INDEX "entry_undone" ON "entry" ("actorId", "revision") WHERE "state" = 'undone'`,
];
