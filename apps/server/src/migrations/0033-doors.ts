import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Names of objects by calendar, steps that were steps of themselves, what proves an address, who made a token, and open tasks in order. */
export class Doors33 implements MigrationInterface {
  name = 'Doors1764600000033';

  async up(runner: QueryRunner): Promise<void> {
    // The same UID may stand in several calendars, each time under a name of its own.
    await runner.query(`INSERT INTO "dav_name" ("ownerId", "thing", "name", "uid")
      SELECT DISTINCT n."ownerId", 'event:' || e."calendarId" || ':' || e."uid", n."name", n."uid"
      FROM "dav_name" n JOIN "event" e ON e."ownerId" = n."ownerId" AND 'event:' || e."uid" = n."thing"`);
    await runner.query(`DELETE FROM "dav_name" WHERE "thing" LIKE 'event:%' AND "thing" = 'event:' || "uid"`);
    await runner.query(`ALTER TABLE "booking" ADD COLUMN "proofHash" text NOT NULL DEFAULT ''`);
    await runner.query('ALTER TABLE "booking" ADD COLUMN "unproven" integer NOT NULL DEFAULT 0');
    await runner.query('CREATE INDEX "booking_address" ON "booking" ("address", "changed")');
    await runner.query(
      `CREATE INDEX "task_open" ON "task" ("ownerId", "position", "id") WHERE "status" IN ('NEEDS-ACTION', 'IN-PROCESS')`,
    );
    await runner.query('CREATE INDEX "task_reminder" ON "task" ("ownerId") WHERE "reminder" IS NOT NULL');
    await runner.query(`ALTER TABLE "access" ADD COLUMN "madeBy" text NOT NULL DEFAULT ''`);
    await runner.query(`WITH RECURSIVE up(id, above, depth) AS (
        SELECT "id", "parentId", 1 FROM "task" WHERE "parentId" IS NOT NULL
        UNION ALL
        SELECT up.id, t."parentId", up.depth + 1 FROM up JOIN "task" t ON t."id" = up.above
        WHERE t."parentId" IS NOT NULL AND up.above <> up.id AND up.depth < 60)
      UPDATE "task" SET "parentId" = NULL WHERE "id" IN (SELECT id FROM up WHERE above = id)`);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('ALTER TABLE "access" DROP COLUMN "madeBy"');
    await runner.query('DROP INDEX "task_reminder"');
    await runner.query('DROP INDEX "task_open"');
    await runner.query('DROP INDEX "booking_address"');
    await runner.query('ALTER TABLE "booking" DROP COLUMN "unproven"');
    await runner.query('ALTER TABLE "booking" DROP COLUMN "proofHash"');
    await runner.query(`INSERT OR IGNORE INTO "dav_name" ("ownerId", "thing", "name", "uid")
      SELECT "ownerId", 'event:' || "uid", "name", "uid" FROM "dav_name" WHERE "thing" LIKE 'event:%'`);
    await runner.query(`DELETE FROM "dav_name" WHERE "thing" LIKE 'event:%' AND "thing" <> 'event:' || "uid"`);
  }
}
