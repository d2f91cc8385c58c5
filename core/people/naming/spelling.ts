/** What is written otherwise by other schemes and countries and is the same sound, in the order in which it is replaced. */
const ALIKE: readonly [RegExp, string][] = [
  [/schtsch|shch|szcz|chtch|stch/g, 'sc'],
  [/tsch|tch|tsh|cz/g, 'c'],
  [/dzh|dsch|dj|dz(?=[aeiou])/g, 'j'],
  [/sch|sh|sz/g, 's'],
  [/zh/g, 'z'],
  [/kh|gh/g, 'h'],
  [/ph/g, 'f'],
  [/th/g, 't'],
  [/ck|q|c(?=[aouklrt])|c$/g, 'k'],
  [/x/g, 'ks'],
  [/tz|ts/g, 'c'],
  [/w/g, 'v'],
  [/ou|oo/g, 'u'],
  [/ee/g, 'i'],
  [/[yj]/g, 'i'],
  [/(.)\1+/g, '$1'],
  [/^ie/g, 'e'],
  [/ai/g, 'ei'],
  [/(?<=[aeiou])f$/g, 'v'],
  [/(?<=[aeiou])h$/g, ''],
  [/ii+/g, 'i'],
];

const ROMAJI =
  /^(?:(?:[kgsztdnhbpmr]y?|sh|ch|ts|j|f|w|y)?[aiueo]|n(?![aiueo])|h(?![aiueo])|[kstp](?=[kstpc]))+$/;
/** Romaji by other schemes than Hepburn's, and long vowels, which are written in as many ways. */
const AS_HEPBURN: readonly [RegExp, string][] = [
  [/sy/g, 'sh'],
  [/ty/g, 'ch'],
  [/zy|jy/g, 'j'],
  [/si/g, 'shi'],
  [/ti/g, 'chi'],
  [/tu/g, 'tsu'],
  [/hu/g, 'fu'],
  [/zi/g, 'ji'],
  [/oh(?![aiueo])|ou|oo/g, 'o'],
  [/uu/g, 'u'],
  [/m(?=[bp])/g, 'n'],
];

const replaced = (text: string, rules: readonly [RegExp, string][]): string =>
  rules.reduce((left, [from, to]) => left.replace(from, to), text);

/**
 * The key under which the spellings of one name come together however it was brought into Latin letters: "Yuri", "Juri" and
 * "Iurii", "Aleksei" and "Alexey", "Ohno" and "Oono", "Youssef" and "Yusef". Ours; common practice.
 * @param word one folded word in Latin letters
 */
export function spellingKey(word: string): string {
  let key = known.get(word);
  if (key === undefined) {
    if (known.size >= REMEMBERED) known.clear();
    key = keyOf(word);
    known.set(word, key);
  }
  return key;
}
/** Words of names come again and again. */
const known = new Map<string, string>();
const REMEMBERED = 50_000;

function keyOf(word: string): string {
  const asHepburn = word.length > 2 && ROMAJI.test(word) ? replaced(word, AS_HEPBURN) : word;
  return replaced(asHepburn, ALIKE) || word;
}

/** What Mandarin, Cantonese and Korean names come down to whatever the scheme (Pinyin, Wade–Giles, Yale, Revised Romanization, McCune–Reischauer). */
const EASTERN: readonly [RegExp, string][] = [
  [/hs|sh|ss|x/g, 's'],
  [/tsz|tz|ts|zh|ch|jj|[czqj]/g, 'c'],
  [/[kg]+/g, 'k'],
  [/[pb]+/g, 'p'],
  [/[td]+/g, 't'],
  [/[rl]+/g, 'l'],
  [/ui|ee/g, 'e'],
  [/w|hw/g, 'u'],
  [/yeo|you|yu|yo/g, 'iu'],
  [/y/g, 'i'],
  [/eo|oo|eu|ou|u|o/g, 'u'],
  [/ae|ai|ay|ee|ei|ui/g, 'e'],
  [/(.)\1+/g, '$1'],
];

/** A coarser key for names of China and Korea, whose schemes differ in nearly every letter. */
export const easternKey = (word: string): string => replaced(word, EASTERN);

/** The consonants of a word without its article, as scripts that write no vowels have it. */
export const consonantsOf = (word: string): string =>
  spellingKey(word.replace(/^[ae]l(?=[a-z]{4})/, '')).replace(/[aeiouvyh]/g, '');
