import type { MigrationInterface, QueryRunner } from 'typeorm';

/**
 * The search index over what came in and what was made of it. Triggers keep it in step, in the transaction of the change
 * itself. `search_doc` gives each thing a lasting number: the row numbers of tables with text keys change with VACUUM.
 */
export class Search4 implements MigrationInterface {
  name = 'Search1764000000004';

  async up(runner: QueryRunner): Promise<void> {
    for (const statement of STATEMENTS) await runner.query(statement);
  }

  async down(runner: QueryRunner): Promise<void> {
    for (const { table } of THINGS)
      for (const when of ['insert', 'update', 'delete']) await runner.query(`DROP TRIGGER "search_${table}_${when}"`);
    await runner.query('DROP TABLE "search_fts"');
    await runner.query('DROP TABLE "search_doc"');
  }
}

const THINGS: Searched[] = [
  {
    table: 'incoming',
    at: 'received',
    watched: '"subject", "text", "senderName", "senderAddress"',
    columns: (row: string) => [`${row}."subject"`, `${row}."senderName" || ' ' || ${row}."senderAddress"`, `${row}."text"`],
  },
  {
    table: 'task',
    at: 'created',
    watched: '"title", "notes", "waitingOn"',
    columns: (row: string) => [`${row}."title"`, `COALESCE(${row}."waitingOn", '')`, `${row}."notes"`],
  },
  {
    table: 'event',
    at: 'startAt',
    watched: '"title", "description", "location", "attendees"',
    columns: (row: string) => [
      `${row}."title"`,
      `COALESCE((SELECT group_concat(json_extract(value, '$.name') || ' ' || json_extract(value, '$.address'), ' ') FROM json_each(${row}."attendees")), '')`,
      `${row}."location" || ' ' || ${row}."description"`,
    ],
  },
];

const doc = (row: string) => `(SELECT "doc" FROM "search_doc" WHERE "id" = ${row}."id")`;

/** A table whose rows can be found: what of a row is watched, and what stands in which column of the index. */
interface Searched {
  table: string;
  at: string;
  watched: string;
  columns: (row: string) => string[];
}

/** Statements that put a table into the index and keep it in step. */
function indexed({ table, at, watched, columns }: Searched): string[] {
  return [
    `CREATE TRIGGER "search_${table}_insert" AFTER INSERT ON "${table}" BEGIN
      INSERT INTO "search_doc" ("id", "ownerId", "thing", "at") VALUES (new."id", new."ownerId", '${table}', new."${at}");
      INSERT INTO "search_fts" (rowid, "title", "people", "body") VALUES (${doc('new')}, ${columns('new').join(', ')});
    END`,
    `CREATE TRIGGER "search_${table}_update" AFTER UPDATE OF ${watched} ON "${table}"
      WHEN ${columns('new')
        .map((column, index) => `${column} IS NOT ${columns('old')[index]}`)
        .join(' OR ')} BEGIN
      UPDATE "search_fts" SET "title" = ${columns('new')[0]}, "people" = ${columns('new')[1]}, "body" = ${columns('new')[2]}
      WHERE rowid = ${doc('new')};
    END`,
    `CREATE TRIGGER "search_${table}_delete" AFTER DELETE ON "${table}" BEGIN
      DELETE FROM "search_fts" WHERE rowid = ${doc('old')};
      DELETE FROM "search_doc" WHERE "id" = old."id";
    END`,
    `INSERT INTO "search_doc" ("id", "ownerId", "thing", "at") SELECT "id", "ownerId", '${table}', "${at}" FROM "${table}"`,
    `INSERT INTO "search_fts" (rowid, "title", "people", "body")
      SELECT ${doc('t')}, ${columns('t').join(', ')} FROM "${table}" t`,
  ];
}

const STATEMENTS = [
  `CREATE TABLE "search_doc" (
    "doc" integer PRIMARY KEY,
    "id" text NOT NULL UNIQUE,
    "ownerId" text NOT NULL,
    "thing" text NOT NULL,
    "at" integer NOT NULL)`,
  `CREATE INDEX "search_doc_owner" ON "search_doc" ("ownerId", "at")`,
  `CREATE VIRTUAL TABLE "search_fts" USING fts5("title", "people", "body", tokenize = 'unicode61 remove_diacritics 2', prefix = '2 3')`,
  ...THINGS.flatMap(indexed),
];
