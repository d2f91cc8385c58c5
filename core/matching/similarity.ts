/**
 * Jaro similarity of two strings (Jaro 1989), counted in UTF-16 units; of an odd count of transposed units the half is
 * rounded down, as Winkler's own program does (from memory).
 * @returns 0 (nothing in common) to 1 (equal); two empty strings are equal
 */
export function jaro(a: string, b: string): number {
  if (a === b) return 1;
  if (!a.length || !b.length) return 0;
  const reach = Math.max(0, Math.floor(Math.max(a.length, b.length) / 2) - 1);
  const taken = new Array<boolean>(b.length).fill(false);
  const left: string[] = [];
  for (let i = 0; i < a.length; i++) {
    for (let j = Math.max(0, i - reach); j < Math.min(b.length, i + reach + 1); j++) {
      if (taken[j] || a[i] !== b[j]) continue;
      taken[j] = true;
      left.push(a[i] ?? '');
      break;
    }
  }
  if (!left.length) return 0;
  const right =
    [...b].length === b.length ? [...b].filter((_, j) => taken[j]) : b.split('').filter((_, j) => taken[j]);
  const transposed = left.filter((char, index) => char !== right[index]).length >> 1;
  return (left.length / a.length + left.length / b.length + (left.length - transposed) / left.length) / 3;
}

/**
 * Jaro–Winkler similarity: Jaro raised by a common prefix of up to four characters, scale 0.1.
 * Source: W. E. Winkler, "String Comparator Metrics and Enhanced Decision Rules in the Fellegi-Sunter Model of Record
 * Linkage", 1990.
 */
export function jaroWinkler(a: string, b: string): number {
  const base = jaro(a, b);
  let prefix = 0;
  while (prefix < 4 && prefix < a.length && a[prefix] === b[prefix]) prefix++;
  return base + prefix * 0.1 * (1 - base);
}
