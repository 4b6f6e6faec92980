import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Keys of captured lines that were sent from elsewhere. */
export class CaptureKeys3 implements MigrationInterface {
  name = 'CaptureKeys1764000000003';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(
      `CREATE TABLE "capture_key" ("ownerId" text NOT NULL, "key" text NOT NULL, "at" integer NOT NULL, PRIMARY KEY ("ownerId", "key"))`,
    );
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('DROP TABLE "capture_key"');
  }
}
