import type pg from 'pg';
import type { Context } from '../commands/types';

interface Prepared {
  name: string;
  text: string;
  keys: string[];
}

/** How each statement is called on a connection, with its parameters in their order; the statements are few and fixed. */
const prepared = new Map<string, Prepared>();

function preparedOf(sql: string): Prepared {
  const known = prepared.get(sql);
  if (known) return known;
  const keys: string[] = [];
  const text = sql.replace(/\$([a-z]\w*)/g, (_, key: string) => {
    if (!keys.includes(key)) keys.push(key);
    return `$${keys.indexOf(key) + 1}`;
  });
  const made = { name: `statement ${prepared.size + 1}`, text, keys };
  prepared.set(sql, made);
  return made;
}

/** The pg client a Sequelize transaction works on. */
export const clientOf = (context: Pick<Context, 'tx'>): pg.Client =>
  (context.tx as unknown as { connection: pg.Client }).connection;

/**
 * Runs a statement that is asked all day, in the transaction of the context, planned once on each connection: planning
 * takes a good part of the time else.
 * @param sql fixed text of ours with named parameters (`$name`)
 */
export async function askPrepared<Row extends object>(
  context: Pick<Context, 'tx'>,
  sql: string,
  bind: Record<string, unknown>,
): Promise<Row[]> {
  const { name, text, keys } = preparedOf(sql);
  const { rows } = await clientOf(context).query<Row>({ name, text, values: keys.map((key) => bind[key]) });
  return rows;
}
