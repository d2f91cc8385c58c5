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

/**
 * The same for a long statement: its plan is made without a look at the values and kept. PostgreSQL would plan it anew for
 * the values of every call, which takes longer than to run it, and more so under policies. For statements that are written
 * so that one plan is right for all values.
 */
export const askWithFixedPlan = <Row extends object>(
  context: Pick<Context, 'tx'>,
  sql: string,
  bind: Record<string, unknown>,
): Promise<Row[]> => withFixedPlans(context, () => askPrepared<Row>(context, sql, bind));

/** Transactions whose statements keep their plans at the moment. */
const fixed = new WeakSet<object>();

/** Several such statements one after the other, without saying so for each. */
export async function withFixedPlans<Result>(
  context: Pick<Context, 'tx'>,
  ask: () => Promise<Result>,
): Promise<Result> {
  const { tx } = context;
  if (fixed.has(tx)) return ask();
  const client = clientOf(context);
  await client.query('SET LOCAL plan_cache_mode = force_generic_plan');
  fixed.add(tx);
  try {
    const result = await ask();
    await client.query('SET LOCAL plan_cache_mode = auto');
    return result;
  } finally {
    fixed.delete(tx);
  }
}
