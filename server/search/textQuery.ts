import { fold } from '@emporikon/core/people/text';

const MOST_WORDS = 8;

/** What was typed as a question of PostgreSQL's text search: beginnings of words that are all there; null for no words. */
export function textQueryOf(typed: string): string | null {
  const words = fold(typed).split(' ').filter(Boolean).slice(0, MOST_WORDS);
  return words.length ? words.map((word) => `'${word}':*`).join(' & ') : null;
}
