import type { MigrationInterface, QueryRunner } from 'typeorm';
import { indexed } from './0004-search';

/** Pages of notes, findable; and which attachments a task carries along. */
export class Notes6 implements MigrationInterface {
  name = 'Notes1764000000006';

  async up(runner: QueryRunner): Promise<void> {
    for (const statement of STATEMENTS) await runner.query(statement);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('ALTER TABLE "task" DROP COLUMN "attachments"');
    await runner.query(`DELETE FROM "search_fts" WHERE rowid IN (SELECT "doc" FROM "search_doc" WHERE "thing" = 'note')`);
    await runner.query(`DELETE FROM "search_doc" WHERE "thing" = 'note'`);
    await runner.query('DROP TABLE "note"');
  }
}

const STATEMENTS = [
  'ALTER TABLE "task" ADD COLUMN "attachments" text',
  `CREATE TABLE "note" (
    "id" text PRIMARY KEY NOT NULL,
    "ownerId" text NOT NULL,
    "version" integer NOT NULL,
    "created" integer NOT NULL,
    "changed" integer NOT NULL,
    "title" text NOT NULL,
    "text" text NOT NULL,
    "parentId" text,
    "position" integer NOT NULL,
    "incomingIds" text NOT NULL)`,
  'CREATE INDEX "note_owner" ON "note" ("ownerId", "parentId", "position")',
  ...indexed({
    table: 'note',
    at: 'created',
    watched: '"title", "text"',
    columns: (row) => [`${row}."title"`, `''`, `${row}."text"`],
  }),
];
