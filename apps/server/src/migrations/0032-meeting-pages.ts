import type { MigrationInterface, QueryRunner } from 'typeorm';
import { dropSearchTriggers } from './drop-search-triggers';

/** Pages of notes that belong to a meeting, or to one date of it. */
export class MeetingPages32 implements MigrationInterface {
  name = 'MeetingPages1764500000032';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query('ALTER TABLE "note" ADD COLUMN "eventUid" text');
    await runner.query(`ALTER TABLE "note" ADD COLUMN "eventDate" text NOT NULL DEFAULT ''`);
    await runner.query('CREATE INDEX "note_of_event" ON "note" ("ownerId", "eventUid", "eventDate")');
  }

  async down(runner: QueryRunner): Promise<void> {
    await dropSearchTriggers(runner);
    await runner.query('DROP INDEX "note_of_event"');
    await runner.query('ALTER TABLE "note" DROP COLUMN "eventDate"');
    await runner.query('ALTER TABLE "note" DROP COLUMN "eventUid"');
  }
}
