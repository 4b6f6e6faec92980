import type { MigrationInterface, QueryRunner } from 'typeorm';

/** What of a counterpart is on its way to its source. */
export class Sending5 implements MigrationInterface {
  name = 'Sending1764000000005';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`ALTER TABLE "counterpart" ADD COLUMN "sending" text NOT NULL DEFAULT '{}'`);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('ALTER TABLE "counterpart" DROP COLUMN "sending"');
  }
}
