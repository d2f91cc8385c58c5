import { DateTime } from 'luxon';
import { durationOf, type Repeat } from './repeat';

const DAYS = ['Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday', 'Sunday'] as const;
const CODES = ['MO', 'TU', 'WE', 'TH', 'FR', 'SA', 'SU'] as const;
const ORDINALS = ['first', 'second', 'third', 'fourth', 'fifth'] as const;
const WEEKDAYS = 'MO,TU,WE,TH,FR';
const FREQUENCY = { day: 'DAILY', week: 'WEEKLY', month: 'MONTHLY', year: 'YEARLY' } as const;
type Unit = keyof typeof FREQUENCY;

const NUMBERS = [
  'one',
  'two',
  'three',
  'four',
  'five',
  'six',
  'seven',
  'eight',
  'nine',
  'ten',
  'eleven',
  'twelve',
];
const NUMBER = `\\d{1,3}|${NUMBERS.join('|')}`;
const numberOf = (word: string): number => NUMBERS.indexOf(word.toLowerCase()) + 1 || Number(word);

const DAY =
  'mon(?:day)?|tue(?:s(?:day)?)?|wed(?:nesday)?|thu(?:r(?:s(?:day)?)?)?|fri(?:day)?|sat(?:urday)?|sun(?:day)?';
const DAY_LIST = `(?:${DAY})s?(?:(?:\\s*,\\s*|\\s+and\\s+|\\s*,\\s*and\\s+)(?:${DAY})s?)*`;
const ORDINAL = `first|second|third|fourth|fifth|last|1st|2nd|3rd|4th|5th`;

const codeOf = (word: string): string =>
  CODES[DAYS.findIndex((day) => day.toLowerCase().startsWith(word.toLowerCase().slice(0, 3)))] ?? 'MO';
const codesOf = (list: string): string =>
  [...new Set([...list.matchAll(new RegExp(DAY, 'gi'))].map(([day]) => codeOf(day)))]
    .sort((a, b) => CODES.indexOf(a as (typeof CODES)[number]) - CODES.indexOf(b as (typeof CODES)[number]))
    .join(',');
function positionOf(word: string): number {
  if (word.toLowerCase() === 'last') return -1;
  const named = ORDINALS.indexOf(word.toLowerCase() as (typeof ORDINALS)[number]);
  return named >= 0 ? named + 1 : Number.parseInt(word, 10);
}
const interval = (count: number): string => (count === 1 ? '' : `;INTERVAL=${count}`);

const AFTER = new RegExp(
  `(?:every\\s+)?(${NUMBER}|an?)\\s+(day|week|month|year)s?\\s+after\\s+(?:(?:it|this|that)(?:\\s+is|['’]s)\\s+)?(?:done|finished|it)\\b`,
  'i',
);
/** What a phrase says, from what it captured; the first that fits is meant. */
const PHRASES: readonly [RegExp, (parts: string[]) => Repeat][] = [
  [
    AFTER,
    ([, count = '1', unit = 'week']) =>
      `P${/^an?$/i.test(count) ? 1 : numberOf(count)}${unit.charAt(0).toUpperCase()}`,
  ],
  [
    new RegExp(
      `(?:every|each)\\s+(${ORDINAL})\\s+(?:working|business)\\s+day(?:\\s+of\\s+(?:the|each|every)\\s+month)?\\b`,
      'i',
    ),
    ([, which = 'first']) => `FREQ=MONTHLY;BYDAY=${WEEKDAYS};BYSETPOS=${positionOf(which)}`,
  ],
  [
    new RegExp(
      `(?:(?:every|each)\\s+(?:the\\s+)?|on\\s+the\\s+|the\\s+)(${ORDINAL})\\s+(${DAY})(?:\\s+of\\s+(?:the|each|every)\\s+month)\\b`,
      'i',
    ),
    ([, which = 'first', day = 'mon']) => `FREQ=MONTHLY;BYDAY=${positionOf(which)}${codeOf(day)}`,
  ],
  [
    new RegExp(`(?:every|each)\\s+(${ORDINAL})\\s+(${DAY})\\b`, 'i'),
    ([, which = 'first', day = 'mon']) => `FREQ=MONTHLY;BYDAY=${positionOf(which)}${codeOf(day)}`,
  ],
  [/(?:every|each)\s+(?:working|business|week)\s?day\b/i, () => `FREQ=WEEKLY;BYDAY=${WEEKDAYS}`],
  [
    new RegExp(`(?:every|each)\\s+(?:(other|second|2nd|${NUMBER})\\s+)?(${DAY_LIST})\\b`, 'i'),
    ([, count = '', days = '']) =>
      `FREQ=WEEKLY${interval(/^(?:other|second|2nd)$/i.test(count) ? 2 : count ? numberOf(count) : 1)};BYDAY=${codesOf(days)}`,
  ],
  [
    new RegExp(
      `(?:(?:every|each)\\s+month|monthly)\\s+on\\s+the\\s+(?:(\\d{1,2})(?:st|nd|rd|th)?|last(?:\\s+day)?)\\b`,
      'i',
    ),
    ([, day]) => `FREQ=MONTHLY;BYMONTHDAY=${day ? Math.min(31, Math.max(1, Number(day))) : -1}`,
  ],
  [
    new RegExp(`(?:every|each)\\s+(?:(other|second|${NUMBER})\\s+)?weeks?\\s+on\\s+(${DAY_LIST})\\b`, 'i'),
    ([, count = '', days = '']) =>
      `FREQ=WEEKLY${interval(/^(?:other|second)$/i.test(count) ? 2 : count ? numberOf(count) : 1)};BYDAY=${codesOf(days)}`,
  ],
  [/(?:every|each)\s+quarter\b|\bquarterly\b/i, () => 'FREQ=MONTHLY;INTERVAL=3'],
  [/(?:every|each)\s+half[- ]year\b|\bhalf[- ]yearly\b/i, () => 'FREQ=MONTHLY;INTERVAL=6'],
  [/\bfortnightly\b|(?:every|each)\s+fortnight\b/i, () => 'FREQ=WEEKLY;INTERVAL=2'],
  [
    new RegExp(`(?:every|each)\\s+(?:(other|second|${NUMBER})\\s+)?(day|week|month|year)s?\\b`, 'i'),
    ([, count = '', unit = 'week']) =>
      `FREQ=${FREQUENCY[unit.toLowerCase() as Unit]}${interval(/^(?:other|second)$/i.test(count) ? 2 : count ? numberOf(count) : 1)}`,
  ],
  [/\bdaily\b/i, () => 'FREQ=DAILY'],
  [/\bweekly\b/i, () => 'FREQ=WEEKLY'],
  [/\bmonthly\b/i, () => 'FREQ=MONTHLY'],
  [/\b(?:yearly|annually)\b/i, () => 'FREQ=YEARLY'],
];
const TIMES = new RegExp(`^,?\\s*(?:for\\s+)?(${NUMBER})\\s+times\\b`, 'i');

