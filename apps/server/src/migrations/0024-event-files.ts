import type { MigrationInterface, QueryRunner } from 'typeorm';
import { dropSearchTriggers } from './drop-search-triggers';

/** Files of events. */
export class EventFiles24 implements MigrationInterface {
  name = 'EventFiles1764000000024';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`CREATE TABLE "event_file" ("id" text PRIMARY KEY NOT NULL, "ownerId" text NOT NULL, "version" integer NOT NULL,
      "created" integer NOT NULL, "changed" integer NOT NULL, "eventUid" text NOT NULL, "name" text NOT NULL, "type" text NOT NULL,
      "size" integer NOT NULL, "hash" text NOT NULL, "words" text NOT NULL,
      FOREIGN KEY ("ownerId") REFERENCES "user" ("id") DEFERRABLE INITIALLY DEFERRED)`);
    await runner.query('CREATE INDEX "event_file_uid" ON "event_file" ("eventUid")');
  }

  async down(runner: QueryRunner): Promise<void> {
    await dropSearchTriggers(runner);
    await runner.query('DROP TABLE "event_file"');
  }
}
