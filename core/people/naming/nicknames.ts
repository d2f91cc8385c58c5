import { fold } from '../text';
import data from './nicknames.json';
import { spellingKey } from './spelling';

const groupsOf = (byLanguage: Record<string, string>): string[][] =>
  Object.values(byLanguage).flatMap((groups) => groups.split(' | ').map((line) => fold(line).split(' ')));
const GIVEN = groupsOf(data.given);
const FAMILY = groupsOf(data.family);

/** By key of spelling, the full names that a name may be short for or another form of. */
function rootsBy(groups: readonly string[][]): Map<string, string[]> {
  const roots = new Map<string, string[]>();
  for (const [root = '', ...forms] of groups)
    for (const name of [root, ...forms]) {
      const key = spellingKey(name);
      const known = roots.get(key) ?? [];
      if (!known.includes(root)) roots.set(key, [...known, root]);
    }
  return roots;
}
const ROOTS = { given: rootsBy(GIVEN), family: rootsBy(FAMILY) };

/** The full names a name may be short for or another form of, as their roots; none where it is in no list. Folded. */
export const rootsOf = (name: string, as: 'given' | 'family' = 'given'): readonly string[] =>
  ROOTS[as].get(spellingKey(name)) ?? [];

/** By root, all the names of its groups. */
function formsBy(groups: readonly string[][]): Map<string, string[]> {
  const forms = new Map<string, string[]>();
  for (const group of groups) forms.set(group[0] ?? '', [...(forms.get(group[0] ?? '') ?? []), ...group]);
  return forms;
}
const FORMS = { given: formsBy(GIVEN), family: formsBy(FAMILY) };

const EASTERN = new Set(
  [data.family.zh, data.family.ko]
    .flatMap((groups) => groups.split(/[ |]+/))
    .map((name) => spellingKey(name)),
);
/** Whether a word is a family name of China or Korea in Latin letters. */
export const isEasternFamily = (word: string): boolean => EASTERN.has(spellingKey(word));

/** All the forms a name may take, short and full, itself first; folded. */
export const formsOf = (name: string, as: 'given' | 'family' = 'given'): string[] => [
  ...new Set([name, ...rootsOf(name, as).flatMap((root) => FORMS[as].get(root) ?? [root])]),
];
