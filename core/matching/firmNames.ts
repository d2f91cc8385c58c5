import { firmParts, isInitials, type FirmParts } from '../people/naming/firms';
import { jaroWinkler } from './similarity';

/** What two firms' names come to. */
export interface ComparedFirms {
  text: string;
  bits: number;
  /** How much of the growth of a book it takes part in. */
  grows: number;
  /** They are two firms that belong together: a branch, or of a group. */
  isRelated?: boolean;
}

const OTHER: ComparedFirms = { text: 'another name', bits: -4, grows: 0 };
const isSubset = (few: readonly string[], many: readonly string[]): boolean =>
  few.every((word, at) => many[at] === word);

/**
 * Two firms' names, by what tells them from others. A branch has the name of the whole and a word more that is no trade; a sister
 * has the name and another trade, or the name and a legal form of another land.
 */
export function compareFirmNames(a: string, b: string): ComparedFirms {
  const [one, two] = [firmParts(a), firmParts(b)];
  const [coreA, coreB] = [one.core.split(' '), two.core.split(' ')];
  const isOtherForm = Boolean(one.form && two.form && one.form !== two.form);
  const isOtherLand = isOtherForm && !one.lands.some((land) => two.lands.includes(land));
  const isOtherTrade = Boolean(
    one.trades.length && two.trades.length && !one.trades.some((trade) => two.trades.includes(trade)),
  );
  if (one.core === two.core) {
    if (isOtherTrade) return { text: 'same name, another trade', bits: -2, grows: 0, isRelated: true };
    if (isOtherLand) return { text: 'same name, a legal form of another country', bits: 1, grows: 0.5 };
    if (isOtherForm) return { text: 'same name, another legal form', bits: 7, grows: 0.8 };
    if (one.key === two.key) return { text: 'same name', bits: 12, grows: 1 };
    const text =
      one.trades.length && two.trades.length
        ? 'same name, written otherwise'
        : 'same name, one without its trade';
    return { text, bits: one.trades.length && two.trades.length ? 11 : 10.5, grows: 1 };
  }
  if (!isOtherTrade && [...coreA].sort().join() === [...coreB].sort().join())
    return { text: 'same name in another order', bits: 11, grows: 1 };
  const [few, many] = coreA.length < coreB.length ? [coreA, coreB] : [coreB, coreA];
  if (few.length < many.length && isSubset(few, many))
    return { text: 'the name of a branch', bits: -2, grows: 0, isRelated: true };
  const isShort = (name: string, parts: FirmParts, other: FirmParts): boolean =>
    isInitials(name) && parts.key === other.initials;
  if (isShort(a, one, two) || isShort(b, two, one))
    return { text: 'one is the initials of the other', bits: 5, grows: 0.5 };
  if (
    jaroWinkler(one.key, two.key) >= 0.93 ||
    (one.core.length > 4 && jaroWinkler(one.core, two.core) >= 0.94)
  )
    return isOtherTrade ? OTHER : { text: 'nearly the same name', bits: 7, grows: 0.8 };
  return OTHER;
}
