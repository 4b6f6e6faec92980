import type { MigrationInterface, QueryRunner } from 'typeorm';

const COLUMNS = [
  `"repeatFrom" text NOT NULL DEFAULT 'schedule'`,
  '"waitingUntil" text',
  '"reminder" text',
  '"assignedTo" text',
  `"links" text NOT NULL DEFAULT '[]'`,
];

const part = (path: string) => `json_extract("step"."value", '$.${path}')`;
const OF_TASK = `COALESCE(${part('after.taskId')}, ${part('before.taskId')})`;

/** Rows that an entry of the log is about, and what they belong to; what arrived and was not decided yet is left out. */
const about = (entry: string, from = '') => `
  SELECT ${part('id')}, ${entry}."revision" FROM ${from} json_each(${entry}."changes") AS "step"
    WHERE ${part('kind')} <> 'incoming' OR ${entry}."sentence" <> ''
  UNION
  SELECT ${OF_TASK}, ${entry}."revision" FROM ${from} json_each(${entry}."changes") AS "step" WHERE ${OF_TASK} IS NOT NULL`;

/** What the sheet of a task shows: more of its columns, files of its own, and what happened to a thing, found by its id. */
export class Sheet12 implements MigrationInterface {
  name = 'Sheet1764000000012';

  async up(runner: QueryRunner): Promise<void> {
    for (const column of COLUMNS) await runner.query(`ALTER TABLE "task" ADD COLUMN ${column}`);
    await runner.query(`CREATE TABLE "task_file" (
      "id" text PRIMARY KEY NOT NULL, "ownerId" text NOT NULL, "version" integer NOT NULL, "created" integer NOT NULL,
      "changed" integer NOT NULL, "taskId" text NOT NULL, "name" text NOT NULL, "type" text NOT NULL, "size" integer NOT NULL,
      "hash" text NOT NULL,
      FOREIGN KEY ("ownerId") REFERENCES "user" ("id") DEFERRABLE INITIALLY DEFERRED,
      FOREIGN KEY ("taskId") REFERENCES "task" ("id") DEFERRABLE INITIALLY DEFERRED)`);
    await runner.query('CREATE INDEX "task_file_task" ON "task_file" ("taskId")');
    await runner.query(`CREATE TABLE "entry_about" (
      "rowId" text NOT NULL, "revision" integer NOT NULL, PRIMARY KEY ("rowId", "revision"),
      FOREIGN KEY ("revision") REFERENCES "entry" ("revision") ON DELETE CASCADE DEFERRABLE INITIALLY DEFERRED) WITHOUT ROWID`);
    await runner.query('CREATE INDEX "entry_about_revision" ON "entry_about" ("revision")');
    await runner.query(`INSERT OR IGNORE INTO "entry_about" ${about('"entry"', '"entry",')}`);
    await runner.query(
      `CREATE TRIGGER "entry_about_insert" AFTER INSERT ON "entry" BEGIN INSERT OR IGNORE INTO "entry_about" ${about('new')}; END`,
    );
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('DROP TRIGGER "entry_about_insert"');
    await runner.query('DROP TABLE "entry_about"');
    await runner.query('DROP TABLE "task_file"');
    for (const column of COLUMNS) await runner.query(`ALTER TABLE "task" DROP COLUMN ${column.split(' ')[0]}`);
  }
}
