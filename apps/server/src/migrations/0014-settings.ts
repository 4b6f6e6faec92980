import type { MigrationInterface, QueryRunner } from 'typeorm';

/** What users choose: one row each, and what every request needs of it at the user. */
export class Settings14 implements MigrationInterface {
  name = 'Settings1764000000014';

  async up(runner: QueryRunner): Promise<void> {
    // Whoever is here already knows their way: nobody asks them the first questions.
    await runner.query(`ALTER TABLE "user" ADD COLUMN "settings" text NOT NULL DEFAULT '{"begun":true}'`);
    await runner.query(`CREATE TABLE "settings" (
      "id" text PRIMARY KEY NOT NULL, "ownerId" text NOT NULL, "version" integer NOT NULL, "created" integer NOT NULL,
      "changed" integer NOT NULL, "chosen" text NOT NULL,
      FOREIGN KEY ("ownerId") REFERENCES "user" ("id") DEFERRABLE INITIALLY DEFERRED)`);
    await runner.query('CREATE UNIQUE INDEX "settings_owner" ON "settings" ("ownerId")');
    await runner.query(`INSERT INTO "settings" ("id", "ownerId", "version", "created", "changed", "chosen")
      SELECT lower(hex(randomblob(10))), "id", 1, "created", "created", json_object('begun', json('true'), 'name', "name", 'zone', "zone", 'hours', json("hours")) FROM "user"`);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('DROP TABLE "settings"');
    await runner.query('ALTER TABLE "user" DROP COLUMN "settings"');
  }
}
