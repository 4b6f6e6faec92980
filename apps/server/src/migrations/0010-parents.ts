import type { MigrationInterface, QueryRunner } from 'typeorm';

/** The lines of a checklist are found by their card. */
export class Parents10 implements MigrationInterface {
  name = 'Parents1764000000010';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query('CREATE INDEX "counterpart_parent" ON "counterpart" ("parentId")');
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('DROP INDEX "counterpart_parent"');
  }
}
