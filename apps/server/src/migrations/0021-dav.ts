import type { MigrationInterface, QueryRunner } from 'typeorm';

/** What other programs keep here by CalDAV, and what their tokens may do. */
export class Dav21 implements MigrationInterface {
  name = 'Dav1764000000021';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`ALTER TABLE "access" ADD COLUMN "may" text NOT NULL DEFAULT 'write'`);
    await runner.query(`CREATE TABLE "dav_name" ("ownerId" text NOT NULL, "thing" text NOT NULL, "name" text NOT NULL,
      "uid" text NOT NULL, PRIMARY KEY ("ownerId", "thing"))`);
    await runner.query('CREATE INDEX "dav_name_of" ON "dav_name" ("ownerId", "name")');
    await runner.query(`CREATE TABLE "dav_gone" ("id" text PRIMARY KEY NOT NULL, "ownerId" text NOT NULL,
      "collection" text NOT NULL, "name" text NOT NULL, "since" integer NOT NULL, "at" integer NOT NULL)`);
    await runner.query('CREATE INDEX "dav_gone_of" ON "dav_gone" ("ownerId", "collection", "since")');
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('DROP TABLE "dav_gone"');
    await runner.query('DROP TABLE "dav_name"');
    await runner.query('ALTER TABLE "access" DROP COLUMN "may"');
  }
}
