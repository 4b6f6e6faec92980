import { promises as fs } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { snapshot } from './backup';
import { firstValue, openDatabase, rows, type Database } from './database';
import { filesIn, hashOfFile } from './files';
import { databaseOf, fileOf } from './layout';
import { silent, type Progress } from './progress';

export interface Check {
  name: 'database' | 'references' | 'files' | 'search index' | 'outbox' | 'log';
  ok: boolean;
  detail: string;
}

export interface Verified {
  ok: boolean;
  checks: Check[];
}

/** Which column of which table names a row of another. */
const REFERENCES: [table: string, column: string, other: string][] = [
  ['attachment', 'incomingId', 'incoming'],
  ['block', 'taskId', 'task'],
  ['event', 'calendarId', 'calendar'],
  ['task', 'listId', 'list'],
  ['task', 'parentId', 'task'],
  ['counterpart', 'sourceId', 'source'],
  ['access', 'userId', 'user'],
];
/** What could be found from the first on; whatever came later is known by its trigger. */
const SEARCHED = ['incoming', 'task', 'event', 'note'];
const OUTBOX_STATES = ['waiting', 'sent', 'given-up'];
const LOG_STATES = ['done', 'undone', 'lost', 'final'];

/**
 * Checks everything that is kept, on a copy of the database made at one moment: a running server is not held up.
 * @throws KeepingError when no copy can be made; a database that is damaged is said in the checks
 */
export async function verify(data: string, progress: Progress = silent): Promise<Verified> {
  const folder = await fs.mkdtemp(join(tmpdir(), 'corvun-verify-'));
  try {
    const copy = join(folder, 'copy.sqlite');
    const checks: Check[] = [];
    const damage = await copied(data, copy);
    if (damage) checks.push({ name: 'database', ok: false, detail: damage });
    else {
      const database = openDatabase(copy);
      try {
        for (const check of [databaseCheck, referencesCheck]) checks.push(check(database));
        checks.push(await filesCheck(data, database, progress));
        for (const check of [searchCheck, outboxCheck, logCheck]) checks.push(check(database));
      } finally {
        database.close();
      }
    }
    return { ok: checks.every((one) => one.ok), checks };
  } finally {
    await fs.rm(folder, { recursive: true, force: true });
  }
}

async function copied(data: string, copy: string): Promise<string | null> {
  if (!(await fs.stat(databaseOf(data)).catch(() => null))) return `There is no database in ${data}.`;
  try {
    await snapshot(data, copy);
    return null;
  } catch (problem) {
    const code = (problem as { code?: string }).code ?? '';
    if (/CORRUPT|NOTADB/.test(code)) return 'The database is damaged.';
    throw problem;
  }
}

const number = (database: Database, sql: string, ...values: unknown[]) => Number(firstValue(database, sql, ...values));

function guarded(name: Check['name'], work: () => Omit<Check, 'name'>): Check {
  try {
    return { name, ...work() };
  } catch (problem) {
    return {
      name,
      ok: false,
      detail: `This could not be checked: ${problem instanceof Error ? problem.message : String(problem)}.`,
    };
  }
}

function databaseCheck(database: Database): Check {
  return guarded('database', () => {
    const found = rows<Record<string, unknown>>(database, 'PRAGMA integrity_check(20)').map((row) =>
      String(Object.values(row)[0]),
    );
    return found[0] === 'ok'
      ? { ok: true, detail: `${number(database, 'PRAGMA page_count')} pages, all whole.` }
      : { ok: false, detail: found.slice(0, 5).join('; ') };
  });
}

function referencesCheck(database: Database): Check {
  return guarded('references', () => {
    const wrong = rows(database, 'PRAGMA foreign_key_check').length;
    const lost = REFERENCES.map(([table, column, other]) => {
      const own = table === 'counterpart' ? `AND t."sourceId" NOT LIKE 'import:%'` : '';
      return [
        `${table}.${column}`,
        number(
          database,
          `SELECT count(*) FROM "${table}" t WHERE t."${column}" IS NOT NULL ${own} AND NOT EXISTS (SELECT 1 FROM "${other}" o WHERE o.id = t."${column}")`,
        ),
      ] as const;
    });
    const strangers = ownedTables(database).map(
      (table) =>
        [
          table,
          number(
            database,
            `SELECT count(*) FROM "${table}" WHERE "ownerId" IS NOT NULL AND "ownerId" NOT IN (SELECT id FROM "user")`,
          ),
        ] as const,
    );
    const said = [...lost, ...strangers].filter(([, count]) => count > 0).map(([what, count]) => `${count} of ${what}`);
    return wrong || said.length
      ? {
          ok: false,
          detail: `Rows name others that are not there: ${[...said, ...(wrong ? [`${wrong} foreign keys`] : [])].join(', ')}.`,
        }
      : { ok: true, detail: 'Every row that names another finds it.' };
  });
}

