import { fold } from '@emporikon/core/people/text';
import { QueryTypes } from 'sequelize';
import type { Context } from '../commands/context';
import { heldValues, heldWords } from '../search/filter';

export interface Named {
  id: string;
  name: string;
}

/** Words of fewer letters are in no vocabulary. */
const SHORTEST = 3;
/** So far rows are counted to find the rarest word. */
const COUNTED = 2000;
const MOST_WORDS = 6;

const ask = <Row extends object>(
  context: Context,
  sql: string,
  replacements: Record<string, unknown>,
): Promise<Row[]> =>
  context.sequelize.query<Row>(sql, { replacements, type: QueryTypes.SELECT, transaction: context.tx });

/** The word that the fewest people have, by its place among those typed. */
async function rarest(
  context: Context,
  words: readonly string[],
  values: Record<string, unknown>,
): Promise<number> {
  let best = { at: -1, count: Infinity };
  for (const [at, word] of words.entries()) {
    if (word.length < SHORTEST) continue;
    const [row] = await ask<{ count: number }>(
      context,
      `SELECT count(*)::int AS count FROM (
         SELECT 1 FROM (${heldWords(at)}) v JOIN find_words f ON f.kind = 'p' AND f.word = v.word LIMIT ${COUNTED}) counted`,
      values,
    );
    if (row && row.count < best.count) best = { at, count: row.count };
  }
  return best.at;
}

/**
 * People whose name holds every word of a text, each as a part of one of its words or spelt otherwise, in the order of
 * names. Each known word gives its first ones by an index that is in that order, so that a page costs the same however common the word.
 * @param after the last one seen
 * @returns null where no word is long enough to go by
 */
export async function namesHolding(
  context: Context,
  q: string,
  after: Named | null,
  limit: number,
): Promise<Named[] | null> {
  const words = fold(q).split(' ').filter(Boolean).slice(0, MOST_WORDS);
  const values = heldValues(words);
  const at = await rarest(context, words, values);
  if (at < 0) return null;
  const others = words.flatMap((word, index) =>
    index === at
      ? []
      : `AND EXISTS (SELECT 1 FROM find_words o WHERE o.id = f.id AND (o.word LIKE ${word.length < SHORTEST ? '' : "'%' ||"} :held${index} || '%'
           OR o.word IN (SELECT s.word FROM find_spellings s WHERE s.spelling IN (:spelt${index}))))`,
  );
  return ask<Named>(
    context,
    `SELECT first.id, first.name FROM (${heldWords(at)}) v
       CROSS JOIN LATERAL (
         SELECT f.id, f.name FROM find_words f
          WHERE f.kind = 'p' AND f.word = v.word ${after ? 'AND (f.name, f.id) > (:name, :id::uuid)' : ''} ${others.join(' ')}
          ORDER BY f.name, f.id LIMIT :limit) first
      GROUP BY 1, 2 ORDER BY first.name, first.id LIMIT :limit`,
    { ...values, ...after, limit },
  );
}
