import type { MigrationInterface, QueryRunner } from 'typeorm';
import { dropSearchTriggers } from './drop-search-triggers';

/** The time beside events. */
export class Buffers19 implements MigrationInterface {
  name = 'Buffers1764000000019';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query('ALTER TABLE "event" ADD COLUMN "buffers" text');
    await runner.query(`CREATE INDEX "event_buffers" ON "event" ("ownerId") WHERE "buffers" IS NOT NULL`);
  }

  async down(runner: QueryRunner): Promise<void> {
    await dropSearchTriggers(runner);
    await runner.query('DROP INDEX "event_buffers"');
    await runner.query('ALTER TABLE "event" DROP COLUMN "buffers"');
  }
}
