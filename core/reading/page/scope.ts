import { isAnybodys, isOthersHeading, isOthersLine } from '../others';
import { nameFitsLocalPart } from '../../people/names';
import { findEmails, localPart } from '../../people/emails';
import type { PageLine } from './layout';

/** From here on a page speaks of itself. */
const FOOT = /^\s*(?:©|\(c\)\s|copyright\b|all rights reserved)/i;
/** Under a word that leads to somebody else, so many lines are theirs where no heading ends them. */
const THEIRS = 3;

/**
 * The lines that tell of whom a page is about: not those of the banner, the foot, adverts, assistants, the press office, or
 * the switchboard.
 */
export function ownLines(lines: readonly PageLine[]): PageLine[] {
  const own: PageLine[] = [];
  let isUnderOthers = false;
  let left = 0;
  for (const line of lines) {
    if (line.region !== 'main') continue;
    const text = line.text.trim();
    if (own.length > 2 && FOOT.test(text)) break;
    if (line.level > 0) isUnderOthers = isOthersHeading(text);
    else if (text.length < 60 && isOthersHeading(text)) left = THEIRS + 1;
    left = Math.max(0, line.level > 0 ? 0 : left - 1);
    if (isUnderOthers || left > 0 || (line.level === 0 && isOthersHeading(text))) continue;
    if (isOthersLine(text)) continue;
    own.push(line);
  }
  return own;
}

/** Whether the numbers and addresses of a line are anybody's to use, and so nobody's own. */
export const isSitesLine = (line: PageLine): boolean => isAnybodys(line.text.trim());

/** Lines outside of what a page is about that hold an address made of somebody's name: a card of theirs beside it. */
export const rescued = (lines: readonly PageLine[], name: string): PageLine[] =>
  name.includes(' ')
    ? lines.filter(
        (line) =>
          line.region !== 'main' &&
          findEmails(line.text).some((found) => nameFitsLocalPart(name, localPart(found.value))),
      )
    : [];
