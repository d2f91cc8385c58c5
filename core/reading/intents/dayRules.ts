import type {} from 'luxon';
import {
  MONTH_BY_A_DAY,
  monthOf,
  ordinalOf,
  ORDINALS,
  RELATIVE,
  WEEKDAY,
  WEEKDAY_ABROAD,
  weekdayOf,
  WEEKS_LATER,
} from './dateWords';
import { FAR_DAYS } from './farDays';
import { MONTH_PARTS } from './monthParts';
import { readNumber } from './numbers';
import { monday, onDate, onNthWeekday, onNumber, onQuarter, onWeek, onWeekday, workingDays } from './onDay';

import {
  ABOUT,
  afterUnits,
  SHORT_NUMBER,
  THE,
  YEAR,
  SUFFIX,
  NOT_A_STREET,
  LEAD,
  NEXT,
  THIS,
  END,
  OF,
  WEEK,
  MONTHS_WORD,
  NUMBER,
  all,
  UNITS,
  UNIT,
  type Rule,
} from './dayPatterns';

const ALWAYS = (): boolean => true;

/** From the most to the least said; an earlier rule keeps a later one off its words. */
export const RULES: readonly Rule[] = [
  ...FAR_DAYS,
  {
    pattern: /\b(?<year>20\d\d)-(?<month>\d\d)-(?<d>\d\d)\b/g,
    day: ({ d, month, year }, today) => onDate(today, Number(d), Number(month), year),
  },
  {
    pattern: all(
      `(?:(?:${WEEKDAY})[\\s,]*${THE}?\\s*)?(?<![\\d.,/-])(?<d>\\d{1,2})\\s?(?<sep>[./-])\\s?(?<month>\\d{1,2})\\s?\\k<sep>(?<year>\\s?20\\d\\d|(?:(?<!\\.)\\s)?\\d\\d)(?![\\d/-]|[.:]\\d)`,
    ),
    day: ({ d, month, year, sep }, today, monthFirst) => {
      const [dayFirst, turned] = [
        onDate(today, Number(d), Number(month), year?.trim()),
        onDate(today, Number(month), Number(d), year?.trim()),
      ];
      const [likely, other] = monthFirst && sep === '/' ? [turned, dayFirst] : [dayFirst, turned];
      return likely && likely >= today ? likely : sep === '/' ? (other ?? likely) : likely;
    },
  },
  {
    pattern: all(
      `(?:(?<wd>${WEEKDAY})[\\s,]*${THE}?\\s*)?(?<![\\d.,:-])(?<d>\\d{1,2})${SUFFIX}(?:\\s?(?:[-\\u2013/]|to|and|or|bis|und|oder|et|ou|e|y|en)\\s?\\d{1,2}${SUFFIX})?\\s?(?:of\\s|de\\s|di\\s)?(?<month>${MONTH_BY_A_DAY})${NOT_A_STREET}${YEAR}`,
    ),
    day: ({ d, month = '', year }, today) => onDate(today, Number(d), monthOf(month), year),
    needs: 'month',
  },
  {
    pattern: all(
      `(?:(?<wd>${WEEKDAY})[\\s,]*)?\\b(?<month>${MONTH_BY_A_DAY})\\s(?:the\\s)?(?<d>\\d{1,2})(?:st|nd|rd|th)?\\b(?![:.]\\d|\\s?(?:am|pm|bikes|%))${YEAR}`,
    ),
    day: ({ d, month = '', year }, today) => onDate(today, Number(d), monthOf(month), year),
    needs: 'month',
  },
  {
    pattern: all(
      `(?:(?:${WEEKDAY})[\\s,]*${THE}?\\s*|\\b${LEAD}\\s)(?<d>\\d{1,2})[./](?<month>\\d{1,2})\\.?(?![\\d/]|\\s?(?:am|pm|euros?|eur|uhr|h|uur|%|km|m|k)\\b|\\s?\\u20ac)`,
    ),
    day: ({ d, month }, today, monthFirst) =>
      monthFirst ? onDate(today, Number(month), Number(d)) : onDate(today, Number(d), Number(month)),
  },
  {
    pattern: /(?<![\d.,])(?<d>\d{1,2})\.\s?(?<month>\d{1,2})\.(?!\d)/g,
    day: ({ d, month }, today) => onDate(today, Number(d), Number(month)),
  },
  {
    pattern: all(
      `(?<wd>${WEEKDAY})[\\s,]*(?:(?:the\\s)?(?<nth>\\d{1,2})(?:st|nd|rd|th|e)\\b|(?:den|le|el|o\\sdia|dia|il)?\\s*(?<high>1[3-9]|2\\d|3[01])\\b(?![:.,]\\d|\\s?[-\\u2013]\\s?\\d|\\s?(?:h|uhr|uur)\\b)|(?:den\\s)?(?<dotted>\\d{1,2})\\.(?!\\d)|(?:o\\s)?dia\\s(?<dia>\\d{1,2})\\b|(?<low>\\d{1,2})(?=,?\\s(?:at|um|a\\slas|a\\sla|as|a|om|alle)\\s\\d))`,
    ),
    day: ({ wd = '', nth, high, dotted, dia, low }, today) =>
      onNumber(today, Number(nth ?? high ?? dotted ?? dia ?? low), weekdayOf(wd)),
    needs: 'weekday',
  },
  {
    // "lundi 7": a number behind a weekday is the day where nobody says hours so, and that day is such a weekday.
    pattern: all(`\\b(?<wd>${WEEKDAY_ABROAD})\\s(?<d>\\d{1,2})(?=\\s*(?:[.,;!?)]|$))`),
    day: ({ wd = '', d }, today) => {
      const day = onNumber(today, Number(d), weekdayOf(wd));
      return day && day <= today.plus({ days: 45 }) ? day : null;
    },
    idiom: ALWAYS,
    needs: 'weekday',
  },
  {
    pattern: all(
      `(?:(?:${WEEKDAY})[\\s,]*)?(?:\\bthe\\s|\\b)(?<ordinal>${ORDINALS.join('|')})\\s(?:of\\s|de\\s)?(?<month>${MONTH_BY_A_DAY})${YEAR}`,
    ),
    day: ({ ordinal = '', month = '', year }, today) =>
      onDate(today, ordinalOf(ordinal), monthOf(month), year),
    needs: 'month',
  },
  {
    // "On friday the fourth".
    pattern: all(
      `(?<wd>${WEEKDAY})[\\s,]*(?:the\\s|den\\s|der\\s)(?<ordinal>${ORDINALS.join('|')})\\b(?!\\s(?:of|floor|time|one|quarter|week|month|half|day|order|visit|call|meeting|phase|stage)\\b)`,
    ),
    day: ({ wd = '', ordinal = '' }, today) => onNumber(today, ordinalOf(ordinal), weekdayOf(wd)),
    idiom: ALWAYS,
    needs: 'weekday',
  },
  {
    pattern: all(`\\b(?<n>${NUMBER})\\s(?<unit>weeks?|fortnights?)\\s(?:from\\s)?(?<word>today|tomorrow)\\b`),
    day: ({ n = '', unit = '', word = '' }, today) => {
      const count = /^(?:a|one)$/.test(n) ? 1 : readNumber(n);
      const weeks = (count ?? 0) * (unit.startsWith('fortnight') ? 2 : 1);
      return weeks ? today.plus({ weeks, days: RELATIVE[word] ?? 0 }) : null;
    },
    needs: 'near',
  },
  {
    pattern: all(
      `\\b(?<word>heute|morgen|today|tomorrow|vandaag)\\s(?:in|over)\\s(?<n>${NUMBER})\\s(?<unit>${UNIT})\\b`,
    ),
    day: ({ word = '', n = '', unit = '' }, today) => {
      const count = /^(?:an?|einer?|een)$/.test(n) ? 1 : readNumber(n);
      const kind = UNITS.find(([pattern]) => pattern.test(unit))?.[1];
      return count && kind ? today.plus({ [kind]: count }).plus({ days: RELATIVE[word] ?? 0 }) : null;
    },
    needs: 'near',
  },
  {
    pattern: /\b(?<word>today|tomorrow|heute|morgen|demain|vandaag)\s(?:week|en\shuit)\b/g,
    day: ({ word = '' }, today) => today.plus({ weeks: 1, days: RELATIVE[word] ?? 0 }),
    needs: 'near',
  },
  {
    pattern:
      /\b(?:(?:the|on|by|before|until|from)\s(?<nth>\d{1,2})(?:st|nd|rd|th)(?!\s(?:floor|street|avenue|ave|birthday|time))|(?:am|zum|ab\sdem|vor\sdem)\s(?<dotted>\d{1,2})(?=\.(?!\d))|(?:(?:no|el|al|le)\s(?:dia\s)?|a?o\sdia\s)(?<dia>\d{1,2})(?=\s(?:a|as)\s(?:las?\s)?\d|\s?[.?!]?$))\b/g,
    day: ({ nth, dotted, dia }, today) => onNumber(today, Number(nth ?? dotted ?? dia)),
    idiom: ALWAYS,
  },
  {
    pattern: all(
      `\\b(?:the\\s)?(?<which>first|second|third|fourth|last|1st|2nd|3rd|4th)\\s(?<wd>${WEEKDAY})\\s(?:of|in)\\s(?<month>${MONTH_BY_A_DAY})${YEAR}`,
    ),
    day: ({ which = '', wd = '', month = '', year }, today) =>
      onNthWeekday(today, which, weekdayOf(wd), monthOf(month), year),
    needs: 'month',
  },
  {
    pattern: all(`\\ba\\sweek\\s(?:on|from|next)?\\s?(?<wd>${WEEKDAY})`),
    day: ({ wd = '' }, today) => onWeekday(today, weekdayOf(wd), 1),
    idiom: ALWAYS,
    needs: 'weekday',
  },
  {
    pattern:
      /\b(?:kw|week|wk|semaine|semana|settimana|uge|uke|vecka)\s(?:no\.?\s|nr\.?\s)?(?<d>\d{1,2})\b(?![.,:]\d)/g,
    day: ({ d }, today) => onWeek(today, Number(d)),
    idiom: ALWAYS,
  },
  {
    pattern: all(`\\b(?:by\\s)?(?<end>${END})${OF}\\s(?:(?<next>${NEXT})\\s)?(?:${WEEK})\\b`),
    day: ({ next }, today) => monday(today, next || today.weekday > 5 ? 1 : 0).plus({ days: 4 }),
    idiom: ALWAYS,
    needs: 'near',
  },
  {
    pattern: all(`\\b${END}${OF}\\s(?:(?<next>${NEXT})\\s)?(?:${MONTHS_WORD})\\b`),
    day: ({ next }, today) =>
      today
        .plus({ months: next ? 1 : 0 })
        .endOf('month')
        .startOf('day'),
    idiom: ALWAYS,
    needs: 'near',
  },
  {
    pattern: all(
      `(?:\\b(?:(?<next>${NEXT}(?:\\s(?:${WEEK})(?:\\s(?:on|am|le|na|el|op))?)?)|${THIS})\\s)?(?<wd>${WEEKDAY})(?:\\s(?:(?<after>week|after\\snext|en\\s(?:huit|quinze)|in\\seiner\\swoche|in\\sacht\\stagen|over\\seen\\sweek|next\\sweek|nachste(?:r)?\\swoche|prochaine?|proxim[oa]|prossim[oa]|volgende\\sweek)\\b|que\\s(?:vem|viene)\\b))?`,
    ),
    day: ({ next, wd = '', after }, today) => {
      const later = WEEKS_LATER[after ?? ''];
      if (later) return onWeekday(today, weekdayOf(wd), later);
      return next || after
        ? monday(today, 1).plus({ days: weekdayOf(wd) - 1 })
        : onWeekday(today, weekdayOf(wd));
    },
    idiom: ({ next, after }) => next !== undefined || after !== undefined,
    byWeekday: true,
    needs: 'weekday',
  },
  {
    pattern:
      /(?<!(?:guten|god|good|buenos|goede|nieuwe)\s|(?:por|de)\sla\s)\b(?<word>(?:the\s)?day after tomorrow|ubermorgen|apres-demain|depois de amanha|pasado manana|i overmorgen|i overmorgon|overmorgen|dopodomani|pojutrze|pozitri|ylihuomenna|jutro|zitra|huomenna|dzisiaj|dzis|dnes|tanaan|tomorrow|tmrw|tmw|i morgen|morgen|demain|amanha|manana|domani|i morgon|imorgon|today|tonight|heute|aujourd'hui|hoje|hoy|vandaag|oggi|i dag|this (?:afternoon|morning|evening))\b/g,
    day: ({ word = '' }, today) => today.plus({ days: RELATIVE[word.replace(/^the /, '')] ?? 0 }),
    byWeekday: true,
    needs: 'near',
  },
  {
    pattern: all(
      `\\b(?:(?:${NEXT}|kommende[nrsm]?|komende)\\s(?<unit>${WEEK}|${MONTHS_WORD})|(?<latin>${WEEK}|${MONTHS_WORD})\\s(?:prochaine?|proxim[oa]|prossim[oa]|que\\s(?:vem|viene)))\\b`,
    ),
    day: ({ unit, latin }, today) =>
      new RegExp(`^(?:${WEEK})$`).test(unit ?? latin ?? '')
        ? monday(today, 1)
        : today.plus({ months: 1 }).startOf('month'),
    idiom: ALWAYS,
    needs: 'near',
  },
  {
    pattern: /\b(?:(?<next>next)|this|at\sthe)\sweekend\b(?!\sof)/g,
    day: ({ next }, today) => monday(today, next ? 1 : 0).plus({ days: 5 }),
    idiom: ALWAYS,
    needs: 'near',
  },
  {
    pattern: all(
      `\\b(?:in|within|innerhalb\\svon|dans|d'ici|em|en|daqui\\sa|dentro\\sde|over|binnen|tra|fra|om|za)\\s${ABOUT}(?<n>${NUMBER}|${SHORT_NUMBER})\\s(?<unit>${UNIT})\\b`,
    ),
    day: ({ n = '', unit = '' }, today) => afterUnits(today, n, unit),
    needs: 'near',
  },
  {
    pattern: all(
      `\\b(?:in|within|innerhalb\\svon|dans|em|en|binnen)\\s(?<n>${NUMBER})\\s(?:working|business|work|werk|arbeits|jours\\souvr\\w+|dias\\suteis)\\s?-?(?:days?|tagen?|dagen)?\\b`,
    ),
    day: ({ n = '' }, today) => {
      const count = /^an?$/.test(n) ? 1 : readNumber(n);
      return count ? workingDays(today, count) : null;
    },
    needs: 'near',
  },
  {
    pattern: /\b(?:by\s)?(?<word>eow|eod|cob|eom)\b(?!\s(?:on|tomorrow|today|mon|tue|wed|thu|fri|sat|sun))/g,
    day: ({ word }, today) =>
      word === 'eow'
        ? monday(today, today.weekday > 5 ? 1 : 0).plus({ days: 4 })
        : word === 'eom'
          ? today.endOf('month').startOf('day')
          : today,
    needs: 'near',
  },
  {
    pattern: all(
      `\\b(?:(?<end>${END})(?:\\sof)?\\s|(?:in|from|by|early|late|for|during)\\s)?q(?<q>[1-4])(?:\\s?(?<year>20\\d\\d))?\\b`,
    ),
    day: ({ end, q, year }, today) => onQuarter(today, Number(q), end !== undefined, year),
    idiom: ALWAYS,
    needs: 'near',
  },
  {
    pattern:
      /(?<![\d.,/])(?<d>\d{1,2})\/(?<month>\d{1,2})(?=,?\s(?:at|um|@|from|kl)\s?\d|,?\s\d{1,2}[:.]\d\d)/g,
    day: ({ d, month }, today, monthFirst) =>
      monthFirst ? onDate(today, Number(month), Number(d)) : onDate(today, Number(d), Number(month)),
  },
  ...MONTH_PARTS,
];
