import type { MigrationInterface, QueryRunner } from 'typeorm';
import { dropSearchTriggers } from './drop-search-triggers';

const ROW = `"id" text PRIMARY KEY NOT NULL, "ownerId" text NOT NULL, "version" integer NOT NULL, "created" integer NOT NULL,
  "changed" integer NOT NULL`;
const OWNED = `FOREIGN KEY ("ownerId") REFERENCES "user" ("id") DEFERRABLE INITIALLY DEFERRED`;

/** Lines of one's own in a day, check-ins and their answers, and decisions by when they were made. */
export class Lookback30 implements MigrationInterface {
  name = 'Lookback1764300000030';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`CREATE TABLE "log_line" (${ROW}, "day" text NOT NULL, "time" text, "text" text NOT NULL, ${OWNED})`);
    await runner.query('CREATE INDEX "log_line_day" ON "log_line" ("ownerId", "day")');
    await runner.query(`CREATE TABLE "check_in" (${ROW}, "name" text NOT NULL, "weekdays" text NOT NULL, "time" text NOT NULL,
      "questions" text NOT NULL, "byMail" boolean NOT NULL, "paused" boolean NOT NULL, "position" integer NOT NULL,
      "askedOn" text NOT NULL, ${OWNED})`);
    await runner.query('CREATE INDEX "check_in_owner" ON "check_in" ("ownerId", "position")');
    await runner.query(`CREATE TABLE "check_in_answer" (${ROW}, "checkInId" text NOT NULL, "day" text NOT NULL, "who" text NOT NULL,
      "answers" text NOT NULL, "words" text NOT NULL, "answeredAt" integer NOT NULL, ${OWNED},
      FOREIGN KEY ("checkInId") REFERENCES "check_in" ("id") DEFERRABLE INITIALLY DEFERRED)`);
    await runner.query('CREATE UNIQUE INDEX "check_in_answer_day" ON "check_in_answer" ("checkInId", "day", "who")');
    await runner.query('CREATE INDEX "check_in_answer_of_day" ON "check_in_answer" ("ownerId", "day")');
    await runner.query('CREATE INDEX "incoming_decided" ON "incoming" ("ownerId", "decided") WHERE "decided" IS NOT NULL');
  }

  async down(runner: QueryRunner): Promise<void> {
    await dropSearchTriggers(runner);
    await runner.query('DROP INDEX "incoming_decided"');
    await runner.query('DROP TABLE "check_in_answer"');
    await runner.query('DROP TABLE "check_in"');
    await runner.query('DROP TABLE "log_line"');
  }
}
