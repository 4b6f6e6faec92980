import type { MigrationInterface, QueryRunner } from 'typeorm';

/** What Corvun does by itself at a time. */
export class Jobs9 implements MigrationInterface {
  name = 'Jobs1764000000009';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`CREATE TABLE "job" (
      "key" text PRIMARY KEY NOT NULL,
      "kind" text NOT NULL,
      "ownerId" text,
      "dueAt" integer NOT NULL,
      "tries" integer NOT NULL,
      "problem" text NOT NULL)`);
    await runner.query('CREATE INDEX "job_due" ON "job" ("dueAt")');
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('DROP TABLE "job"');
  }
}
