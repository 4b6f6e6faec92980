import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Objects of calendar accounts. */
export class Accounts23 implements MigrationInterface {
  name = 'Accounts1764000000023';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`CREATE TABLE "remote" (
      "id" text PRIMARY KEY NOT NULL, "ownerId" text NOT NULL, "version" integer NOT NULL, "created" integer NOT NULL,
      "changed" integer NOT NULL, "sourceId" text NOT NULL, "collection" text NOT NULL, "uid" text NOT NULL,
      "calendarId" text, "taskId" text, "href" text, "etag" text, "text" text, "base" text NOT NULL, "sending" text NOT NULL,
      FOREIGN KEY ("ownerId") REFERENCES "user" ("id") DEFERRABLE INITIALLY DEFERRED)`);
    await runner.query('CREATE UNIQUE INDEX "remote_uid" ON "remote" ("sourceId", "collection", "uid")');
    await runner.query('CREATE INDEX "remote_event" ON "remote" ("ownerId", "calendarId", "uid")');
    await runner.query('CREATE INDEX "remote_task" ON "remote" ("taskId")');
    await runner.query('CREATE INDEX "remote_href" ON "remote" ("sourceId", "href")');
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('DROP TABLE "remote"');
  }
}
