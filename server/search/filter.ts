import { fold } from '@emporikon/core/people/text';

/**
 * The condition that a record's name holds every word of a text, each as a part of one of its words, and the values it
 * needs. A part of one or two letters is a beginning.
 * @param id the column with the record's id, fixed by the caller
 */
export function nameHolds(
  kind: 'p' | 'c' | 'd' | 'l',
  id: string,
  q: string,
): { sql: string; replacements: Record<string, string> } {
  const words = fold(q).split(' ').filter(Boolean).slice(0, 6);
  const replacements = Object.fromEntries(words.map((word, at) => [`held${at}`, word]));
  const sql = words.map((word, at) => {
    const which =
      word.length < 3
        ? `f.word >= :held${at} AND f.word < :held${at} || chr(1114111)`
        : `f.word = ANY (ARRAY(SELECT DISTINCT v.word FROM find_vocabulary v WHERE v.word LIKE '%' || :held${at} || '%'))`;
    return `${id} IN (SELECT f.id FROM find_words f WHERE f.kind = '${kind}' AND ${which})`;
  });
  return { sql: sql.length ? sql.join(' AND ') : q.trim() ? 'false' : 'true', replacements };
}
