import common from './common.json';

let known: ReadonlySet<string> | null = null;

/** Whether a word, folded, is one of those that a language uses most: what is none of them is likelier to be a name. */
export const isCommonWord = (folded: string): boolean =>
  (known ??= new Set(common.words.split(' '))).has(folded);
