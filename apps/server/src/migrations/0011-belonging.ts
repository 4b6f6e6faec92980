import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Column by column of a table: the table that it points into. */
const BELONGING: Record<string, Record<string, string>> = {
  access: { userId: 'user' },
  attachment: { ownerId: 'user', incomingId: 'incoming' },
  block: { ownerId: 'user', taskId: 'task' },
  calendar: { ownerId: 'user' },
  capture_key: { ownerId: 'user' },
  counterpart: { ownerId: 'user' },
  entry: { ownerId: 'user' },
  event: { ownerId: 'user', calendarId: 'calendar' },
  import_run: { ownerId: 'user' },
  incoming: { ownerId: 'user' },
  job: { ownerId: 'user' },
  list: { ownerId: 'user' },
  note: { ownerId: 'user', parentId: 'note' },
  outbox: { ownerId: 'user' },
  person: { ownerId: 'user' },
  source: { ownerId: 'user' },
  tag: { ownerId: 'user' },
  task: { ownerId: 'user', listId: 'list', parentId: 'task' },
};
/** These may point at nothing. */
const LOOSE = ['block.taskId', 'job.ownerId', 'note.parentId', 'task.listId', 'task.parentId'];

const key = ([column, table]: [string, string]) =>
  `, FOREIGN KEY ("${column}") REFERENCES "${table}" ("id") DEFERRABLE INITIALLY DEFERRED`;

/**
 * What belongs to something cannot be without it any more; checked when a transaction ends.
 * The rows stay where they are: only what SQLite knows of the tables changes, as its documentation allows for constraints.
 */
export class Belonging11 implements MigrationInterface {
  name = 'Belonging1764000000011';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query('CREATE INDEX "task_parent" ON "task" ("parentId") WHERE "parentId" IS NOT NULL');
    for (const [table, columns] of Object.entries(BELONGING))
      for (const [column, of] of Object.entries(columns)) await runner.query(withoutStrays(table, column, of));
    await change(runner, (table, sql) =>
      sql.replace(
        /\)\s*$/,
        `${Object.entries(BELONGING[table] ?? {})
          .map(key)
          .join('')})`,
      ),
    );
  }

  async down(runner: QueryRunner): Promise<void> {
    await change(runner, (table, sql) =>
      Object.entries(BELONGING[table] ?? {}).reduce((text, one) => text.replace(key(one), ''), sql),
    );
    await runner.query('DROP INDEX "task_parent"');
  }
}

/** What belongs to something that is no longer there was seen by nobody: it goes, or stands for itself where it can. */
function withoutStrays(table: string, column: string, of: string): string {
  const stray = `"${column}" IS NOT NULL AND NOT EXISTS (SELECT 1 FROM "${of}" AS "of" WHERE "of"."id" = "${table}"."${column}")`;
  return LOOSE.includes(`${table}.${column}`)
    ? `UPDATE "${table}" SET "${column}" = NULL WHERE ${stray}`
    : `DELETE FROM "${table}" WHERE ${stray}`;
}

async function change(runner: QueryRunner, sqlOf: (table: string, sql: string) => string): Promise<void> {
  const [{ schema_version: version }] = (await runner.query('PRAGMA schema_version')) as [{ schema_version: number }];
  await runner.query('PRAGMA writable_schema = ON');
  for (const table of Object.keys(BELONGING)) {
    const [{ sql }] = (await runner.query(`SELECT sql FROM sqlite_master WHERE type = 'table' AND name = ?`, [table])) as [
      { sql: string },
    ];
    await runner.query(`UPDATE sqlite_master SET sql = ? WHERE type = 'table' AND name = ?`, [sqlOf(table, sql), table]);
  }
  await runner.query(`PRAGMA schema_version = ${version + 1}`);
  await runner.query('PRAGMA writable_schema = OFF');
}
