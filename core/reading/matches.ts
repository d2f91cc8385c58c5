/**
 * All matches of a global pattern in a text, as `matchAll` gives them, which makes a copy of the pattern for every text: of
 * patterns with hundreds of words in them that costs more than looking. Not to be asked again with the same pattern within.
 */
export function* matchesOf(pattern: RegExp, text: string): Generator<RegExpExecArray> {
  pattern.lastIndex = 0;
  for (let match = pattern.exec(text); match; match = pattern.exec(text)) {
    const next = match[0] ? pattern.lastIndex : pattern.lastIndex + 1;
    yield match;
    pattern.lastIndex = next;
  }
}

/**
 * The text in small letters, each where it stood, for patterns in small letters: to make a pattern of hundreds of words that
 * takes capitals too costs more than all it reads in an hour. A letter that would become two stays as it is.
 */
export function lowered(text: string): string {
  const small = text.toLowerCase();
  return small.length === text.length
    ? small
    : text.replace(/./gsu, (letter) => {
        const one = letter.toLowerCase();
        return one.length === letter.length ? one : letter;
      });
}
