import { checkQuery } from '@emporikon/core/query/check';
import { registryWith } from '@emporikon/core/query/registry/index';
import { runQuery } from '@emporikon/core/query/run';
import type { Schema } from '@emporikon/core/query/sql/scope';
import type { Query } from '@emporikon/core/query/types';
import { runInTransaction } from '../commands/context';
import { seededRandom } from '../testing/fuzz';
import { useHouse } from '../testing/harness';
import { makeQueryBook, OWN_TERMS } from '../testing/queryBook';
import type { QueryBook } from '../testing/queryPlain';
import { randomQuery } from '../testing/randomQuery';
import { pageOfIds, totalsOf } from './answer';
import { STORAGE } from './storage/index';

const use = useHouse();
const KINDS = ['person', 'company', 'lead', 'deal', 'task'] as const;
const [BOOKS, QUERIES] = [4, 250];
const option = ({ id }: { id: string }) => ({ value: id, label: id });

let stages: { id: string; kind: string }[];
let users: QueryBook['users'];
beforeAll(async () => {
  const ask = async <Row>(sql: string): Promise<Row[]> => (await use.house.sequelize.query(sql))[0] as Row[];
  await use.house.sequelize.query(
    "UPDATE users SET team = CASE WHEN name LIKE 'Pell%' OR name LIKE 'Mara%' THEN 'South' ELSE '' END",
  );
  for (const [at, { list, key, countsAs }] of OWN_TERMS.entries())
    await use.house.sequelize.query(
      'INSERT INTO terms (id, list, key, name, counts_as, position) VALUES (gen_random_uuid(), $list, $key, $key, $countsAs, $at)',
      { bind: { list, key, countsAs, at: at + 20 } },
    );
  stages = await ask('SELECT id, kind FROM stages ORDER BY position');
  users = await ask('SELECT id, team FROM users ORDER BY name');
});

const schemaOf = (book: QueryBook): Schema => {
  const me = book.users.find((user) => user.team === 'South') ?? { id: '', team: '' };
  return {
    storage: STORAGE,
    registry: registryWith({
      options: {
        '*.user': users.map(option),
        'deal.stage': stages.map(option),
        'person.standing': ['hot', 'customer', 'prospect', 'stranger', 'partner'].map((id) => option({ id })),
        'lead.status': ['demo booked', 'qualified', 'working', 'new'].map((id) => option({ id })),
      },
    }),
    asking: {
      now: book.now,
      zone: 'Europe/Lisbon',
      me: me.id,
      team: book.users.filter((user) => user.team === me.team).map((user) => user.id),
    },
    rates: { EUR: 1, USD: 0.8 },
  };
};

/** Numbers that were added up in another order may differ in their last places. */
const rounded = (value: number | string | null): number | string | null =>
  typeof value === 'number' ? Number(value.toPrecision(10)) : value;

async function bothWays(schema: Schema, book: QueryBook, query: Query): Promise<void> {
  const inMemory = runQuery(
    query,
    book.records[query.kind as (typeof KINDS)[number]],
    schema.registry,
    schema.asking,
  );
  const inSql = await runInTransaction(use.house.tools, null, async (context) => {
    const ids: string[] = [];
    let cursor: string | undefined;
    do {
      const page = await pageOfIds(context, schema, query, { cursor, limit: 7 });
      ids.push(...page.ids);
      cursor = page.next ?? undefined;
    } while (cursor);
    return { ids, ...(await totalsOf(context, schema, query)) };
  });
  expect({ query, ids: inSql.ids }).toEqual({ query, ids: inMemory.records.map(({ id }) => id) });
  const shown = (totals: typeof inSql.totals) =>
    totals.map(({ keys, count, totals: of }) => ({ keys, count, of: of.map(rounded) }));
  expect({ query, totals: shown(inSql.totals) }).toEqual({ query, totals: shown(inMemory.totals) });
}

it.each(Array.from({ length: BOOKS }, (_, seed) => seed + 1))(
  'random questions of random records (seed %d) have the same rows, order, pages and totals in memory and in the database',
  async (seed) => {
    const book = await makeQueryBook(use.house.sequelize, users, stages, seed);
    const schema = schemaOf(book);
    const next = seededRandom(seed * 1000);
    let found = 0;
    for (let n = 0; n < QUERIES; n++) {
      const kind = KINDS[n % KINDS.length] ?? 'person';
      const query = randomQuery(
        next,
        { registry: schema.registry, records: book.records, me: schema.asking.me ?? '' },
        kind,
      );
      expect({ query, issues: checkQuery(query, schema.registry) }).toEqual({ query, issues: [] });
      await bothWays(schema, book, query);
      const { length } = runQuery(query, book.records[kind], schema.registry, schema.asking).records;
      if (length > 0 && length < book.records[kind].length) found++;
    }
    // Most of them tell records apart; a check of empty answers would say little.
    expect(found).toBeGreaterThan(QUERIES / 2);
  },
  120_000,
);
