import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Further addresses of people. */
export class People15 implements MigrationInterface {
  name = 'People1764000000015';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`ALTER TABLE "person" ADD COLUMN "addresses" text NOT NULL DEFAULT '[]'`);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('ALTER TABLE "person" DROP COLUMN "addresses"');
  }
}
