import { DateTime } from 'luxon';
import { todayOf } from '../time';
import type { Asking, Operator, Unit, When } from '../types';
import { NUMBER, readNumber } from './tokens';

/** A time as it was written, and where it ends. */
export interface TimePhrase {
  op: Operator;
  value: When | readonly [When, When];
  end: number;
}
/** Whether a field speaks of what has been or of what will be: "in June" is last June or next June. */
export type Tense = 'past' | 'future';

const MONTHS = ['jan', 'feb', 'mar', 'apr', 'may', 'jun', 'jul', 'aug', 'sep', 'oct', 'nov', 'dec'];
const MONTH =
  '(?<month>jan(?:uary)?|feb(?:ruary)?|mar(?:ch)?|apr(?:il)?|may|june?|july?|aug(?:ust)?|sept?(?:ember)?|oct(?:ober)?|nov(?:ember)?|dec(?:ember)?)';
const WEEKDAYS = ['mon', 'tue', 'wed', 'thu', 'fri', 'sat', 'sun'];
const WEEKDAY =
  '(?<weekday>mon(?:day)?|tue(?:s(?:day)?)?|wed(?:nesday)?|thu(?:rs(?:day)?)?|fri(?:day)?|sat(?:urday)?|sun(?:day)?)';
const UNIT = '(?<unit>days?|weeks?|months?|quarters?|years?|fortnights?)';
const ONE_UNIT = '(?<unit>day|week|month|quarter|year)';

interface Words {
  [name: string]: string | undefined;
}

/** So many units back or ahead: a fortnight is two weeks, a quarter three months. */
function away(words: Words, sign: 1 | -1): When {
  const count = Math.round(readNumber(words.number ?? 'a') * sign);
  const unit = (words.unit ?? 'day').replace(/s$/, '');
  if (unit === 'fortnight') return { away: count * 2, unit: 'week' };
  if (unit === 'quarter') return { away: count * 3, unit: 'month' };
  return { away: count, unit: unit as Unit };
}

class Clock {
  readonly today: DateTime;
  constructor(
    asking: Asking,
    private readonly tense: Tense,
  ) {
    this.today = DateTime.fromISO(todayOf(asking), { zone: 'utc' });
  }

  /** The month of this name that is meant: the last one begun, or the next one not over. */
  month(name: string, year?: string): When {
    const month = MONTHS.indexOf(name.slice(0, 3)) + 1;
    const current = this.today.startOf('month');
    let at = current.set({ month });
    if (year) at = at.set({ year: Number(year) });
    else if (this.tense === 'past' && at > current) at = at.minus({ year: 1 });
    else if (this.tense === 'future' && at < current) at = at.plus({ year: 1 });
    return { unit: 'month', day: iso(at) };
  }
  weekday(name: string): When {
    const wanted = WEEKDAYS.indexOf(name.slice(0, 3)) + 1;
    const by = (wanted - this.today.weekday + 7) % 7;
    return { day: iso(this.today.plus({ days: this.tense === 'past' && by ? by - 7 : by })) };
  }
  day(day: string, name: string, year?: string): When | null {
    const month = MONTHS.indexOf(name.slice(0, 3)) + 1;
    return this.dated(Number(day), month, year);
  }
  dated(day: number, month: number, year?: string): When | null {
    const own = year === undefined ? this.today.year : Number(year.length === 2 ? `20${year}` : year);
    let at = DateTime.utc(own, month, day);
    if (!at.isValid) return null;
    if (year === undefined) {
      if (this.tense === 'past' && at > this.today) at = at.minus({ year: 1 });
      if (this.tense === 'future' && at < this.today) at = at.plus({ year: 1 });
    }
    return { day: iso(at) };
  }
}
const iso = (at: DateTime): string => at.toISODate() ?? '';

type Reader = readonly [pattern: RegExp, make: (words: Words, clock: Clock) => When | null];
const at = (pattern: string): RegExp => new RegExp(`${pattern}(?![\\p{L}\\d])`, 'uy');
const QUARTERS = ['first', 'second', 'third', 'fourth'];
const SHIFTS: Record<string, number> = {
  this: 0,
  current: 0,
  last: -1,
  previous: -1,
  past: -1,
  next: 1,
  coming: 1,
};

