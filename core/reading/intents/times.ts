import { readNumber } from './numbers';

/** A time of day beside a date. */
export interface FoundTime {
  start: number;
  end: number;
  hour: number;
  minute: number;
  /** Minutes east of UTC where the zone was named with it. */
  offset: number | null;
}

const HOURS = 'one|two|three|four|five|six|seven|eight|nine|ten|eleven|twelve';
const GERMAN = 'eins|zwei|drei|vier|funf|sechs|sieben|acht|neun|zehn|elf|zwolf';
const DUTCH = 'een|twee|drie|vier|vijf|zes|zeven|acht|negen|tien|elf|twaalf';
const ZONES: Record<string, number> = {
  utc: 0,
  gmt: 0,
  bst: 60,
  cet: 60,
  cest: 120,
  eet: 120,
  est: -300,
  edt: -240,
  cst: -360,
  cdt: -300,
  pst: -480,
  pdt: -420,
};
const ZONE = `(?:\\s\\(?(?<zone>${Object.keys(ZONES).join('|')})\\b\\)?)?`;
const HALF_DAY = "a\\.m\\.|p\\.m\\.|am|pm|uhr|hrs?|h|heures?|horas?|uur|u|o'?clock|ish";
const CLOCK = [
  `(?<h>[01]?\\d|2[0-4])\\s?[:.h]\\s?(?<m>[0-5]\\d)(?!\\d)\\s?(?<half>${HALF_DAY})?(?![a-z])`,
  `(?<h2>[01]?\\d|2[0-4])(?:\\s?(?:-|\\u2013|to|and|bis|und|a|e|y|et|tot|en)\\s?(?:las\\s|as\\s)?\\d{1,2}(?:[:.h]\\d\\d)?)?\\s?(?<half2>${HALF_DAY})(?![a-z])`,
  '\\b(?<noon>noon|midday|mittags|midi|meio[- ]dia|mediodia|mezzogiorno|lunchtime)\\b',
  `half\\s(?:past\\s)?(?<half30>${HOURS}|\\d{1,2})\\b`,
  `(?:halb\\s(?<halb>${GERMAN}|\\d{1,2})|half\\s(?<halve>${DUTCH}))\\b`,
  `(?:a\\s)?quarter\\s(?<quarter>past|to)\\s(?<qh>${HOURS}|\\d{1,2})\\b`,
];
const BARE =
  '(?<bare>[01]?\\d|2[0-3])(?:(?:\\s?[-\\u2013]\\s?|\\s(?:and|to|und|bis|et|y|en|tot)\\s)(?:[01]?\\d|2[0-3]))?(?![\\d:.,h%/-]*\\d)(?!\\s?(?:st|nd|rd|th|%|k|m|km|kg|bikes?|x)\\b)';
const PREPOSITION =
  '(?:at|@|around|about|from|after|before|by|um|ab|gegen|nach|vor|a\\slas|a\\sla|as|a|sobre\\slas|pelas|o|desde\\slas|por\\svolta\\sdas|a\\spartir\\sdas|om|vanaf|rond|na|alle\\sore|alle|ore|dalle|verso\\sle|kl\\.?|klo|klockan|klokka|klokken|v|ve|vers|des|apres|avant|between|zwischen|entre(?:\\slas|\\sas)?|tussen|by\\sabout)';
const AT =
  '(?:at|@|um|a\\slas|a\\sla|as|a|om|alle\\sore|alle|kl\\.?|klo|klockan|klokka|klokken|between|zwischen|tussen)';
const DAYTIME =
  '(?:(?:in\\sthe\\s|am\\s|de\\sla\\s|por\\sla\\s|da\\s|de\\s)?(?:morning|afternoon|evening|vormittag|nachmittag|abend|matin|apres-midi|soir|manha|tarde|manana|noche|ochtend|middag|avond|mattina|pomeriggio|formiddag|ettermiddag|eftermiddag|lunchtime)[\\s,]*)?';

