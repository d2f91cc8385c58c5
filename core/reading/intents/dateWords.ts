const LOCALES = ['en', 'de', 'fr', 'pt', 'es', 'nl', 'it', 'sv', 'da', 'nb', 'fi', 'pl', 'cs'];

/**
 * A text without accents and capitals in which every character stands where it stood, so that places found in the one
 * are places in the other, and `\b` means the edge of a word in every language.
 */
export function flatten(text: string): string {
  if (PLAIN.test(text)) return text.toLowerCase();
  return text.replace(/[^\x20-\x7e]|[A-Z]/g, (unit) => {
    if (/\s/.test(unit)) return ' ';
    return (unit.normalize('NFD')[0] ?? unit).toLowerCase()[0] ?? unit;
  });
}

/** Characters of which each stays one when its capital is taken away. */
const PLAIN = /^[\x20-\x7e]*$/;

type Names = Record<string, number>;

/** The names of a calendar in all our languages, from the Unicode CLDR that the platform carries. */
function namesOf(count: number, first: Date, step: number, options: Intl.DateTimeFormatOptions): Names {
  const names: Names = {};
  for (const locale of LOCALES) {
    const format = new Intl.DateTimeFormat(locale, { ...options, timeZone: 'UTC' });
    const part = options.weekday ? 'weekday' : 'month';
    for (let index = 0; index < count; index++) {
      const day = new Date(first.getTime() + index * step * 86_400_000);
      const name = flatten(format.formatToParts(day).find((one) => one.type === part)?.value ?? '');
      if (/^[a-z][a-zøæł-]{2,}$/.test(name)) names[name] ??= index + 1;
    }
  }
  return names;
}

const MONDAY = new Date(Date.UTC(2024, 0, 1));
const MID_JANUARY = new Date(Date.UTC(2024, 0, 15));

/** Monday is 1, as in ISO 8601. */
const WEEKDAYS: Names = namesOf(7, MONDAY, 1, { weekday: 'long' });
const WEEKDAYS_SHORT: Names = {
  mon: 1,
  tue: 2,
  tues: 2,
  wed: 3,
  weds: 3,
  thu: 4,
  thur: 4,
  thurs: 4,
  fri: 5,
  sat: 6,
  sun: 7,
};
/** Weekdays as they stand in a sentence where the language inflects them: Polish, Czech, Finnish. */
const WEEKDAYS_INFLECTED: Names = {
  poniedzialku: 1,
  'poniedzia\u0142ku': 1,
  wtorku: 2,
  srode: 3,
  srody: 3,
  czwartku: 4,
  piatku: 5,
  sobote: 6,
  soboty: 6,
  niedziele: 7,
  niedzieli: 7,
  stredu: 3,
  stredy: 3,
  ctvrtka: 4,
  patku: 5,
  sobotu: 6,
  nedeli: 7,
  ...Object.fromEntries(
    ['maanantai', 'tiistai', 'keskiviikko', 'torstai', 'perjantai', 'lauantai', 'sunnuntai'].flatMap(
      (day, index) => [`${day}na`, `${day}hin`, `${day}on`].map((form) => [form, index + 1]),
    ),
  ),
};
/** Portuguese says "na quinta" for quinta-feira; elsewhere these words are ordinals. */
const WEEKDAYS_BARE: Names = { segunda: 1, terca: 2, quarta: 3, quinta: 4, sexta: 5 };
const WEEKDAYS_DOTTED: Names = { mo: 1, di: 2, mi: 3, do: 4, fr: 5, sa: 6, so: 7 };

/** January is 1. The genitives of Polish and Czech come with the day. */
const MONTHS: Names = {
  ...namesOf(12, MID_JANUARY, 30.4, { month: 'long' }),
  ...namesOf(12, MID_JANUARY, 30.4, { month: 'long', day: 'numeric' }),
};
const MONTHS_SHORT: Names = {
  jan: 1,
  janv: 1,
  janner: 1,
  ene: 1,
  feb: 2,
  febr: 2,
  fev: 2,
  fevr: 2,
  mar: 3,
  mrt: 3,
  mrz: 3,
  apr: 4,
  abr: 4,
  avr: 4,
  jun: 6,
  jul: 7,
  juil: 7,
  aug: 8,
  ago: 8,
  sep: 9,
  sept: 9,
  oct: 10,
  okt: 10,
  ott: 10,
  nov: 11,
  dec: 12,
  dez: 12,
  dic: 12,
};