/** One stretch of days: "june", "3 june 2026", "last week", "2025", "monday", "yesterday". */
const DATES: readonly Reader[] = [
  [
    at('(?<iso>\\d{4}-\\d{2}-\\d{2})'),
    ({ iso: day = '' }) => (DateTime.fromISO(day).isValid ? { day } : null),
  ],
  [
    at('(?<day>\\d{1,2})[./](?<number>\\d{1,2})[./](?<year>\\d{4}|\\d{2})'),
    ({ day, number, year }, clock) => clock.dated(Number(day), Number(number), year),
  ],
  [
    at(`(?:the )?(?<day>\\d{1,2})(?:st|nd|rd|th)?(?: of)? ${MONTH}(?: (?<year>\\d{4}))?`),
    ({ day = '', month = '', year }, clock) => clock.day(day, month, year),
  ],
  [
    at(`${MONTH} (?:the )?(?<day>\\d{1,2})(?:st|nd|rd|th)?(?: (?<year>\\d{4}))?`),
    ({ day = '', month = '', year }, clock) => clock.day(day, month, year),
  ],
  [at(`${MONTH} ?(?<year>\\d{4})?`), ({ month = '', year }, clock) => clock.month(month, year)],
  [
    at(`(?:last )${WEEKDAY}`),
    ({ weekday = '' }, clock) => {
      const wanted = WEEKDAYS.indexOf(weekday.slice(0, 3)) + 1;
      return { day: iso(clock.today.minus({ days: (clock.today.weekday - wanted + 7) % 7 || 7 })) };
    },
  ],
  [at(`(?:this |next )?${WEEKDAY}`), ({ weekday = '' }, clock) => clock.weekday(weekday)],
  [at('today'), () => ({ away: 0, unit: 'day' })],
  [at('yesterday'), () => ({ away: -1, unit: 'day' })],
  [at('tomorrow'), () => ({ away: 1, unit: 'day' })],
  [
    at(`(?:the )?(?:start|beginning) of (?:the |this )?${ONE_UNIT}`),
    ({ unit }, clock) => ({ day: iso(clock.today.startOf(unit as Unit)) }),
  ],
  [
    at(`(?:the )?(?:end) of (?:the |this )?${ONE_UNIT}`),
    ({ unit }, clock) => ({ day: iso(clock.today.endOf(unit as Unit)) }),
  ],
  [
    at(`(?:the )?(?<shift>this|current|last|previous|past|next|coming) ${ONE_UNIT}`),
    ({ shift = '', unit }) => ({ unit: unit as Unit, shift: SHIFTS[shift] ?? 0 }),
  ],
  [at(`(?<number>${NUMBER}) ${UNIT} ago`), (words) => away(words, -1)],
  [
    at(
      '(?:the )?(?<nth>first|second|third|fourth|last) quarter of (?<year>\\d{4})|(?:the )?(?<own>first|second|third|fourth) quarter',
    ),
    ({ nth, own, year }, clock) => ({
      unit: 'quarter',
      day: iso(
        DateTime.utc(
          year ? Number(year) : clock.today.year,
          QUARTERS.indexOf((nth ?? own ?? '').replace('last', 'fourth')) * 3 + 1,
          1,
        ),
      ),
    }),
  ],
  [
    at('q(?<quarter>[1-4])(?: (?<year>\\d{4}))?'),
    ({ quarter, year }, clock) => ({
      unit: 'quarter',
      day: iso(DateTime.utc(year ? Number(year) : clock.today.year, Number(quarter) * 3 - 2, 1)),
    }),
  ],
  [at('(?<year>20\\d{2}|19\\d{2})'), ({ year }) => ({ unit: 'year', day: `${year}-01-01` })],
];

function readDate(flat: string, from: number, clock: Clock): { when: When; end: number } | null {
  for (const [pattern, make] of DATES) {
    pattern.lastIndex = from;
    const match = pattern.exec(flat);
    const when = match && make(match.groups ?? {}, clock);
    if (match && when) return { when, end: from + match[0].trimEnd().length };
  }
  return null;
}

const SEASONS: Record<string, number> = { spring: 3, summer: 6, autumn: 9, fall: 9, winter: 12 };
const SEASON = at(
  '(?:(?<sign>since|before|after|in|during|over) )(?:the |last |this |this past )?(?<season>spring|summer|autumn|fall|winter)',
);
/** Seasons are those of meteorology in the north: summer is June to August (common practice). */
function readSeason(flat: string, from: number, clock: Clock): TimePhrase | null {
  const found = groupsOf(SEASON, flat, from);
  if (!found) return null;
  const first = clock.month(MONTHS[(SEASONS[found.words.season ?? ''] ?? 6) - 1] ?? 'jun');
  const start = 'day' in first ? first.day : '';
  const last: When = {
    unit: 'month',
    day: iso(DateTime.fromISO(start, { zone: 'utc' }).plus({ months: 2 })),
  };
  const { sign } = found.words;
  if (sign === 'since' || sign === 'before') return { op: sign, value: first, end: found.end };
  return sign === 'after'
    ? { op: 'after', value: last, end: found.end }
    : { op: 'between', value: [first, last], end: found.end };
}

