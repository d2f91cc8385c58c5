import type { Book } from '@emporikon/core/matching/verdict';
import type { Weights } from '@emporikon/core/matching/weights';
import { nameKey } from '@emporikon/core/people/names';
import type { Context } from '../commands/context';
import { askPrepared } from '../db/prepared';

/** So many namesakes are counted, and no more. */
const COUNTED = 5000;
/** A number that so many people have is a switchboard. */
const SWITCHBOARD = 4;

interface Row {
  records: number;
  namesakes: number;
  switchboards: string[];
  weights: Weights | null;
}

/**
 * The book that somebody is looked for in: how many records there are, how many have this name, which of the numbers are
 * switchboards, and the weights of the house.
 */
export async function bookOf(
  context: Context,
  kind: 'person' | 'company',
  fullName: string,
  phones: readonly string[] = [],
): Promise<Book & { switchboards: string[] }> {
  const key = kind === 'person' ? nameKey(fullName) : '';
  const [row] = await askPrepared<Row>(context, `SELECT ${COLUMNS}`, {
    table: kind === 'person' ? 'people' : 'companies',
    kind,
    key,
    phones: [...phones],
  });
  return asBook(row, key);
}

/** The same for many people, in one question; in their order. */
export async function personBooks(
  context: Context,
  people: readonly { fullName: string; phones: readonly string[] }[],
): Promise<(Book & { switchboards: string[] })[]> {
  const sought = people.map(({ fullName, phones }, n) => ({ n, key: nameKey(fullName), phones }));
  const rows = await askPrepared<Row & { n: number }>(
    context,
    `SELECT w.n, ${COLUMNS.replace('$key', 'w.key').replace('$phones', 'w.phones')}
       FROM jsonb_to_recordset($sought::jsonb) AS w (n int, key text, phones text[])`,
    { table: 'people', kind: 'person', sought: JSON.stringify(sought) },
  );
  const byPlace = new Map(rows.map((row) => [row.n, row]));
  return sought.map(({ n, key }) => asBook(byPlace.get(n), key));
}

const COLUMNS = `(SELECT greatest(reltuples, 0)::int FROM pg_class WHERE oid = $table::regclass) AS records,
            (SELECT count(*)::int FROM (SELECT 1 FROM people WHERE name_key = $key LIMIT ${COUNTED}) many) AS namesakes,
            ARRAY(SELECT num FROM unnest($phones::text[]) num
                   WHERE (SELECT count(*) FROM (SELECT 1 FROM contact_points WHERE kind = 'phone' AND normalized COLLATE "C" = num LIMIT ${SWITCHBOARD}) few) = ${SWITCHBOARD}) AS switchboards,
            (SELECT weights FROM match_weights WHERE kind = $kind ORDER BY made_at DESC LIMIT 1) AS weights`;

const asBook = (row: Row | undefined, key: string): Book & { switchboards: string[] } => ({
  records: row?.records ?? 0,
  namesakes: key ? Math.max(1, row?.namesakes ?? 0) : null,
  switchboards: row?.switchboards ?? [],
  ...(row?.weights ? { weights: row.weights } : {}),
});
