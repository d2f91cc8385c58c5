import { meantWords, unslipped } from '@emporikon/core/query/find';
import type { Context } from '../commands/context';
import { askWithFixedPlan } from '../db/prepared';

/**
 * For each word the known words it may stand for: those a slip away, and those it is a part of, likeliest first.
 * @param terms folded, of three letters or more
 * @param inside whether parts of words count
 */
export async function alikeWords(
  context: Pick<Context, 'tx'>,
  terms: readonly string[],
  inside: boolean,
): Promise<Map<string, string[]>> {
  if (!terms.length) return new Map();
  const slips = terms.flatMap((term) => unslipped(term).map((word) => ({ term, word })));
  const rows = await askWithFixedPlan<{ term: string; word: string }>(
    context,
    `SELECT t.term, v.word FROM unnest($terms::text[]) AS t (term), LATERAL (
       (SELECT word FROM find_vocabulary WHERE $inside AND word LIKE '%' || t.term || '%' LIMIT 24)
       UNION (SELECT word FROM find_vocabulary WHERE word % t.term ORDER BY word <-> t.term LIMIT 40)
     ) v
     UNION SELECT o.term, v.word FROM unnest($slipped::text[], $were::text[]) AS o (term, word) JOIN find_vocabulary v USING (word)`,
    {
      terms: [...terms],
      inside,
      slipped: slips.map((slip) => slip.term),
      were: slips.map((slip) => slip.word),
    },
  );
  return new Map(
    terms.map((term) => [
      term,
      meantWords(
        term,
        rows.filter((row) => row.term === term).map((row) => row.word),
      ),
    ]),
  );
}

/** With more words that begin so, they are better met one by one. */
const MOST_BEGINNINGS = 24;
/** A word that so many records of a kind have is common. */
const COMMON = 900;

export interface Becoming {
  /** The known words a beginning may become; null where there are too many. */
  words: string[] | null;
  /** The kinds of records of which many have the word as it was typed. */
  commonTo: string[];
}

/**
 * The kind, where many of its records have a word that begins like the term. Its index asks for the kind as a constant;
 * without an order PostgreSQL reads the table until it has enough, which for a rare beginning is to the end; and under a
 * policy an end that is calculated from the term is no bound of the index, so that it comes as a value too.
 */
const commonTo = (kind: string): string =>
  `CASE WHEN (SELECT count(*) FROM (SELECT 1 FROM find_words f
     WHERE f.kind = '${kind}' AND f.word >= t.term AND f.word < t.ends ORDER BY f.word LIMIT ${COMMON}) few) = ${COMMON} THEN '${kind}' END`;

/** What beginnings may become, and how common they are as they stand. */
export async function wordsBeginning(
  context: Pick<Context, 'tx'>,
  terms: readonly string[],
): Promise<Becoming[]> {
  const rows = await askWithFixedPlan<{ words: string[]; common: string[] }>(
    context,
    `SELECT ARRAY(SELECT DISTINCT word FROM (SELECT word FROM find_vocabulary WHERE word >= t.term AND word < t.ends LIMIT ${MOST_BEGINNINGS * 2}) v LIMIT ${MOST_BEGINNINGS + 1}) AS words,
            array_remove(ARRAY[${['p', 'c', 'd'].map(commonTo).join(', ')}], NULL) AS common
       FROM unnest($terms::text[], $ends::text[]) WITH ORDINALITY AS t (term, ends, at) ORDER BY t.at`,
    { terms: [...terms], ends: terms.map((term) => `${term}\u{10ffff}`) },
  );
  // Words of one or two letters are not in the vocabulary.
  return rows.map(({ words, common }, at) => ({
    words: words.length > MOST_BEGINNINGS || (terms[at] ?? '').length < 3 ? null : words,
    commonTo: common,
  }));
}
