import { matchesOf } from '../matches';
import type { DateTime } from 'luxon';
import { RULES } from './dayRules';
import { vocabularyOf } from './vocabulary';

/** A day found in flat text. */
export interface FoundDay {
  start: number;
  end: number;
  day: DateTime;
  /** Named by its weekday alone, so that a number right behind it may be the hour. */
  byWeekday: boolean;
  /** "tonight": an hour without am or pm is one of the evening. */
  evening: boolean;
  /** Said in a way of speaking ("Friday week", "end of May"), which people mean less alike than a day by its number or name. */
  isIdiom: boolean;
}

/** Rules that can only hold where a figure is written; most sentences have none. */
const NUMERIC = new Set(RULES.filter((rule) => /\(\?<(?:d|nth)>/.test(rule.pattern.source)));

/**
 * The days a flat text names, in the order of their places.
 * @param flat text as `flatten` gives it
 * @param today midnight of the day on which it was said, in the zone of whoever said it
 * @param monthFirst whether 12/01 is the first of December, as in the United States
 */
export function findDays(flat: string, today: DateTime, monthFirst: boolean): FoundDay[] {
  const found: FoundDay[] = [];
  const has = vocabularyOf(flat);
  if (!has.digit && !has.month && !has.weekday && !has.near) return found;
  for (const rule of RULES) {
    if ((rule.needs && !has[rule.needs]) || (!has.digit && NUMERIC.has(rule))) continue;
    for (const match of matchesOf(rule.pattern, flat)) {
      const end = match.index + match[0].trimEnd().length;
      if (found.some((one) => match.index < one.end && one.start < end)) continue;
      const day = rule.day(match.groups ?? {}, today, monthFirst);
      if (!day) continue;
      found.push({
        start: match.index,
        end,
        day,
        byWeekday: rule.byWeekday === true,
        evening: /tonight|evening/.test(match[0]),
        isIdiom: rule.idiom?.(match.groups ?? {}) ?? false,
      });
    }
  }
  return found.sort((a, b) => a.start - b.start);
}
