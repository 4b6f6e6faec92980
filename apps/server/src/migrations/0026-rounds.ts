import type { MigrationInterface, QueryRunner } from 'typeorm';
import { dropSearchTriggers } from './drop-search-triggers';

const COLUMNS = ['"repeatOn" text', '"nudged" integer', '"waitingThread" text', '"answeredBy" text'];

/** Which date of its schedule a repeating task stands for; when one asked again, and which message answered. */
export class Rounds26 implements MigrationInterface {
  name = 'Rounds1764000000026';

  async up(runner: QueryRunner): Promise<void> {
    for (const column of COLUMNS) await runner.query(`ALTER TABLE "task" ADD COLUMN ${column}`);
    await runner.query(`CREATE INDEX "task_waiting" ON "task" ("ownerId", "waitingOn") WHERE "waitingOn" IS NOT NULL`);
    await runner.query(`CREATE INDEX "task_completed" ON "task" ("ownerId", "completed")`);
    await runner.query(`CREATE INDEX "task_answered" ON "task" ("answeredBy") WHERE "answeredBy" IS NOT NULL`);
  }

  async down(runner: QueryRunner): Promise<void> {
    await dropSearchTriggers(runner);
    for (const index of ['task_answered', 'task_completed', 'task_waiting']) await runner.query(`DROP INDEX "${index}"`);
    for (const column of [...COLUMNS].reverse()) await runner.query(`ALTER TABLE "task" DROP COLUMN ${column.split(' ')[0]}`);
  }
}
