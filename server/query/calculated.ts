import type { OwnRecord } from '@emporikon/core/fields/own';
import type { Schema } from '@emporikon/core/query/sql/scope';
import type { RecordKind } from '@emporikon/core/query/types';
import { QueryTypes } from 'sequelize';
import type { Context } from '../commands/context';
import { calculatorFor, type Values } from '../fields/values';
import type { Said } from './answer';
import { CUSTOM } from './ownFields';

/** Puts what formulas come to into the columns that ask for it. */
export async function calculateColumns(
  context: Context,
  { registry, storage }: Schema,
  { kind, columns }: { kind: RecordKind; columns: readonly string[] },
  found: ReadonlyMap<string, Said>,
): Promise<void> {
  const { fields } = registry[kind];
  const formulas = columns.filter((column) => fields.get(column)?.type === 'calculated');
  if (!formulas.length || !found.size) return;
  const rows = await context.sequelize.query<{ id: string; custom: Values }>(
    `SELECT id, custom FROM ${storage[kind].table} WHERE id = ANY ($ids::uuid[])`,
    { bind: { ids: [...found.keys()] }, type: QueryTypes.SELECT, transaction: context.tx },
  );
  const calculate = await calculatorFor(
    context,
    kind as OwnRecord,
    rows.map(({ custom }) => custom),
  );
  for (const { id, custom } of rows) {
    const said = found.get(id);
    for (const column of formulas)
      if (said) said.values[column] = calculate(column.slice(CUSTOM.length), custom) || null;
  }
}
