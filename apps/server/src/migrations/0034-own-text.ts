import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Texts of events and tasks as they came, beside the rows that are read from them, and addresses that are taken away. */
export class OwnText34 implements MigrationInterface {
  name = 'OwnText1764600000034';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`CREATE TABLE "own_text" (
      "id" text PRIMARY KEY NOT NULL,
      "ownerId" text NOT NULL,
      "text" text NOT NULL,
      "around" text NOT NULL,
      "said" text NOT NULL,
      "made" integer NOT NULL,
      "unusedSince" integer
    )`);
    await runner.query('CREATE INDEX "own_text_owner" ON "own_text" ("ownerId")');
    await runner.query('CREATE INDEX "own_text_unused" ON "own_text" ("unusedSince") WHERE "unusedSince" IS NOT NULL');
    for (const table of ['event', 'task']) {
      await runner.query(`ALTER TABLE "${table}" ADD COLUMN "textId" text`);
      await runner.query(`CREATE INDEX "${table}_text" ON "${table}" ("textId") WHERE "textId" IS NOT NULL`);
    }
    // What is in a window: nearly everything is short, so that only what begins near it has to be looked at.
    await runner.query('CREATE INDEX "event_long" ON "event" ("ownerId", "endAt") WHERE "endAt" - "startAt" > 2678400000');
    await runner.query('CREATE INDEX "event_endless" ON "event" ("ownerId", "startAt") WHERE "endAt" IS NULL');
    // Accounts and feeds are read once more, so that what they hold has its text, too; nothing is there twice.
    await runner.query('UPDATE "remote" SET "etag" = NULL');
    await runner.query(`UPDATE "source" SET "cursor" = '{}' WHERE "kind" IN ('account', 'feed')`);
    await runner.query('ALTER TABLE "dav_name" ADD COLUMN "gone" boolean NOT NULL DEFAULT 0');
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('ALTER TABLE "dav_name" DROP COLUMN "gone"');
    await runner.query('DROP INDEX "event_endless"');
    await runner.query('DROP INDEX "event_long"');
    for (const table of ['task', 'event']) {
      await runner.query(`DROP INDEX "${table}_text"`);
      await runner.query(`ALTER TABLE "${table}" DROP COLUMN "textId"`);
    }
    await runner.query('DROP TABLE "own_text"');
  }
}
