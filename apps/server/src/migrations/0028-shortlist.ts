import type { MigrationInterface, QueryRunner } from 'typeorm';
import { dropSearchTriggers } from './drop-search-triggers';

/** Why something stayed open, and the shortlist. */
export class Shortlist28 implements MigrationInterface {
  name = 'Shortlist1764000000028';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query('ALTER TABLE "task" ADD COLUMN "leftOpen" text');
    await runner.query(`CREATE TABLE "shortlist" ("id" text PRIMARY KEY NOT NULL, "ownerId" text NOT NULL,
      "version" integer NOT NULL, "created" integer NOT NULL, "changed" integer NOT NULL, "picks" text NOT NULL,
      "projects" text NOT NULL, "quietUntil" text,
      FOREIGN KEY ("ownerId") REFERENCES "user" ("id") DEFERRABLE INITIALLY DEFERRED)`);
    await runner.query('CREATE UNIQUE INDEX "shortlist_owner" ON "shortlist" ("ownerId")');
    await runner.query('CREATE INDEX "pass_kind" ON "pass" ("ownerId", "kind", "state", "day")');
  }

  async down(runner: QueryRunner): Promise<void> {
    await dropSearchTriggers(runner);
    await runner.query('DROP INDEX "pass_kind"');
    await runner.query('DROP TABLE "shortlist"');
    await runner.query('ALTER TABLE "task" DROP COLUMN "leftOpen"');
  }
}
