import { soughtSpellings } from '@emporikon/core/people/naming/findable';
import { fold } from '@emporikon/core/people/text';

/** Every known word that holds what was typed, or is the same name spelt otherwise, as SQL over the values of heldValues. */
export const heldWords = (at: number): string =>
  `SELECT v.word FROM find_vocabulary v WHERE v.word LIKE '%' || :held${at} || '%'
   UNION SELECT s.word FROM find_spellings s WHERE s.spelling IN (:spelt${at})`;

/** What such a condition needs of each word. */
export const heldValues = (words: readonly string[]): Record<string, string | string[]> =>
  Object.fromEntries(
    words.flatMap((word, at) => {
      const { whole } = soughtSpellings(word);
      return [
        [`held${at}`, word],
        [`spelt${at}`, whole.length ? whole : [word]],
      ];
    }),
  );

/**
 * The condition that a record's name holds every word of a text, each as a part of one of its words or as the same name
 * spelt otherwise, and the values it needs. A part of one or two letters is a beginning.
 * @param id the column with the record's id, fixed by the caller
 */
export function nameHolds(
  kind: 'p' | 'c' | 'd' | 'l',
  id: string,
  q: string,
): { sql: string; replacements: Record<string, string | string[]> } {
  const words = fold(q).split(' ').filter(Boolean).slice(0, 6);
  const sql = words.map((word, at) => {
    const which =
      word.length < 3
        ? `f.word >= :held${at} AND f.word < :held${at} || chr(1114111)`
        : `f.word = ANY (ARRAY(${heldWords(at)}))`;
    return `${id} IN (SELECT f.id FROM find_words f WHERE f.kind = '${kind}' AND ${which})`;
  });
  return {
    sql: sql.length ? sql.join(' AND ') : q.trim() ? 'false' : 'true',
    replacements: heldValues(words),
  };
}
