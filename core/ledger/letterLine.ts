/** A letter as a line begins it: to whom, where it is said, and its first words. */
export interface LetterLine {
  to: string | null;
  words: string;
}

/** "write Ines: the quote is ready", "letter: thank you" → a letter; null for any other line. */
export function letterIn(line: string): LetterLine | null {
  const [, to = '', words = ''] =
    /^\s*(?:write|letter)(?:\s+(?:to\s+)?([^:;,\d]{1,60}?))?\s*:\s+(\S[\s\S]{0,2000})$/i.exec(line) ?? [];
  return words ? { to: to.trim() || null, words: words.trim() } : null;
}
