import type { PersonOpen } from '@corvun/contract';
import type { EntityManager } from 'typeorm';

/** Everybody's names and addresses in lower case, a row each. */
const KNOWN = `SELECT p.id AS id, LOWER(p.address) AS known FROM person p WHERE p.ownerId = ? AND p.address <> ''
  UNION SELECT p.id, LOWER(j.value) FROM person p, json_each(p.addresses) j WHERE p.ownerId = ?`;
const NAMED = `${KNOWN} UNION SELECT p.id, LOWER(p.name) FROM person p WHERE p.ownerId = ?`;
const OPEN = `t.status NOT IN ('COMPLETED', 'CANCELLED')`;

/** How much is open with everybody of an account with whom something is. */
export async function openWith(manager: EntityManager, ownerId: string): Promise<PersonOpen[]> {
  const rows = await manager.query<PersonOpen[]>(
    `WITH known AS MATERIALIZED (${KNOWN}), named AS MATERIALIZED (${NAMED}),
     counted AS (
       SELECT k.id AS id, 1 AS asking, 0 AS waiting, 0 AS tasks FROM incoming i JOIN known k ON k.known = i.senderAddress
         WHERE i.ownerId = ? AND i.state = 'waiting'
       UNION ALL SELECT k.id, 0, 0, 1 FROM task t JOIN incoming i ON i.id = t.incomingId JOIN known k ON k.known = i.senderAddress
         WHERE t.ownerId = ? AND ${OPEN} AND t.waitingOn IS NULL
       UNION ALL SELECT n.id, 0, 1, 0 FROM task t JOIN named n ON n.known = LOWER(t.waitingOn)
         WHERE t.ownerId = ? AND ${OPEN} AND t.waitingOn IS NOT NULL)
     SELECT id, SUM(asking) AS asking, SUM(waiting) AS waiting, SUM(tasks) AS tasks FROM counted GROUP BY id`,
    Array.from({ length: 8 }, () => ownerId),
  );
  return rows;
}
