import type { QueryRunner } from 'typeorm';

/** Before columns go that search triggers name; at the next start they are made anew. */
export async function dropSearchTriggers(runner: QueryRunner): Promise<void> {
  const triggers = (await runner.query(
    `SELECT "name" FROM sqlite_master WHERE "type" = 'trigger' AND "name" LIKE 'search!_%' ESCAPE '!'`,
  )) as { name: string }[];
  for (const { name } of triggers) await runner.query(`DROP TRIGGER "${name}"`);
}
