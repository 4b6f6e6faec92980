import type { MigrationInterface, QueryRunner } from 'typeorm';

const ROW = `"id" text PRIMARY KEY NOT NULL, "ownerId" text NOT NULL, "version" integer NOT NULL, "created" integer NOT NULL,
  "changed" integer NOT NULL`;
const OWNED = `FOREIGN KEY ("ownerId") REFERENCES "user" ("id") DEFERRABLE INITIALLY DEFERRED`;

/** Sites that are held back in quiet time, and those that were looked at all the same. */
export class Quiet31 implements MigrationInterface {
  name = 'Quiet1764400000031';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query('ALTER TABLE "block" ADD COLUMN "sites" text');
    await runner.query('ALTER TABLE "user" ADD COLUMN "extensionSince" integer NOT NULL DEFAULT 0');
    await runner.query('ALTER TABLE "user" ADD COLUMN "extensionSeen" integer NOT NULL DEFAULT 0');
    await runner.query(`CREATE TABLE "site_hold" (${ROW}, "ofWhat" text NOT NULL, "taskId" text, "title" text NOT NULL,
      "startAt" integer NOT NULL, "endAt" integer NOT NULL, "sites" text NOT NULL, ${OWNED})`);
    await runner.query('CREATE UNIQUE INDEX "site_hold_of" ON "site_hold" ("ownerId", "ofWhat")');
    await runner.query('CREATE INDEX "site_hold_window" ON "site_hold" ("ownerId", "startAt")');
    await runner.query(`CREATE TABLE "grace" (${ROW}, "site" text NOT NULL, "startAt" integer NOT NULL, "endAt" integer NOT NULL,
      ${OWNED})`);
    await runner.query('CREATE INDEX "grace_window" ON "grace" ("ownerId", "startAt")');
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('DROP TABLE "grace"');
    await runner.query('DROP TABLE "site_hold"');
    await runner.query('ALTER TABLE "user" DROP COLUMN "extensionSeen"');
    await runner.query('ALTER TABLE "user" DROP COLUMN "extensionSince"');
    await runner.query('ALTER TABLE "block" DROP COLUMN "sites"');
  }
}
