import type { EntityManager, EntityTarget, ObjectLiteral } from 'typeorm';

/** Values of one statement: SQLite takes 32,766. */
const MOST_VALUES = 32_000;
/** Rows of one statement: with more, preparing it costs more than it saves. */
const MOST_ROWS = 100;

/** Writes new rows, many with one statement whose text is made once; the query builder looks at every value anew. */
export async function insertRows(
  manager: EntityManager,
  entity: EntityTarget<ObjectLiteral>,
  rows: readonly ObjectLiteral[],
): Promise<void> {
  const { driver } = manager.connection;
  const { columns, tablePath } = manager.connection.getMetadata(entity);
  const names = columns.map((column) => driver.escape(column.databaseName)).join(', ');
  const group = `(${columns.map(() => '?').join(', ')})`;
  const most = Math.max(1, Math.min(MOST_ROWS, Math.floor(MOST_VALUES / columns.length)));
  for (let from = 0; from < rows.length; from += most) {
    const some = rows.slice(from, from + most);
    const values = some.flatMap((row) =>
      columns.map((column): unknown => driver.preparePersistentValue(row[column.propertyName] ?? column.default ?? null, column)),
    );
    await manager.query(`INSERT INTO ${driver.escape(tablePath)} (${names}) VALUES ${some.map(() => group).join(', ')}`, values);
  }
}
