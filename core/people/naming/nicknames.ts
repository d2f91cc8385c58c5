import { fold } from '../text';
import data from './nicknames.json';
import { spellingKey } from './spelling';

const groupsOf = (byLanguage: Record<string, string>): string[][] =>
  Object.values(byLanguage).flatMap((groups) => groups.split(' | ').map((line) => fold(line).split(' ')));
const GIVEN = groupsOf(data.given);

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
const ROOTS = { given: rootsBy(GIVEN), family: rootsBy(groupsOf(data.family)) };

/** The full names a name may be short for or another form of, as their roots; none where it is in no list. Folded. */
export const rootsOf = (name: string, as: 'given' | 'family' = 'given'): readonly string[] =>
  ROOTS[as].get(spellingKey(name)) ?? [];

const FORMS = new Map<string, string[]>();
for (const group of GIVEN) FORMS.set(group[0] ?? '', [...(FORMS.get(group[0] ?? '') ?? []), ...group]);

const EASTERN = new Set(
  [data.family.zh, data.family.ko]
    .flatMap((groups) => groups.split(/[ |]+/))
    .map((name) => spellingKey(name)),
);
/** Whether a word is a family name of China or Korea in Latin letters. */
export const isEasternFamily = (word: string): boolean => EASTERN.has(spellingKey(word));

/** All the forms a given name may take, short and full, itself first; folded. */
export const formsOf = (given: string): string[] => [
  ...new Set([given, ...rootsOf(given).flatMap((root) => FORMS.get(root) ?? [root])]),
];