async function filesCheck(data: string, database: Database, progress: Progress): Promise<Check> {
  const named = new Set(
    rows<{ hash: string }>(
      database,
      `SELECT "originalHash" AS hash FROM incoming WHERE "originalHash" IS NOT NULL UNION SELECT hash FROM attachment${[
        'task_file',
        'event_file',
      ]
        .filter((table) => ownedTables(database).includes(table))
        .map((table) => ` UNION SELECT hash FROM ${table}`)
        .join('')}`,
    ).map((one) => one.hash),
  );
  const kept = new Set((await filesIn(data)).map((one) => one.hash));
  let [missing, damaged, done] = [0, 0, 0];
  let example = '';
  for (const hash of named) {
    const found = kept.has(hash) ? await hashOfFile(fileOf(data, hash)) : null;
    if (found === null) missing += 1;
    else if (found !== hash) damaged += 1;
    if (found !== hash && !example) example = hash;
    progress((done += 1), named.size);
  }
  const extra = [...kept].filter((hash) => !named.has(hash)).length;
  const beside = extra ? ` ${extra} more belong to nothing and do no harm.` : '';
  return missing || damaged
    ? {
        name: 'files',
        ok: false,
        detail: `Of ${named.size} files ${missing} are missing and ${damaged} damaged (the first: ${example.slice(0, 12)}…).`,
      }
    : { name: 'files', ok: true, detail: `${named.size} files, each as it was kept.${beside}` };
}

function searchCheck(database: Database): Check {
  return guarded('search index', () => {
    const kept = rows<{ name: string }>(
      database,
      `SELECT substr(name, 8, length(name) - 14) AS name FROM sqlite_master WHERE type = 'trigger' AND name GLOB 'search_*_insert'`,
    );
    const searched = [...new Set([...SEARCHED, ...kept.map(({ name }) => name)])];
    const missing = searched
      .map(
        (table) =>
          [table, number(database, `SELECT count(*) FROM "${table}" WHERE id NOT IN (SELECT id FROM search_doc)`)] as const,
      )
      .filter(([, count]) => count > 0);
    const ghosts = number(
      database,
      `SELECT count(*) FROM search_doc d WHERE NOT EXISTS (SELECT 1 FROM search_fts_docsize s WHERE s.id = d.doc)
        OR d.id NOT IN (${searched.map((table) => `SELECT id FROM "${table}"`).join(' UNION ALL ')})`,
    );
    database.exec(`INSERT INTO search_fts (search_fts) VALUES ('integrity-check')`);
    return missing.length || ghosts
      ? {
          ok: false,
          detail: `Not in the index: ${missing.map(([table, count]) => `${count} of ${table}`).join(', ') || 'nothing'}; ${ghosts} entries too many.`,
        }
      : { ok: true, detail: `${number(database, 'SELECT count(*) FROM search_doc')} things can be found.` };
  });
}

function outboxCheck(database: Database): Check {
  return guarded('outbox', () => {
    const all = rows<{ state: string; payload: string; sourceId: string | null }>(
      database,
      'SELECT state, payload, "sourceId" FROM outbox',
    );
    const sources = new Set(rows<{ id: string }>(database, 'SELECT id FROM source').map((one) => one.id));
    const broken = all.filter((one) => !OUTBOX_STATES.includes(one.state) || !isJson(one.payload)).length;
    const lost = all.filter((one) => one.state === 'waiting' && one.sourceId !== null && !sources.has(one.sourceId)).length;
    const waiting = all.filter((one) => one.state === 'waiting').length;
    return broken || lost
      ? { ok: false, detail: `${broken} entries cannot be read, ${lost} wait for a source that is gone.` }
      : { ok: true, detail: `${all.length} entries, ${waiting} of them waiting.` };
  });
}

/** Every table whose rows belong to users. */
const ownedTables = (database: Database): string[] =>
  rows<{ name: string }>(
    database,
    `SELECT DISTINCT m.name FROM sqlite_master m JOIN pragma_table_info(m.name) c ON c.name = 'ownerId'
     WHERE m.type = 'table' AND m.name NOT LIKE 'search!_%' ESCAPE '!' ORDER BY m.name`,
  ).map(({ name }) => name);

/** Before the log was of everything that is written, it was of decisions. */
const logTable = (database: Database): 'entry' | 'decision' =>
  rows(database, `SELECT name FROM sqlite_master WHERE type = 'table' AND name = 'entry'`).length ? 'entry' : 'decision';

function logCheck(database: Database): Check {
  return guarded('log', () => {
    const all = rows<{ state: string; changes: string }>(database, `SELECT state, changes FROM ${logTable(database)}`);
    const broken = all.filter((one) => !LOG_STATES.includes(one.state) || !isJson(one.changes)).length;
    const alone = number(
      database,
      logTable(database) === 'entry'
        ? `SELECT count(*) FROM entry WHERE state IN ('done', 'undone') AND "actorId" IS NULL`
        : 'SELECT count(*) FROM (SELECT 1 FROM decision GROUP BY "ownerId", seq HAVING count(*) > 1)',
    );
    return broken || alone
      ? { ok: false, detail: `${broken} entries cannot be read, ${alone} could be taken back by nobody.` }
      : { ok: true, detail: `${all.length} entries, in one order.` };
  });
}

function isJson(text: string): boolean {
  try {
    JSON.parse(text);
    return true;
  } catch {
    return false;
  }
}
