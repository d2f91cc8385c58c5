import type { DateTime } from 'luxon';
import { NUMBER_WORDS, readNumber } from './numbers';

type Groups = Record<string, string | undefined>;
/** A way to name a day. */
export interface Rule {
  pattern: RegExp;
  day: (groups: Groups, today: DateTime, monthFirst: boolean) => DateTime | null;
  /** A kind of word without which the rule cannot hold; the figures apart. */
  needs?: 'month' | 'weekday' | 'near';
  byWeekday?: true;
  /** Which of its findings are ways of speaking; none, where it is left out. */
  idiom?: (groups: Groups) => boolean;
}

export const THE = '(?:the|den|dem|der|le|el|o|a|dia|il|op|d\\.)';
export const YEAR = '(?:,?\\s(?:de\\s|del\\s)?(?<year>(?:19|20)\\d\\d)\\b)?';
export const SUFFIX = '(?:st|nd|rd|th|er|[.oae\\u00ba\\u00b0])?';
export const NOT_A_STREET = '(?!\\s(?:street|st|road|rd|lane|ave|avenue|close|court|square|place)\\b)';
export const LEAD =
  '(?:on|by|before|until|till|from|after|since|due|meeting|call|back|again|up|ring|demo|visit|lunch|am|bis(?:\\szum)?|vor(?:\\sdem)?|zum|ab(?:\\sdem)?|nach(?:\\sdem)?|le|avant(?:\\sle)?|ate(?:\\so)?(?:\\sdia)?|no\\sdia|dia|el|antes\\sdel|para\\sel|op|voor|il|entro\\sil|den|senast|innen)';
export const NEXT =
  '(?:next|nachste[nrsm]?|prochaine?|proxim[oa]|volgende|prossim[oa]|nasta|neste|n\u00e6ste)';
export const THIS =
  '(?:this(?:\\scoming)?|coming|diese[nrsm]?|kommende[nrsm]?|ce|cette|est[ea]|komende|deze|questo|denna)';
export const END = '(?:end|ende|fin|fim|final|finais|eind|einde|fine|slutet|close)';
export const OF =
  '(?:\\s(?:of|der|des|de|da|do|del|della|van|von|av|la|the|this|dieser|diesem|deze|esta|este|cette))*';
export const WEEK = 'week|woche|semaine|semana|settimana|vecka|uke|uge';
export const MONTHS_WORD = 'month|monats?|mois|mes|maand|mese|manad';
export const NUMBER = `\\d{1,2}|(?:a|an|einer?|une?|uma?|un[ao]?|een)(?=\\s)|${NUMBER_WORDS}`;

export const all = (source: string): RegExp => new RegExp(source, 'g');
export const UNITS: readonly [RegExp, 'days' | 'weeks' | 'months'][] = [
  [/^(?:day|tag|jour|dia|dag|giorn|dni$|dny$)/, 'days'],
  [/^fortnight/, 'weeks'],
  [/^(?:week|woche|semain|seman|weken|settiman|veck|uge|uke|tygod|tydn)/, 'weeks'],
  [/^(?:month|monat|mois|mes|maand|man[ae]d|miesiac)/, 'months'],
];
export const UNIT =
  'fortnights?|days?|tagen?|jours?|dias?|dag(?:en|ar)?|giorn[io]|weeks?|wochen?|semaines?|semanas?|weken|settiman[ae]|veckor|uger|uker|months?|monaten?|mois|mes(?:es)?|maand(?:en)?|mes[ei]|manader|maneder|tygodnie|tygodni|tydny|tydnu|dni|dny|miesiace|mesice';

/** Numbers that other languages have other words for, so that they count only before a unit of time. */
const SHORT_NUMBERS: Readonly<Record<string, number>> = { to: 2, dva: 2, dve: 2, tri: 3, ctyri: 4 };
export const SHORT_NUMBER = Object.keys(SHORT_NUMBERS).join('|');
export const ABOUT =
  '(?:(?:about|around|roughly|etwa|ca\\.?|circa|ungefahr|environ|unas|unos|cerca\\sde|ongeveer|omtrent|cirka)\\s)?';

/** The day that is so many units of time after another, as both are written in flat text; null where they say nothing. */
export function afterUnits(today: DateTime, count: string, unit: string): DateTime | null {
  const number = /^(?:an?|einer?|une?|uma?|un[ao]?|een)$/.test(count)
    ? 1
    : (SHORT_NUMBERS[count] ?? readNumber(count));
  const kind = UNITS.find(([pattern]) => pattern.test(unit))?.[1];
  const times = unit.startsWith('fortnight') ? 2 : 1;
  return number && kind ? today.plus({ [kind]: number * times }) : null;
}
