import type { EntityManager } from 'typeorm';

/** Texts that are looked at in one statement. */
const AT_ONCE = 5000;
const NAMED = ['event', 'task'].map((table) => `EXISTS (SELECT 1 FROM "${table}" WHERE "textId" = t."id")`).join(' OR ');

/**
 * Throws texts away that no row names any more, once nothing can be taken back to one that did. They are looked at in parts,
 * each in a unit of its own.
 * @param before those that nobody needs since then go, in milliseconds since 1970
 */
export async function sweepTexts(
  write: <T>(work: (manager: EntityManager) => Promise<T>) => Promise<T>,
  now: number,
  before: number,
): Promise<void> {
  for (let last = ''; ;) {
    const part = await write(async (manager) => {
      const ids = await manager.query<{ id: string }[]>(
        `SELECT "id" FROM "own_text" WHERE "id" > ? ORDER BY "id" LIMIT ${AT_ONCE}`,
        [last],
      );
      const [from, to] = [ids[0]?.id, ids.at(-1)?.id];
      if (!from || !to) return null;
      await manager.query(
        `UPDATE "own_text" AS t SET "unusedSince" = CASE WHEN ${NAMED} THEN NULL ELSE COALESCE("unusedSince", ?) END
         WHERE "id" BETWEEN ? AND ? AND ("unusedSince" IS NOT NULL) = (${NAMED})`,
        [now, from, to],
      );
      return to;
    });
    if (!part) break;
    last = part;
  }
  const old = `SELECT "id" FROM "own_text" WHERE "unusedSince" < ? LIMIT ${AT_ONCE}`;
  const more = async (manager: EntityManager) => {
    const gone = await manager.query<unknown[]>(old, [before]);
    await manager.query(`DELETE FROM "own_text" WHERE "id" IN (${old})`, [before]);
    return gone.length === AT_ONCE;
  };
  while (await write(more));
}
