import type { MigrationInterface, QueryRunner } from 'typeorm';

/** What the database says of itself; nominal durations, rules that exclude, and changes of a date and all after it. */
export class Firm7 implements MigrationInterface {
  name = 'Firm1764000000007';

  async up(runner: QueryRunner): Promise<void> {
    for (const statement of STATEMENTS) await runner.query(statement);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('DROP TABLE "about"');
    for (const column of ['duration', 'exrule', 'following']) await runner.query(`ALTER TABLE "event" DROP COLUMN "${column}"`);
  }
}

const STATEMENTS = [
  'CREATE TABLE "about" ("name" text PRIMARY KEY NOT NULL, "value" text NOT NULL)',
  'ALTER TABLE "event" ADD COLUMN "duration" text',
  'ALTER TABLE "event" ADD COLUMN "exrule" text',
  'ALTER TABLE "event" ADD COLUMN "following" boolean NOT NULL DEFAULT (0)',
];
