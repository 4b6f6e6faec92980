import type { MigrationInterface, QueryRunner } from 'typeorm';
import { dropSearchTriggers } from './drop-search-triggers';

const OWNED = `"id" text PRIMARY KEY NOT NULL, "ownerId" text NOT NULL, "version" integer NOT NULL, "created" integer NOT NULL,
  "changed" integer NOT NULL`;
const OWNER = `FOREIGN KEY ("ownerId") REFERENCES "user" ("id") DEFERRABLE INITIALLY DEFERRED`;

/** What is settled for a day, and the guided passes. */
export class Passes27 implements MigrationInterface {
  name = 'Passes1764000000027';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`CREATE TABLE "day_plan" (${OWNED}, "day" text NOT NULL, "opened" integer, "closed" integer,
      "picks" text NOT NULL, ${OWNER})`);
    await runner.query('CREATE UNIQUE INDEX "day_plan_day" ON "day_plan" ("ownerId", "day")');
    await runner.query(`CREATE TABLE "pass" (${OWNED}, "kind" text NOT NULL, "day" text NOT NULL, "step" text NOT NULL,
      "state" text NOT NULL, "begun" integer NOT NULL, "ended" integer, "notes" text NOT NULL, ${OWNER})`);
    await runner.query('CREATE INDEX "pass_state" ON "pass" ("ownerId", "state")');
    await runner.query(`ALTER TABLE "user" ADD COLUMN "outlinedOn" text NOT NULL DEFAULT ''`);
  }

  async down(runner: QueryRunner): Promise<void> {
    await dropSearchTriggers(runner);
    await runner.query('DROP TABLE "pass"');
    await runner.query('DROP TABLE "day_plan"');
    await runner.query('ALTER TABLE "user" DROP COLUMN "outlinedOn"');
  }
}
