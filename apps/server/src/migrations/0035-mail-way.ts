import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Where mail of an account is handed over. */
export class MailWay35 implements MigrationInterface {
  name = 'MailWay1764600000035';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`CREATE TABLE "mail_way" (
      "ownerId" text PRIMARY KEY NOT NULL,
      "host" text NOT NULL,
      "port" integer NOT NULL,
      "security" text NOT NULL,
      "user" text NOT NULL,
      "secret" text,
      "changed" integer NOT NULL,
      CONSTRAINT "mail_way_owner" FOREIGN KEY ("ownerId") REFERENCES "user" ("id")
    )`);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('DROP TABLE "mail_way"');
  }
}
