import type { MigrationInterface, QueryRunner } from 'typeorm';
import { dropSearchTriggers } from './drop-search-triggers';

/** What of one calendar stands in another, too. */
export class Mirrors22 implements MigrationInterface {
  name = 'Mirrors1764000000022';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query('ALTER TABLE "event" ADD COLUMN "mirror" text');
    await runner.query(`CREATE INDEX "event_mirror" ON "event" ("ownerId", "mirror") WHERE "mirror" IS NOT NULL`);
    await runner.query(`CREATE TABLE "mirror" (
      "id" text PRIMARY KEY NOT NULL, "ownerId" text NOT NULL, "version" integer NOT NULL, "created" integer NOT NULL,
      "changed" integer NOT NULL, "fromId" text NOT NULL, "toId" text NOT NULL, "title" text NOT NULL,
      "category" text NOT NULL, "private" boolean NOT NULL, "since" integer NOT NULL,
      FOREIGN KEY ("fromId") REFERENCES "calendar" ("id") DEFERRABLE INITIALLY DEFERRED,
      FOREIGN KEY ("toId") REFERENCES "calendar" ("id") DEFERRABLE INITIALLY DEFERRED,
      FOREIGN KEY ("ownerId") REFERENCES "user" ("id") DEFERRABLE INITIALLY DEFERRED)`);
  }

  async down(runner: QueryRunner): Promise<void> {
    await dropSearchTriggers(runner);
    await runner.query('DROP TABLE "mirror"');
    await runner.query('DROP INDEX "event_mirror"');
    await runner.query('ALTER TABLE "event" DROP COLUMN "mirror"');
  }
}
