import type { FeatureField } from './features';
import { isAsAlike, isOneSlip, type PackedStrings } from './strings';

export const NEAR_TEXT = 0.92;

/** Whether a string of at least four letters stands in another. */
export function holds({ units, starts }: PackedStrings, text: number, part: number): boolean {
  const [from, to] = [starts[text] as number, starts[text + 1] as number];
  const [begin, size] = [starts[part] as number, (starts[part + 1] as number) - (starts[part] as number)];
  if (size < 4) return false;
  for (let at = from; at + size <= to; at++) {
    let same = 0;
    while (same < size && units[at + same] === units[begin + same]) same++;
    if (same === size) return true;
  }
  return false;
}
const LONG = 6;
/** Whether two strings of some length are one slip apart. */
export const isSlipOfLong = (strings: PackedStrings, a: number, b: number): boolean =>
  (strings.starts[a + 1] as number) - (strings.starts[a] as number) >= LONG && isOneSlip(strings, a, b);

/** Two days with the day and the month changed about, both as eight digits. */
function isTurned({ units, starts }: PackedStrings, a: number, b: number): boolean {
  const one = starts[a] as number;
  const two = starts[b] as number;
  if ((starts[a + 1] as number) - one !== 8 || (starts[b + 1] as number) - two !== 8) return false;
  for (let index = 0; index < 8; index++) {
    const other = index < 4 ? index : index < 6 ? index + 2 : index - 2;
    if (units[one + index] !== units[two + other]) return false;
  }
  return true;
}

/** Missing 0, same 1, nearly the same 2, another 3. */
export function plainLevel(
  strings: PackedStrings,
  { kind, values }: FeatureField,
  a: number,
  b: number,
): number {
  const [one, two] = [values[0]?.[a] ?? 0, values[0]?.[b] ?? 0];
  if (!one || !two) return 0;
  if (one === two) return 1;
  if (isOneSlip(strings, one, two)) return 2;
  if (kind === 'date') return isTurned(strings, one, two) ? 2 : 3;
  if (kind === 'postcode' || kind === 'number') return 3;
  return isAsAlike(strings, one, two, NEAR_TEXT) ? 2 : 3;
}
