import type { MigrationInterface, QueryRunner } from 'typeorm';

/** A break moves with the event it belongs to. */
export class Beside36 implements MigrationInterface {
  name = 'Beside1764600000036';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query('ALTER TABLE "block" ADD COLUMN "besideId" text');
    await runner.query('CREATE INDEX "block_beside" ON "block" ("besideId") WHERE "besideId" IS NOT NULL');
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('DROP INDEX "block_beside"');
    await runner.query('ALTER TABLE "block" DROP COLUMN "besideId"');
  }
}