const CLOCKS = CLOCK.map(
  (clock) => new RegExp(`^[\\s,(-]*${DAYTIME}(?:${PREPOSITION}\\s?)?(?:${clock})${ZONE}`),
);
const BARE_WITH_AT = new RegExp(`^[\\s,(]*${DAYTIME}${AT}\\s?${BARE}`);
const BARE_SLAVIC = new RegExp(`^\\s(?:o|v|ve)\\s${BARE}`);
const BARE_SLAVIC_LAST = new RegExp(`^\\s(?:o|v|ve)\\s${BARE}(?=\\s*(?:[.,;!?)]|$))`);
const BARE_BEHIND = new RegExp(
  `^,?\\s${BARE}(?=\\s*(?:[.,;!?)]|$|\\s(?:about|for|with|to|re|and|he|she|they|we|is|works|suits|wegen|uber)\\b))`,
);
const BEFORE = CLOCK.map(
  (clock) =>
    new RegExp(
      `(?:\\b${PREPOSITION}\\s?)?(?<![\\d.,:])(?:${clock})${ZONE}[\\s,]*(?:on|am|le|no|na|el|op|il|den|-)?\\s?$`,
    ),
);
const BARE_BEFORE = new RegExp(`\\b${AT}\\s?${BARE}[\\s,]*(?:on|am|le|no|na|el|op|il)?\\s?$`);
const ALONE = CLOCK.map((clock) => new RegExp(`(?:^|\\s)${AT}\\s?(?:${clock})${ZONE}`));
const EVENING = /evening|abend|soir|noche|avond|afternoon|nachmittag|apres-midi|tarde|middag|pomeriggio/;

function toTime(match: RegExpExecArray, start: number, evening: boolean): FoundTime | null {
  const g = match.groups ?? {};
  const half = (g.half ?? g.half2 ?? '').replace(/\./g, '');
  const written = g.h ?? g.h2 ?? g.bare ?? '';
  const named = (word: string | undefined): number => (word ? (readNumber(word) ?? Number(word)) : NaN);
  let hour = Number(written || NaN);
  let minute = Number(g.m ?? 0);
  if (g.noon) hour = 12;
  else if (g.half30) [hour, minute] = [named(g.half30), 30];
  else if (g.halb ?? g.halve) [hour, minute] = [named(g.halb ?? g.halve) - 1, 30];
  else if (g.qh) [hour, minute] = g.quarter === 'past' ? [named(g.qh), 15] : [named(g.qh) - 1, 45];
  if (Number.isNaN(hour) || hour > 24) return null;
  if (half === 'pm' && hour < 12) hour += 12;
  else if (half === 'am' && hour === 12) hour = 0;
  else if (half !== 'am' && half !== 'pm' && !g.noon) {
    const late = evening || EVENING.test(match[0]);
    if (hour > 0 && (late ? hour < 12 : hour < 7) && !/^0/.test(written)) hour += 12;
  }
  const leading = /^[\s,(-]*/.exec(match[0])?.[0].length ?? 0;
  return {
    start: start + leading,
    end: start + match[0].trimEnd().length,
    hour: hour % 24,
    minute,
    offset: g.zone ? (ZONES[g.zone] ?? null) : null,
  };
}

const first = (
  patterns: readonly RegExp[],
  text: string,
  start: number,
  evening: boolean,
): FoundTime | null => {
  for (const pattern of patterns) {
    const match = pattern.exec(text);
    const time = match ? toTime(match, start + match.index, evening) : null;
    if (time) return time;
  }
  return null;
};

/** The time that stands right behind a date which ends at `end`, in flat text. */
export function timeBehind(
  flat: string,
  end: number,
  byWeekday: boolean,
  evening: boolean,
): FoundTime | null {
  const rest = flat.slice(end, end + 60);
  return first(
    byWeekday
      ? [...CLOCKS, BARE_WITH_AT, BARE_SLAVIC, BARE_BEHIND]
      : [...CLOCKS, BARE_WITH_AT, BARE_SLAVIC_LAST],
    rest,
    end,
    evening,
  );
}

const DAYTIME_BEHIND = new RegExp(`^\\s${DAYTIME}`);

/** Where a word such as "morning" right behind a date ends; `end` itself when there is none. */
export function daytimeBehind(flat: string, end: number): number {
  const found = DAYTIME_BEHIND.exec(flat.slice(end, end + 30))?.[0] ?? '';
  return end + found.replace(/[\s,]+$/, '').length;
}

/** The time that stands right before a date which begins at `start`. */
export function timeBefore(flat: string, start: number, evening: boolean): FoundTime | null {
  const from = Math.max(0, start - 40);
  return first([...BEFORE, BARE_BEFORE], flat.slice(from, start), from, evening);
}

/** A time with no date beside it: "can you ring at 3pm?". */
export const timeAlone = (flat: string): FoundTime | null => first(ALONE, flat, 0, false);
