/** Text as it is compared: without case and accents. The database has the same as `query_text`. */
export const plainText = (text: string): string =>
  text
    .normalize('NFKD')
    .replace(/[\u0300-\u036f]/g, '')
    .toLowerCase();

/** By code points, as PostgreSQL's C collations order. */
export function compareText(a: string, b: string): number {
  const [left, right] = [Array.from(a), Array.from(b)];
  for (let at = 0; at < Math.min(left.length, right.length); at++) {
    const by = (left[at]?.codePointAt(0) ?? 0) - (right[at]?.codePointAt(0) ?? 0);
    if (by) return by;
  }
  return left.length - right.length;
}

/** The letter that a text is grouped by; `#` where it begins with none. */
export const firstLetter = (text: string): string => {
  const [first = ''] = Array.from(plainText(text));
  const upper = first.toUpperCase();
  return /^\p{L}$/u.test(upper) ? upper : '#';
};
