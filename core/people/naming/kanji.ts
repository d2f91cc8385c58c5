import { fold } from '../text';
import names from './kanji.json';

const tableOf = (lines: string): Map<string, string[]> =>
  new Map(
    lines.split('\n').map((line) => {
      const [written = '', ...readings] = line.split(' ');
      return [written, readings];
    }),
  );
let tables: { family: Map<string, string[]>; given: Map<string, string[]> } | null = null;
const ofJapan = (): NonNullable<typeof tables> =>
  (tables ??= { family: tableOf(names.family), given: tableOf(names.given) });

/** How a name in kanji is read in Japan, in Latin letters, the commonest reading first; none where it is no such name. */
export function readingsOf(word: string, as: 'given' | 'family' | 'either'): readonly string[] {
  const { family, given } = ofJapan();
  const of = (table: Map<string, string[]>): readonly string[] => (table.get(word) ?? []).map(fold);
  if (as === 'given') return of(given);
  return as === 'family' ? of(family) : [...of(family), ...of(given)];
}

/** Family names of two characters in Chinese; common practice, from memory. */
const COMPOUND = new Set(
  '欧阳 歐陽 司马 司馬 上官 诸葛 諸葛 东方 東方 皇甫 尉迟 公孙 公孫 慕容 司徒 令狐 南宮 남궁 황보 제갈 선우 독고'.split(
    ' ',
  ),
);

/** A name written without a space, as Chinese, Japanese and Korean names are, parted into family and given name. */
export function partUnspaced(name: string): { family: string; given: string } | null {
  const letters = [...name];
  if (letters.length < 2 || letters.length > 6) return null;
  const part = (size: number): { family: string; given: string } => ({
    family: letters.slice(0, size).join(''),
    given: letters.slice(size).join(''),
  });
  if (letters.length > 2 && COMPOUND.has(letters.slice(0, 2).join(''))) return part(2);
  if (/\p{Script=Han}/u.test(name)) {
    const { family, given } = ofJapan();
    // Of several ways the one whose two halves are both names; else the longest family name.
    for (let size = Math.min(3, letters.length - 1); size > 0; size--)
      if (family.has(part(size).family) && given.has(part(size).given) && (size > 1 || letters.length > 3))
        return part(size);
    for (let size = Math.min(3, letters.length - 1); size > 1; size--)
      if (family.has(part(size).family) && letters.length > 3) return part(size);
  }
  return letters.length <= 4 ? part(letters.length === 4 ? 2 : 1) : null;
}
