/** The writing systems that names are told apart by; what is of none of them is `other`. */
export type Script = 'latin' | 'cyrillic' | 'greek' | 'kana' | 'han' | 'hangul' | 'arabic' | 'other';

const SCRIPTS: readonly [Script, RegExp][] = [
  ['cyrillic', /\p{Script=Cyrillic}/u],
  ['greek', /\p{Script=Greek}/u],
  ['hangul', /\p{Script=Hangul}/u],
  ['han', /\p{Script=Han}/u],
  ['kana', /[\p{Script=Hiragana}\p{Script=Katakana}]/u],
  ['arabic', /\p{Script=Arabic}/u],
  ['other', /[^\p{Script=Latin}\p{Script=Common}\p{Script=Inherited}]/u],
];

/** Which script a text is in, by its first letter that is not Latin; Han characters with kana among them are `han`. */
export function scriptOf(text: string): Script {
  if (!/[^\0-\u024f]/.test(text)) return 'latin';
  return SCRIPTS.find(([, letters]) => letters.test(text))?.[0] ?? 'latin';
}