/** A repeat found in a text. */
interface FoundRepeat {
  repeat: Repeat;
  start: number;
  end: number;
}

/**
 * The repeat that a text names in English: "every first Monday", "every other week on Tue and Thu", "3 weeks after done".
 * A repeat of no known interval is none.
 */
export function findRepeat(text: string): FoundRepeat | null {
  for (const [pattern, repeatOf] of PHRASES) {
    const match = pattern.exec(text);
    if (!match) continue;
    const repeat = repeatOf([...match].map((part) => part ?? ''));
    if (/INTERVAL=0\b|^P0/.test(repeat)) return null;
    const end = match.index + match[0].length;
    const times = repeat.startsWith('P') ? null : TIMES.exec(text.slice(end));
    const count = times ? numberOf(times[1] ?? '') : 0;
    return count > 0
      ? { repeat: `${repeat};COUNT=${count}`, start: match.index, end: end + (times?.[0].length ?? 0) }
      : { repeat, start: match.index, end };
  }
  return null;
}

const part = (rule: string, name: string): string | null =>
  new RegExp(`(?:^|;)${name}=([^;]+)`).exec(rule)?.[1] ?? null;

const list = (words: readonly string[]): string =>
  words.length > 1 ? `${words.slice(0, -1).join(', ')} and ${words.at(-1) ?? ''}` : (words[0] ?? '');

const ordinal = (position: number): string =>
  position === -1 ? 'last' : (ORDINALS[position - 1] ?? `${position}th`);

function daysInWords(byDay: string): string {
  if (byDay === WEEKDAYS) return 'working day';
  return list(
    byDay.split(',').map((one) => {
      const [, position = '', code = ''] = /^([+-]?\d*)([A-Z]{2})$/.exec(one) ?? [];
      const day = DAYS[CODES.indexOf(code as (typeof CODES)[number])] ?? code;
      return position ? `${ordinal(Number(position))} ${day}` : day;
    }),
  );
}

const MONTH_NAMES = [...Array(12).keys()].map((month) =>
  DateTime.utc(2026, month + 1).toFormat('LLLL', { locale: 'en-GB' }),
);

/** A repeat in words: "every first Monday of the month", "every 2 weeks on Tuesday", "3 weeks after it is done". */
export function repeatInWords(repeat: Repeat): string {
  const duration = durationOf(repeat);
  if (duration)
    return `${duration.count} ${duration.count === 1 ? duration.unit.slice(0, -1) : duration.unit} after it is done`;
  const unit = (Object.entries(FREQUENCY).find(([, word]) => word === part(repeat, 'FREQ'))?.[0] ??
    'day') as Unit;
  const every = Number(part(repeat, 'INTERVAL') ?? 1);
  const [byDay, bySet, byMonthDay, byMonth] = ['BYDAY', 'BYSETPOS', 'BYMONTHDAY', 'BYMONTH'].map((name) =>
    part(repeat, name),
  );
  const days = byDay ? daysInWords(byDay) : '';
  const plain = every > 1 ? `every ${every} ${unit}s` : `every ${unit}`;
  const inMonths = byMonth
    ? ` in ${list(byMonth.split(',').map((month) => MONTH_NAMES[Number(month) - 1] ?? month))}`
    : '';
  let words = plain;
  if (days && bySet) words = `every ${ordinal(Number(bySet))} ${days} of the ${unit}`;
  else if (days && /\d/.test(byDay ?? ''))
    words = every > 1 ? `${plain} on the ${days}` : `every ${days} of the ${unit}`;
  else if (days) words = every > 1 || unit !== 'week' ? `${plain} on ${days}` : `every ${days}`;
  else if (byMonthDay)
    words = `${plain} on the ${list(byMonthDay.split(',').map((day) => (day === '-1' ? 'last day' : `${day}${suffix(Number(day))}`)))}`;
  const count = part(repeat, 'COUNT');
  const until = part(repeat, 'UNTIL');
  const end = count
    ? `, ${count} times`
    : until
      ? `, until ${DateTime.fromFormat(until.slice(0, 8), 'yyyyMMdd', { zone: 'utc' }).toFormat('d LLL yyyy', { locale: 'en-GB' })}`
      : '';
  return `${words}${inMonths}${end}`;
}

function suffix(day: number): string {
  if (day >= 11 && day <= 13) return 'th';
  return ['th', 'st', 'nd', 'rd'][day % 10] ?? 'th';
}
