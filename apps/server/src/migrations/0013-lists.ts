import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Lists that end or are put away, and views of tasks that are kept under a name. */
export class Lists13 implements MigrationInterface {
  name = 'Lists1764000000013';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query('ALTER TABLE "list" ADD COLUMN "archived" boolean NOT NULL DEFAULT 0');
    await runner.query('ALTER TABLE "list" ADD COLUMN "ends" text');
    await runner.query(`CREATE TABLE "kept_view" (
      "id" text PRIMARY KEY NOT NULL, "ownerId" text NOT NULL, "version" integer NOT NULL, "created" integer NOT NULL,
      "changed" integer NOT NULL, "name" text NOT NULL, "query" text NOT NULL, "position" integer NOT NULL,
      FOREIGN KEY ("ownerId") REFERENCES "user" ("id") DEFERRABLE INITIALLY DEFERRED)`);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('DROP TABLE "kept_view"');
    for (const column of ['archived', 'ends']) await runner.query(`ALTER TABLE "list" DROP COLUMN "${column}"`);
  }
}
