import { nameKey } from '@emporikon/core/people/names';
import { partedTerms } from '@emporikon/core/people/naming/findable';
import type { Context } from '../commands/context';
import { wordsSpelt } from '../search/spellings';

/** So many words of the book a word of a name may stand for, and so many keys a name may come to. */
const [MOST_FOR_A_WORD, MOST_KEYS] = [4, 12];
const MOST_WORDS = 3;

/** All ways to take one of each list, as the keys of names; the first of each list is tried first. */
function keysOf(lists: readonly (readonly string[])[]): string[] {
  let ways: string[][] = [[]];
  for (const list of lists)
    ways = ways.flatMap((way) => list.map((word) => [...way, word])).slice(0, 4 * MOST_KEYS);
  return [...new Set(ways.map((words) => [...new Set(words)].sort().join(' ')))];
}

/**
 * The keys under which many names may stand in the book in another script or spelling, in one question however many they
 * are; not the keys of the names as they are.
 * @returns by name
 */
export async function namesSpelt(
  context: Pick<Context, 'tx'>,
  fullNames: readonly string[],
): Promise<ReadonlyMap<string, string[]>> {
  const names = new Map(
    fullNames.map((name) => [name, partedTerms(nameKey(name).split(' ').filter(Boolean))] as const),
  );
  const words = [...new Set([...names.values()].filter((parts) => parts.length <= MOST_WORDS).flat())];
  const spelt = await wordsSpelt(context, words, ['whole']);
  const others = new Map(words.map((word, at) => [word, (spelt[at] ?? []).slice(0, MOST_FOR_A_WORD)]));
  const found = new Map<string, string[]>();
  for (const [name, parts] of names) {
    if (parts.length < 2 || parts.length > MOST_WORDS) continue;
    const key = nameKey(name);
    const keys = keysOf(parts.map((part) => [part, ...(others.get(part) ?? [])])).filter(
      (one) => one !== key,
    );
    if (keys.length) found.set(name, keys.slice(0, MOST_KEYS));
  }
  return found;
}