const longestFirst = (names: Names): string =>
  Object.keys(names)
    .sort((a, b) => b.length - a.length)
    .join('|');

const AFTER_A_WORD =
  '(?<=\\b(?:on|this|next|last|by|before|until|till|from|for|or|and|back|again|free|late|early|call|meet|meeting|demo|ring|lunch|coffee|visit|send|mail|him|her|them|us|me|it)\\s)';
const AT_THE_END = '(?=\\s*(?:[.,;!?)]|$))';
/** Short names that no other word of our languages is taken for. */
const UNMISTAKABLE = 'tues|weds|thurs|thur|thu';
/** Short names that end a clause only as weekdays. */
const AT_END = 'mon|tue|wed|fri';
const BEFORE_A_NUMBER = '(?=,?\\s(?:the\\s)?\\d|,?\\s(?:at|noon|morning|afternoon|evening)\\b)';

/** "Freitagvormittag", "vrijdagmiddag", "fredagskväll": the part of a day that is written with it. */
export const PART_OF_DAY =
  '(?:s?(?:vormittag|nachmittag|mittag|abend|morgen|ochtend|middag|avond|formiddag|ettermiddag|eftermiddag|aften|kvall|morgon)s?)?';

/** Pattern source for a weekday in flat text, without groups. */
export const WEEKDAY = [
  `\\b(?:${longestFirst({ ...WEEKDAYS, ...WEEKDAYS_INFLECTED })})(?=${PART_OF_DAY}\\b)`,
  `${AFTER_A_WORD}(?:${longestFirst(WEEKDAYS_SHORT)})\\b\\.?`,
  `\\b(?:${longestFirst(WEEKDAYS_SHORT)})\\b\\.?${BEFORE_A_NUMBER}`,
  `\\b(?:${UNMISTAKABLE})\\b\\.?`,
  `(?<=[a-z]\\s)(?:${AT_END})\\b${AT_THE_END}`,
  `(?<=\\b(?:na|nesta|da|a|ate|proxima|esta|para|de|em)\\s)(?:${longestFirst(WEEKDAYS_BARE)})\\b(?!\\s(?:vez|etapa|fase|opcao|feira))`,
  `\\b(?:${longestFirst(WEEKDAYS_BARE)})(?=\\s(?:(?:que\\s(?:vem|viene)|de\\smanha|a\\s(?:tarde|noite))\\b|as\\s\\d|\\d{1,2}\\/\\d))`,
  `(?<=\\b(?:retornar|ligar|liga|ligo|voltar|volto|reuniao|visita|enviar|falar|proposta|encontro|visitar)\\s)(?:${longestFirst(WEEKDAYS_BARE)})\\b(?!\\s(?:vez|etapa|fase|opcao|feira))`,
  `\\b(?:${longestFirst(WEEKDAYS_DOTTED)})\\b\\.?(?=,?\\s(?:den\\s)?\\d{1,2}\\.)`,
].join('|');

/** Pattern source for a month in flat text, without groups; the short forms only where a day stands beside them. */
export const MONTH = `\\b(?:${longestFirst(MONTHS)})\\b`;
export const MONTH_BY_A_DAY = `(?:${longestFirst({ ...MONTHS, ...MONTHS_SHORT })})\\b\\.?`;

/** 1 (Monday) to 7 of a weekday as written in flat text. */
export function weekdayOf(word: string): number {
  const bare = word.replace(/\.$/, '');
  return (
    WEEKDAYS[bare] ??
    WEEKDAYS_INFLECTED[bare] ??
    WEEKDAYS_SHORT[bare] ??
    WEEKDAYS_BARE[bare] ??
    WEEKDAYS_DOTTED[bare] ??
    0
  );
}

/** 1 to 12 of a month as written in flat text; 0 when it is none. */
export function monthOf(word: string): number {
  const bare = word.replace(/\.$/, '');
  return MONTHS[bare] ?? MONTHS_SHORT[bare] ?? 0;
}

/** Weekdays written out, but for the English: where a number behind one is the day of the month. */
export const WEEKDAY_ABROAD = longestFirst(
  Object.fromEntries(
    Object.entries(WEEKDAYS).filter(([name]) => !/^(?:mon|tues|wednes|thurs|fri|satur|sun)day$/.test(name)),
  ),
);

