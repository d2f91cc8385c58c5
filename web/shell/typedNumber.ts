/**
 * A number as programs write it, of one that people write: with marks between thousands, a decimal comma, spaces or a
 * percent sign. One mark that could be either is read as the reader's own language writes it. What is no number stays as it is.
 * @param decimal the decimal mark of that language
 */
export function typedNumber(typed: string, decimal: string): string {
  const plain = typed.replace(/[\s'\u2019%]/g, '');
  const marks = plain.match(/[.,]/g) ?? [];
  const last = marks.at(-1);
  if (last === undefined) return plain;
  const isOfTwoKinds = new Set(marks).size === 2;
  const isThousands =
    !isOfTwoKinds && (marks.length > 1 || (last !== decimal && /^[-+]?\d{1,3}[.,]\d{3}$/.test(plain)));
  if (isThousands) return /^[-+]?\d{1,3}(?:[.,]\d{3})+$/.test(plain) ? plain.replace(/[.,]/g, '') : plain;
  const at = plain.lastIndexOf(last);
  const whole = plain.slice(0, at);
  const isGrouped = /^[-+]?\d{1,3}(?:[.,]\d{3})+$/.test(whole);
  if (isOfTwoKinds && !isGrouped) return plain;
  return `${whole.replace(/[.,]/g, '')}.${plain.slice(at + 1)}`;
}
