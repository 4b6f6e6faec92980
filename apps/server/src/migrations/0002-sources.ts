import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Sources, the outbox, counterparts, imports; and what incoming things and events from sources hold in addition. */
export class Sources2 implements MigrationInterface {
  name = 'Sources1764000000002';

  async up(runner: QueryRunner): Promise<void> {
    for (const [table, columns] of Object.entries(COLUMNS))
      for (const column of columns) await runner.query(`ALTER TABLE "${table}" ADD COLUMN ${column}`);
    for (const statement of STATEMENTS) await runner.query(statement);
  }

  async down(runner: QueryRunner): Promise<void> {
    for (const table of ['import_run', 'outbox', 'source', 'counterpart']) await runner.query(`DROP TABLE "${table}"`);
    for (const index of ['incoming_source', 'incoming_joined', 'incoming_message', 'incoming_link'])
      await runner.query(`DROP INDEX "${index}"`);
    for (const [table, columns] of Object.entries(COLUMNS))
      for (const column of columns) await runner.query(`ALTER TABLE "${table}" DROP COLUMN ${column.split(' ')[0]}`);
  }
}

const COLUMNS: Record<string, string[]> = {
  calendar: ['"sourceId" text'],
  event: ['"partstat" text', `"stamp" integer NOT NULL DEFAULT (0)`, `"link" text NOT NULL DEFAULT ('')`],
  incoming: [
    '"sourceId" text',
    `"link" text NOT NULL DEFAULT ('')`,
    `"note" text NOT NULL DEFAULT ('')`,
    '"invitation" text',
    '"context" text',
    '"conflict" text',
    '"joinedTo" text',
  ],
};

const ROW = `"id" text PRIMARY KEY NOT NULL,
    "ownerId" text NOT NULL,
    "version" integer NOT NULL,
    "created" integer NOT NULL,
    "changed" integer NOT NULL`;

const STATEMENTS = [
  `CREATE TABLE "import_run" (
    ${ROW},
    "name" text NOT NULL,
    "kind" text NOT NULL,
    "path" text NOT NULL,
    "size" integer NOT NULL,
    "state" text NOT NULL,
    "done" integer NOT NULL,
    "taken" integer NOT NULL,
    "updated" integer NOT NULL,
    "known" integer NOT NULL,
    "refusedCount" integer NOT NULL,
    "refused" text NOT NULL,
    "problem" text NOT NULL,
    "columns" text)`,
  `CREATE TABLE "outbox" (
    ${ROW},
    "sourceId" text,
    "counterpartId" text,
    "kind" text NOT NULL,
    "what" text NOT NULL,
    "payload" text NOT NULL,
    "state" text NOT NULL,
    "attempts" integer NOT NULL,
    "nextTry" integer NOT NULL,
    "problem" text NOT NULL,
    "sentAt" integer)`,
  `CREATE INDEX "outbox_counterpart" ON "outbox" ("counterpartId", "state")`,
  `CREATE INDEX "outbox_due" ON "outbox" ("state", "nextTry")`,
  `CREATE TABLE "source" (
    ${ROW},
    "kind" text NOT NULL,
    "name" text NOT NULL,
    "address" text NOT NULL,
    "account" text NOT NULL,
    "secret" text,
    "settings" text NOT NULL,
    "cursor" text NOT NULL,
    "state" text NOT NULL,
    "calendarId" text,
    "every" integer NOT NULL,
    "lastTry" integer,
    "lastSuccess" integer,
    "nextTry" integer NOT NULL,
    "failures" integer NOT NULL,
    "problem" text NOT NULL,
    "position" integer NOT NULL)`,
  `CREATE TABLE "counterpart" (
    ${ROW},
    "sourceId" text NOT NULL,
    "externalId" text NOT NULL,
    "parentId" text,
    "incomingId" text,
    "taskId" text,
    "base" text NOT NULL,
    "place" text NOT NULL,
    "gone" boolean NOT NULL)`,
  `CREATE INDEX "counterpart_incoming" ON "counterpart" ("incomingId")`,
  `CREATE INDEX "counterpart_task" ON "counterpart" ("taskId")`,
  `CREATE UNIQUE INDEX "counterpart_external" ON "counterpart" ("sourceId", "externalId")`,
  `CREATE INDEX "incoming_source" ON "incoming" ("sourceId")`,
  `CREATE INDEX "incoming_joined" ON "incoming" ("joinedTo")`,
  `CREATE INDEX "incoming_message" ON "incoming" ("ownerId", "externalId")`,
  `CREATE INDEX "incoming_link" ON "incoming" ("ownerId", "link")`,
];