const ORDINAL_WORDS: readonly string[] = [
  'first|ersten?|premier|primero|primeiro|primo|forsta|forste',
  'second|zweiten?',
  'third|dritten?',
  'fourth|vierten?',
  'fifth|funften?',
  'sixth|sechsten?',
  'seventh|siebten?',
  'eighth|achten?',
  'ninth|neunten?',
  'tenth|zehnten?',
  'eleventh|elften?',
  'twelfth|zwolften?',
  ...'thirteenth fourteenth fifteenth sixteenth seventeenth eighteenth nineteenth twentieth'.split(' '),
  ...'first second third fourth fifth sixth seventh eighth ninth'
    .split(' ')
    .map((word) => `twenty[- ]${word}`),
  'thirtieth',
  'thirty[- ]first',
];
/** Days of the month in words, those of two words first. */
export const ORDINALS: readonly string[] = [...ORDINAL_WORDS].reverse();

/** 1 to 31 of a day in words; 0 when it is none. */
export const ordinalOf = (word: string): number =>
  ORDINAL_WORDS.findIndex((words) => new RegExp(`^(?:${words})$`).test(word)) + 1;

/** Words for days near today, by how many days they are away. */
export const RELATIVE: Record<string, number> = {
  'day after tomorrow': 2,
  ubermorgen: 2,
  'apres-demain': 2,
  'depois de amanha': 2,
  'pasado manana': 2,
  overmorgen: 2,
  dopodomani: 2,
  tomorrow: 1,
  tmrw: 1,
  tmw: 1,
  morgen: 1,
  demain: 1,
  amanha: 1,
  manana: 1,
  domani: 1,
  'i morgon': 1,
  imorgon: 1,
  'i morgen': 1,
  'i overmorgen': 2,
  today: 0,
  tonight: 0,
  heute: 0,
  "aujourd'hui": 0,
  hoje: 0,
  hoy: 0,
  vandaag: 0,
  oggi: 0,
  'i dag': 0,
  'i overmorgon': 2,
  pojutrze: 2,
  pozitri: 2,
  ylihuomenna: 2,
  jutro: 1,
  zitra: 1,
  huomenna: 1,
  dzis: 0,
  dzisiaj: 0,
  dnes: 0,
  tanaan: 0,
};
/** What stands before a feast that is a time of year and not the day of something. */
export const NOT_ON =
  '(?:over|during|in\\sthe|into\\sthe|after|before|until|till|uber|vor|nach|bis|avant|apres|pendant|antes\\sd[oe]|depois\\sdo|despues\\sde|ate\\sao|hasta|prima\\sdi|dopo|voor|na|fore|efter|for)';
/** What is of a feast, and not on it: "Christmas rush". */
export const OF_A_FEAST =
  'week|rush|part(?:y|ies)|orders?|markets?|season|menus?|cards?|stock|period|break|trade|lights?|hampers?|trees?|dinner|do|geschaft|feier|markt|essen';
/** Feasts by month and day. */
export const FEASTS: readonly [string, number, number][] = [
  ['christmas eve|heiligabend|nochebuena', 24, 12],
  ['christmas(?: day)?|xmas|weihnachten|noel|natal|navidad|kerst|natale', 25, 12],
  ["new year'?s eve|silvester|nochevieja|oudjaar", 31, 12],
  ["new year(?:'?s(?: day)?)?|neujahr|nouvel an|ano novo|ano nuevo|nieuwjaar|capodanno", 1, 1],
];

/** How many weeks after the coming one a weekday is that is said so. */
export const WEEKS_LATER: Readonly<Record<string, number>> = {
  week: 1,
  'after next': 1,
  'en huit': 1,
  'en quinze': 2,
  'in einer woche': 1,
  'in acht tagen': 1,
  'over een week': 1,
};

const words = (names: Names): string[] => Object.keys(names).flatMap((name) => name.split('-'));
/** The words of the names of months, by which to tell that a text has none. */
export const MONTH_WORDS: ReadonlySet<string> = new Set(words({ ...MONTHS, ...MONTHS_SHORT }));
/** The words of the names of weekdays. */
export const WEEKDAY_WORDS: ReadonlySet<string> = new Set(
  words({ ...WEEKDAYS, ...WEEKDAYS_INFLECTED, ...WEEKDAYS_SHORT, ...WEEKDAYS_BARE, ...WEEKDAYS_DOTTED }),
);
/** The words that begin the names of feasts; of the new year the second, for much is new. */
export const FEAST_WORDS: readonly string[] = FEASTS.flatMap(([names]) => names.split('|')).map(
  (name) => /^(?:new )?(\p{L}+)/u.exec(name)?.[1] ?? '',
);