const RANGE = at(
  `(?:in |within |during |over |for )?(?:the )?(?:last|past|previous) (?<number>${NUMBER}) ${UNIT}`,
);
const LAST_UNIT = at(`(?:in|within|during|over) (?:the )(?:last|past) ${ONE_UNIT}`);
const AHEAD = at(
  `(?:(?:in |within |over |during )?(?:the )?(?:next|coming) |within (?:the next )?)(?<number>${NUMBER}) ${UNIT}`,
);
const AHEAD_UNIT = at(`(?:in|within|during|over) the (?:next|coming) ${ONE_UNIT}`);
const OVER_AGO = at(
  `(?<sign>over|more than|at least|longer than|under|less than) (?<number>${NUMBER}) ${UNIT} ago`,
);
const AGO_OR_MORE = at(`(?<number>${NUMBER}) ${UNIT} (?:or more ago|ago or (?:more|longer|earlier))`);
const LASTING = at(
  `(?:for|in) (?:the last |over |more than |at least )?(?<number>${NUMBER}) (?:or more )?${UNIT}(?: or more| or longer)?`,
);
const PREPOSITIONS: readonly (readonly [RegExp, Operator])[] = [
  [at('(?:ever )?since(?: the)?'), 'since'],
  [at('(?:earlier than|before|prior to)'), 'before'],
  [at('(?:later than|after)'), 'after'],
  [at('(?:until|till|up to|by|no later than)'), 'until'],
  [at('from'), 'since'],
  [at('(?:on|in|during)'), 'in'],
];
const BETWEEN = at('(?:between|from)');
const TO = at('(?:and|to|until|till)');

const groupsOf = (pattern: RegExp, flat: string, from: number): { words: Words; end: number } | null => {
  pattern.lastIndex = from;
  const match = pattern.exec(flat);
  return match && { words: match.groups ?? {}, end: from + match[0].length };
};

/**
 * A time that a text names at a place: a stretch of days and how it is meant. "In 30 days" and "for 30 days" are the 30
 * days that end today where the past is spoken of.
 */
export function readWhen(flat: string, from: number, tense: Tense, asking: Asking): TimePhrase | null {
  const clock = new Clock(asking, tense);
  const range = groupsOf(RANGE, flat, from) ?? groupsOf(LAST_UNIT, flat, from);
  if (range) return { op: 'since', value: away(range.words, -1), end: range.end };
  const ago = groupsOf(OVER_AGO, flat, from);
  if (ago) {
    const isUnder = ago.words.sign === 'under' || ago.words.sign === 'less than';
    return { op: isUnder ? 'after' : 'before', value: away(ago.words, -1), end: ago.end };
  }
  const orMore = groupsOf(AGO_OR_MORE, flat, from);
  if (orMore) return { op: 'before', value: away(orMore.words, -1), end: orMore.end };
  const ahead = groupsOf(AHEAD, flat, from) ?? groupsOf(AHEAD_UNIT, flat, from);
  if (ahead)
    return tense === 'past'
      ? { op: 'since', value: away(ahead.words, -1), end: ahead.end }
      : { op: 'between', value: [{ away: 0, unit: 'day' }, away(ahead.words, 1)], end: ahead.end };
  const lasting = groupsOf(LASTING, flat, from);
  if (lasting)
    return tense === 'past'
      ? { op: 'since', value: away(lasting.words, -1), end: lasting.end }
      : { op: 'in', value: away(lasting.words, 1), end: lasting.end };
  const season = readSeason(flat, from, clock);
  if (season) return season;
  const between = groupsOf(BETWEEN, flat, from);
  if (between) {
    const first = readDate(flat, between.end + 1, clock);
    const to = first && groupsOf(TO, flat, first.end + 1);
    const last = to && readDate(flat, to.end + 1, clock);
    if (first && last) return { op: 'between', value: [first.when, last.when], end: last.end };
  }
  for (const [pattern, op] of PREPOSITIONS) {
    const preposition = groupsOf(pattern, flat, from);
    const date = preposition && readDate(flat, preposition.end + 1, clock);
    if (date) return { op, value: date.when, end: date.end };
  }
  const date = readDate(flat, from, clock);
  return date && { op: 'in', value: date.when, end: date.end };
}
