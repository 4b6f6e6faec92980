import type { MigrationInterface, QueryRunner } from 'typeorm';

/** The words by which files are found. */
export class FileWords16 implements MigrationInterface {
  name = 'FileWords1764000000016';

  async up(runner: QueryRunner): Promise<void> {
    for (const table of ['attachment', 'task_file'])
      await runner.query(`ALTER TABLE "${table}" ADD COLUMN "words" text NOT NULL DEFAULT ''`);
  }

  async down(runner: QueryRunner): Promise<void> {
    // They name columns that are about to go, here and in the migrations before; at the next start they are made anew.
    const triggers = (await runner.query(
      `SELECT "name" FROM sqlite_master WHERE "type" = 'trigger' AND "name" LIKE 'search!_%' ESCAPE '!'`,
    )) as { name: string }[];
    for (const { name } of triggers) await runner.query(`DROP TRIGGER "${name}"`);
    for (const table of ['attachment', 'task_file']) await runner.query(`ALTER TABLE "${table}" DROP COLUMN "words"`);
  }
}
