import { OptimisticLockError, QueryTypes, type Model, type ModelStatic, type Transaction } from 'sequelize';
import type { Change } from '../db/models/ledger';
import type { Tools } from './types';

/** New values of one row: the version it was read at, what stood there, and what comes to stand there. */
export interface RowPatch {
  id: string;
  version: number;
  before: Readonly<Record<string, unknown>>;
  patch: Readonly<Record<string, unknown>>;
  /** What else of the row stands in the event. */
  told: Readonly<Record<string, unknown>>;
}

interface Column {
  attribute: string;
  /** As SQL names it. */
  name: string;
  type: string;
}

function columnsOf(model: ModelStatic<Model>, attributes: readonly string[]): Column[] {
  const known = model.getAttributes() as Record<string, { field?: string; type: unknown }>;
  return attributes.map((attribute) => {
    const { field = attribute, type } = known[attribute] ?? {};
    if (!type) throw new Error(`${model.tableName} has no ${attribute}`);
    return { attribute, name: `"${field}"`, type: (type as { toSql: () => string }).toSql() };
  });
}

/**
 * Writes many rows of one table in one statement, each with the next version.
 * @param model of a table of records, whose rows are held by this transaction
 * @returns what changed, for the event: of each row what was written and what is told with it
 * @throws OptimisticLockError where a row is not at its version any more, so that the command is run again
 */
export async function updateRows(
  { sequelize }: Pick<Tools, 'sequelize'>,
  tx: Transaction,
  model: ModelStatic<Model>,
  rows: readonly RowPatch[],
  now: Date,
): Promise<Change[]> {
  if (!rows.length) return [];
  const written = columnsOf(model, [...new Set(rows.flatMap(({ patch }) => Object.keys(patch)))]);
  const given = rows.map(({ id, version, before, patch }) => ({
    id,
    version,
    ...Object.fromEntries(
      written.map(({ attribute, name }) => [
        name.slice(1, -1),
        attribute in patch ? patch[attribute] : before[attribute],
      ]),
    ),
  }));
  const found = await sequelize.query<{ id: string }>(
    `UPDATE ${model.tableName} t SET version = t.version + 1, updated_at = $now::timestamptz${written.map(({ name }) => `, ${name} = r.${name}`).join('')}
       FROM jsonb_to_recordset($rows::jsonb) AS r (id uuid, version integer${written.map(({ name, type }) => `, ${name} ${type}`).join('')})
      WHERE t.id = r.id AND t.version = r.version RETURNING t.id`,
    { bind: { rows: JSON.stringify(given), now }, type: QueryTypes.SELECT, transaction: tx },
  );
  if (found.length !== rows.length)
    throw new OptimisticLockError({ modelName: model.name, values: {}, where: {} });
  return rows.map(({ id, version, before, patch, told }) => ({
    table: model.tableName,
    id,
    before: {
      id,
      version,
      ...told,
      ...Object.fromEntries(Object.keys(patch).map((key) => [key, before[key] ?? null])),
    },
    after: { id, version: version + 1, ...told, ...patch },
  }));
}
