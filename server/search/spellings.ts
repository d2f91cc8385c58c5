import { soughtSpellings, spellingsOf, type SoughtSpellings } from '@emporikon/core/people/naming/findable';
import { QueryTypes, type Sequelize, type Transaction } from 'sequelize';
import { z } from 'zod';
import { runInTransaction } from '../commands/context';
import type { Context, Within } from '../commands/types';
import { askWithFixedPlan } from '../db/prepared';
import { defineJob } from '../jobs/job';

/** So many new words are spelt at a time. */
const AT_ONCE = 2000;

/**
 * Writes down how words that are new in the vocabulary are spelt otherwise, so that records are found by them.
 * @returns whether there may be more
 */
export async function spellNewWords(sequelize: Sequelize, tx: Transaction): Promise<boolean> {
  // Those another transaction has at hand are left to it.
  const words = await sequelize.query<{ word: string }>(
    `DELETE FROM find_unspelt WHERE ctid = ANY (ARRAY(SELECT ctid FROM find_unspelt LIMIT ${AT_ONCE} FOR UPDATE SKIP LOCKED)) RETURNING word`,
    { type: QueryTypes.SELECT, transaction: tx },
  );
  if (!words.length) return false;
  const spelt = [...new Set(words.map(({ word }) => word))].flatMap((word) =>
    spellingsOf(word).map((spelling) => ({ word, spelling })),
  );
  // A key would let two commands that bring the same word wait for each other; what stands twice does no harm.
  await sequelize.query(
    `INSERT INTO find_spellings (spelling, word) SELECT n.spelling, n.word FROM unnest($spellings::text[], $words::text[]) AS n (spelling, word)
      WHERE NOT EXISTS (SELECT 1 FROM find_spellings s WHERE s.spelling = n.spelling AND s.word = n.word)`,
    {
      bind: { spellings: spelt.map((one) => one.spelling), words: spelt.map((one) => one.word) },
      transaction: tx,
    },
  );
  return words.length === AT_ONCE;
}

const NAMED = new Set(['people', 'companies', 'leads', 'deals', 'contact_points']);

/** What a command named is found under its other spellings as soon as the command is done. */
export const keepSpellings: Within = async ({ sequelize }, tx, { changes }) => {
  if (changes.some(({ table }) => NAMED.has(table))) await spellNewWords(sequelize, tx);
};

/** Spells what came in past the commands: with an import, a restored archive, or a database of before. */
export const spellWordsJob = defineJob({
  name: 'spellWords',
  lane: 'short',
  input: z.unknown(),
  cron: '*/2 * * * *',
  run: async (tools) => {
    while (await runInTransaction(tools, null, ({ sequelize, tx }) => spellNewWords(sequelize, tx)));
  },
});

/** So many words a term may stand for. */
const [MOST_WHOLE, MOST_BEGINNING, MOST_WORDS] = [12, 24, 48];

/**
 * For each typed word the known words that are the same name in another script, by another scheme, or another form of it;
 * those that are it as a whole come first. The words themselves are not among them.
 * @param terms folded
 * @param by in which ways they may be the same; as beginnings where more may follow what was typed
 */
export async function wordsSpelt(
  context: Pick<Context, 'tx'>,
  terms: readonly string[],
  by: readonly (keyof SoughtSpellings)[],
): Promise<string[][]> {
  const sought = terms.map(soughtSpellings);
  const list = (of: keyof SoughtSpellings): { spelling: string; at: number }[] =>
    sought.flatMap((one, at) => one[of].map((spelling) => ({ spelling, at })));
  const of = (ways: readonly (keyof SoughtSpellings)[]): ReturnType<typeof list> =>
    ways.filter((way) => by.includes(way)).flatMap(list);
  const [whole, beginning] = [of(['whole', 'forms']), of(['beginnings'])];
  if (!whole.length && !beginning.length) return terms.map(() => []);
  const rows = await askWithFixedPlan<{ at: number; word: string }>(
    context,
    `SELECT at, word FROM (
       SELECT t.at, s.word, 0 AS level FROM unnest($whole::text[], $wholeAt::int[]) AS t (spelling, at)
         CROSS JOIN LATERAL (SELECT word FROM find_spellings WHERE spelling = t.spelling LIMIT ${MOST_WHOLE}) s
       UNION ALL
       SELECT t.at, s.word, 1 FROM unnest($starts::text[], $ends::text[], $startAt::int[]) AS t (starts, ends, at)
         CROSS JOIN LATERAL (SELECT word FROM find_spellings WHERE spelling >= t.starts AND spelling < t.ends ORDER BY spelling LIMIT ${MOST_BEGINNING}) s) found
      GROUP BY at, word ORDER BY at, min(level), word`,
    {
      whole: whole.map((one) => one.spelling),
      wholeAt: whole.map((one) => one.at),
      starts: beginning.map((one) => one.spelling),
      ends: beginning.map((one) => `${one.spelling}\u{10ffff}`),
      startAt: beginning.map((one) => one.at),
    },
  );
  const found: string[][] = terms.map(() => []);
  for (const { at, word } of rows)
    if (word !== terms[at] && (found[at]?.length ?? MOST_WORDS) < MOST_WORDS) found[at]?.push(word);
  return found;
}
