import { heldAs, type Held, type Term, type TermList } from '@emporikon/core/lifecycle/terms';
import type { Change } from '../db/models/ledger';
import { QueryTypes, type Sequelize, type Transaction } from 'sequelize';
import { invalid } from '../http/problems';

/** All standings, lead statuses and kinds of companies, each list in its order. */
export const loadTerms = ({ sequelize, tx }: { sequelize: Sequelize; tx: Transaction }): Promise<Term[]> =>
  sequelize.query<Term>(
    `SELECT list, key, name, counts_as AS "countsAs", retired_at IS NOT NULL AS "isRetired" FROM terms ORDER BY list, position, name`,
    { type: QueryTypes.SELECT, transaction: tx },
  );

/**
 * How a record is to hold a term that somebody chose.
 * @param now the key of the term it has; one that is retired can stay, and not be chosen anew
 * @throws 422 for none that is offered
 */
export async function requireTerm(
  context: { sequelize: Sequelize; tx: Transaction },
  list: TermList,
  key: string,
  { field, now }: { field: string; now?: string },
): Promise<Held> {
  const terms = await loadTerms(context);
  const held = heldAs(
    terms.filter(({ isRetired, key: each }) => !isRetired || each === now),
    list,
    key,
  );
  if (!held) throw invalid('Choose one that is on the list.', { fields: { [field]: 'is not on the list' } });
  return held;
}

/** The columns of each table that hold a term: the built-in one, and the organisation's own beside it. */
const COLUMNS: Readonly<Record<string, readonly [held: string, own: string]>> = {
  people: ['standing', 'standingTerm'],
  leads: ['status', 'statusTerm'],
  companies: ['kind', 'kindTerm'],
};
export const isTerm = (table: string, field: string): boolean => COLUMNS[table]?.[0] === field;

/** A change in which the column of a term says the key of it, whether that is built in or not. */
export function withTermKeys<Row extends Pick<Change, 'table' | 'before' | 'after'>>(change: Row): Row {
  const columns = COLUMNS[change.table];
  if (!columns) return change;
  const [held, own] = columns;
  const keyed = (row: Change['before']): Change['before'] => row && { ...row, [held]: row[own] ?? row[held] };
  return { ...change, before: keyed(change.before), after: keyed(change.after) };
}
