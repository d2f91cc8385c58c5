import pg from 'pg';

export interface Statement {
  text: string;
  values: unknown[];
}

/** What the program asks of the database meanwhile, so that it can be asked again without the program. */
export function listen(bare: pg.Client): { take: () => Statement[] } {
  const said: Statement[] = [];
  const query = pg.Client.prototype.query;
  pg.Client.prototype.query = function (this: pg.Client, ...args: unknown[]) {
    const [one, values] = args as [string | pg.QueryConfig, unknown[]?];
    const [text, bound] = typeof one === 'string' ? [one, values] : [one.text, one.values];
    if (this !== bare && /^\s*(SELECT|WITH)\b/i.test(text ?? '') && !/INTO|UPDATE sessions/.test(text ?? ''))
      said.push({ text, values: bound ?? [] });
    return (query as (...all: unknown[]) => unknown).apply(this, args);
  } as never;
  return { take: () => said.splice(0) };
}
