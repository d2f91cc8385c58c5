/** What stands in a text in the place of something erased. */
export const ERASED = '[erased]';

/** By what somebody is told in texts. */
export interface Identity {
  /** Names as written, whole and in parts. */
  names: readonly string[];
  /** Addresses, pages, anything that is written letter by letter. */
  exact: readonly string[];
  /** E.164. */
  phones: readonly string[];
}

const escaped = (text: string): string => text.replace(/[.*+?^${}()|[\]\\/]/g, '\\$&');
/** Spaces of a name are any spaces: a line may break within it. */
const spaced = (name: string): string => name.trim().split(/\s+/).map(escaped).join('\\s+');
const SHORTEST_NAME = 3;
/** The last digits of a number tell it apart however it is written: with or without its country, in any groups. */
const TELLING_DIGITS = 7;

const phonePattern = (phone: string): string | null => {
  const digits = phone.replace(/\D/g, '').slice(-TELLING_DIGITS);
  return digits.length === TELLING_DIGITS
    ? `[+(]?(?:\\d[\\d()./ -]{0,12})?${[...digits].join('[()./ -]{0,2}')}(?!\\d)`
    : null;
};

/**
 * Makes what takes everything that tells of somebody out of a text.
 * @param identity names shorter than three letters are left, as they stand in too many other words
 * @returns from a text the same with `[erased]` in the place of each name, address and number
 */
export function redactor({ names, exact, phones }: Identity): (text: string) => string {
  const words = [...new Set(names.map((name) => name.trim()).filter((name) => name.length >= SHORTEST_NAME))];
  const letters = [...new Set(exact.filter((text) => text.length >= SHORTEST_NAME))];
  // The longest first, so that no part of an address is left over.
  const longestFirst = (a: string, b: string): number => b.length - a.length;
  const patterns = [
    ...letters.sort(longestFirst).map(escaped),
    ...words
      .sort(longestFirst)
      .map((name) => `(?<![\\p{L}\\p{N}])${spaced(name)}(?:['’]s)?(?![\\p{L}\\p{N}])`),
    ...phones.flatMap((phone) => phonePattern(phone) ?? []),
  ];
  if (!patterns.length) return (text) => text;
  const all = new RegExp(patterns.join('|'), 'giu');
  return (text) => text.normalize('NFC').replace(all, ERASED);
}

/** The same for plain data: every text in it, not its keys. */
export function redactData(value: unknown, redact: (text: string) => string): unknown {
  if (typeof value === 'string') return redact(value);
  if (Array.isArray(value)) return value.map((item) => redactData(item, redact));
  if (value && typeof value === 'object')
    return Object.fromEntries(Object.entries(value).map(([key, item]) => [key, redactData(item, redact)]));
  return value;
}
