/** Whether two words are one insertion, deletion, substitution or neighbouring transposition apart (Damerau 1964). */
export function isSlipOf(a: string, b: string): boolean {
  if (Math.abs(a.length - b.length) > 1) return false;
  let from = 0;
  while (from < a.length && a[from] === b[from]) from++;
  let [toA, toB] = [a.length, b.length];
  while (toA > from && toB > from && a[toA - 1] === b[toB - 1]) {
    toA--;
    toB--;
  }
  const [left, right] = [toA - from, toB - from];
  if (left <= 1 && right <= 1) return true;
  return left === 2 && right === 2 && a[from] === b[from + 1] && a[from + 1] === b[from];
}
