import type { MigrationInterface, QueryRunner } from 'typeorm';
import { dropSearchTriggers } from './drop-search-triggers';

const ROW = `"id" text PRIMARY KEY NOT NULL, "ownerId" text NOT NULL, "version" integer NOT NULL, "created" integer NOT NULL,
  "changed" integer NOT NULL`;
const OWNED = `FOREIGN KEY ("ownerId") REFERENCES "user" ("id") DEFERRABLE INITIALLY DEFERRED`;
const BELONGS = `${OWNED},
  FOREIGN KEY ("taskId") REFERENCES "task" ("id") DEFERRABLE INITIALLY DEFERRED`;

/** Time that was spent, heads-down, how one is for others, and lists whose work is billed. */
export class Doing29 implements MigrationInterface {
  name = 'Doing1764200000029';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`CREATE TABLE "time_entry" (${ROW}, "taskId" text NOT NULL, "startAt" integer NOT NULL, "endAt" integer,
      "by" text NOT NULL, "paused" boolean NOT NULL, "note" text NOT NULL, ${BELONGS})`);
    await runner.query('CREATE INDEX "time_window" ON "time_entry" ("ownerId", "startAt")');
    await runner.query('CREATE INDEX "time_task" ON "time_entry" ("taskId")');
    await runner.query('CREATE UNIQUE INDEX "time_running" ON "time_entry" ("ownerId") WHERE "endAt" IS NULL');
    // What was only a sum becomes one stretch that ends when the task was done, or changed last.
    await runner.query(`INSERT INTO "time_entry"
      SELECT lower(hex(randomblob(10))), "ownerId", 1, "changed", "changed", "id",
        COALESCE("completed", "changed") - "spent" * 60000, COALESCE("completed", "changed"), 'hand', 0, ''
      FROM "task" WHERE "spent" > 0`);
    await runner.query(`CREATE TABLE "heads_down" (${ROW}, "taskId" text NOT NULL, "rules" text NOT NULL, "begun" integer NOT NULL,
      "lastRow" integer NOT NULL, "phase" text NOT NULL, "fromAt" integer NOT NULL, "untilAt" integer, "round" integer NOT NULL, ${BELONGS})`);
    await runner.query('CREATE UNIQUE INDEX "heads_down_owner" ON "heads_down" ("ownerId")');
    await runner.query(`CREATE TABLE "presence" (${ROW}, "ownText" text NOT NULL, "ownUntil" integer, "shown" text NOT NULL,
      ${OWNED})`);
    await runner.query('CREATE UNIQUE INDEX "presence_owner" ON "presence" ("ownerId")');
    await runner.query('ALTER TABLE "source" ADD COLUMN "held" boolean NOT NULL DEFAULT 0');
    await runner.query('ALTER TABLE "list" ADD COLUMN "billable" boolean NOT NULL DEFAULT 0');
    await runner.query(`CREATE INDEX "task_begun" ON "task" ("ownerId") WHERE "status" = 'IN-PROCESS'`);
  }

  async down(runner: QueryRunner): Promise<void> {
    await dropSearchTriggers(runner);
    await runner.query('DROP INDEX "task_begun"');
    await runner.query('ALTER TABLE "list" DROP COLUMN "billable"');
    await runner.query('ALTER TABLE "source" DROP COLUMN "held"');
    await runner.query('DROP TABLE "presence"');
    await runner.query('DROP TABLE "heads_down"');
    await runner.query('DROP TABLE "time_entry"');
  }
}
