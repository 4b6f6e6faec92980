import type { MigrationInterface, QueryRunner } from 'typeorm';

/** The words by which files are found. */
export class FileWords16 implements MigrationInterface {
  name = 'FileWords1764000000016';

  async up(runner: QueryRunner): Promise<void> {
    for (const table of ['attachment', 'task_file'])
      await runner.query(`ALTER TABLE "${table}" ADD COLUMN "words" text NOT NULL DEFAULT ''`);
  }

  async down(runner: QueryRunner): Promise<void> {
    for (const table of ['attachment', 'task_file']) {
      // Made at every start as far as they are missing.
      for (const when of ['insert', 'update', 'delete']) await runner.query(`DROP TRIGGER IF EXISTS "search_${table}_${when}"`);
      await runner.query(`ALTER TABLE "${table}" DROP COLUMN "words"`);
    }
  }
}
