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
