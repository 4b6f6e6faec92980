import type { MigrationInterface, QueryRunner } from 'typeorm';
import { dropSearchTriggers } from './drop-search-triggers';

/** Own time that planning must not move. */
export class PinnedBlocks25 implements MigrationInterface {
  name = 'PinnedBlocks1764000000025';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query('ALTER TABLE "block" ADD COLUMN "pinned" boolean NOT NULL DEFAULT 0');
  }

  async down(runner: QueryRunner): Promise<void> {
    await dropSearchTriggers(runner);
    await runner.query('ALTER TABLE "block" DROP COLUMN "pinned"');
  }
}
