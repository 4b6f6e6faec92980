import type { MigrationInterface, QueryRunner } from 'typeorm';
import { dropSearchTriggers } from './drop-search-triggers';

/** Time that is set aside for no task has a name; an event may end in another zone than it begins in; a day has an order. */
export class Making17 implements MigrationInterface {
  name = 'Making1764000000017';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`ALTER TABLE "block" ADD COLUMN "title" text NOT NULL DEFAULT ''`);
    await runner.query(`ALTER TABLE "event" ADD COLUMN "endZone" text`);
    await runner.query(`ALTER TABLE "task" ADD COLUMN "dayOrder" integer NOT NULL DEFAULT 0`);
  }

  async down(runner: QueryRunner): Promise<void> {
    await dropSearchTriggers(runner);
    await runner.query('ALTER TABLE "block" DROP COLUMN "title"');
    await runner.query('ALTER TABLE "event" DROP COLUMN "endZone"');
    await runner.query('ALTER TABLE "task" DROP COLUMN "dayOrder"');
  }
}
