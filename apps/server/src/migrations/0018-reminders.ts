import type { MigrationInterface, QueryRunner } from 'typeorm';
import { dropSearchTriggers } from './drop-search-triggers';

/** Alarms of events, what has been reminded of, and how far that has come for each account. */
export class Reminders18 implements MigrationInterface {
  name = 'Reminders1764000000018';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query('ALTER TABLE "event" ADD COLUMN "alarms" text');
    await runner.query('ALTER TABLE "user" ADD COLUMN "remindedUntil" integer NOT NULL DEFAULT 0');
    await runner.query(`CREATE TABLE "reminder" (
      "id" text PRIMARY KEY NOT NULL, "ownerId" text NOT NULL, "version" integer NOT NULL, "created" integer NOT NULL,
      "changed" integer NOT NULL, "kind" text NOT NULL, "thingId" text NOT NULL, "occurrence" text NOT NULL,
      "why" text NOT NULL, "at" integer NOT NULL, "dueAt" integer NOT NULL, "state" text NOT NULL, "shownAt" integer,
      FOREIGN KEY ("ownerId") REFERENCES "user" ("id") DEFERRABLE INITIALLY DEFERRED)`);
    await runner.query('CREATE UNIQUE INDEX "reminder_once" ON "reminder" ("ownerId", "kind", "thingId", "occurrence", "at")');
    await runner.query('CREATE INDEX "reminder_state" ON "reminder" ("ownerId", "state")');
    await runner.query(`CREATE INDEX "event_alarms" ON "event" ("ownerId") WHERE "alarms" IS NOT NULL`);
  }

  async down(runner: QueryRunner): Promise<void> {
    await dropSearchTriggers(runner);
    await runner.query('DROP TABLE "reminder"');
    await runner.query('DROP INDEX "event_alarms"');
    await runner.query('ALTER TABLE "event" DROP COLUMN "alarms"');
    await runner.query('ALTER TABLE "user" DROP COLUMN "remindedUntil"');
  }
}
