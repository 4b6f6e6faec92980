import type { MigrationInterface, QueryRunner } from 'typeorm';

const ROW = `"id" text PRIMARY KEY NOT NULL, "ownerId" text NOT NULL, "version" integer NOT NULL, "created" integer NOT NULL,
  "changed" integer NOT NULL, "linkHash" text NOT NULL, "link" text NOT NULL`;
const OWNER = 'FOREIGN KEY ("ownerId") REFERENCES "user" ("id") DEFERRABLE INITIALLY DEFERRED';
const TABLES = ['share', 'meet_page', 'booking', 'offer'];

/** What others can see or choose: published calendars, pages, bookings, offered times. */
export class Others20 implements MigrationInterface {
  name = 'Others1764000000020';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`CREATE TABLE "share" (${ROW}, "calendarId" text, "shows" text NOT NULL,
      ${OWNER})`);
    await runner.query(`CREATE TABLE "meet_page" (${ROW}, "name" text NOT NULL, "about" text NOT NULL, "place" text NOT NULL,
      "lengths" text NOT NULL, "hours" text, "notice" integer NOT NULL, "horizon" integer NOT NULL, "buffer" integer NOT NULL,
      "perDay" integer, "from" text, "to" text, "calendars" text, "questions" text NOT NULL, "firm" boolean NOT NULL,
      "open" boolean NOT NULL, ${OWNER})`);
    await runner.query(`CREATE TABLE "booking" (${ROW}, "pageId" text NOT NULL, "eventId" text NOT NULL, "name" text NOT NULL,
      "address" text NOT NULL, "state" text NOT NULL, ${OWNER})`);
    await runner.query(`CREATE TABLE "offer" (${ROW}, "title" text NOT NULL, "place" text NOT NULL, "events" text NOT NULL,
      "state" text NOT NULL, "expires" integer NOT NULL, "takenBy" text NOT NULL, ${OWNER})`);
    for (const table of TABLES)
      await runner.query(`CREATE UNIQUE INDEX "${table}_link" ON "${table}" ("linkHash") WHERE "linkHash" <> ''`);
    await runner.query('CREATE INDEX "booking_page" ON "booking" ("ownerId", "pageId")');
    await runner.query('CREATE INDEX "offer_due" ON "offer" ("state", "expires")');
  }

  async down(runner: QueryRunner): Promise<void> {
    for (const table of TABLES) await runner.query(`DROP TABLE "${table}"`);
  }
}
