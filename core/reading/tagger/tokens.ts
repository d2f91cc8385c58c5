/** A word, number or mark of a note, with its place. */
export interface Token {
  text: string;
  start: number;
  end: number;
}

const TOKEN =
  /[\p{L}\p{N}._%+-]+@[\p{L}\p{N}.-]+\p{L}|[\p{L}][\p{L}\p{M}'’]*(?:[-.&][\p{L}\p{M}'’]+)*\.?|[+(]?\d[\d\s().,/:-]*\d|\d|\n|[^\s\p{L}\p{N}]/gu;

/** Cuts the beginning of a text into words, numbers and marks; a word keeps the full stop that ends it or shortens it. */
export function tokensOf(text: string, most: number): Token[] {
  const tokens: Token[] = [];
  for (const match of text.matchAll(TOKEN)) {
    if (tokens.length >= most) break;
    const { index: start } = match;
    const [whole] = match;
    // A full stop behind a longer word ends a sentence and is a mark of its own: "Lowell Finch." but "Ltd.", "J.".
    const isEnd = /^\p{L}{4,}\.$/u.test(whole) && !/^(?:gmbh|sarl|corp|prof|dott|mevr|mrs)\.$/i.test(whole);
    const word = isEnd ? whole.slice(0, -1) : whole;
    tokens.push({ text: word, start, end: start + word.length });
    if (isEnd) tokens.push({ text: '.', start: start + word.length, end: start + whole.length });
  }
  return tokens;
}
