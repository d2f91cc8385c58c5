import { countriesOfAddress } from '../../people/addresses';
import { readPhone } from '../../people/phones';

/** Words that tell a language, those with a star by how they begin, and where it is written, the likeliest first. */
const BY_WORD: readonly (readonly [words: string, countries: readonly string[]])[] = [
  ['und nicht wir grüße grüßen bitte angebot geschäftsführer* straße', ['DE', 'AT', 'CH']],
  ['nous vous bonjour merci cordialement devis avec', ['FR', 'BE', 'CH']],
  ['obrigado obrigada cumprimentos olá orçamento telemóvel não você', ['PT', 'BR']],
  ['gracias saludo saludos hola presupuesto usted móvil', ['ES', 'MX']],
  ['groet groeten graag bedankt offerte geachte wij jullie', ['NL', 'BE']],
  [
    'saluti grazie buongiorno preventivo gentile cellulare distinti cordiali vorrei vorremmo consegna ordine della',
    ['IT'],
  ],
  ['hälsningar tack hej offert', ['SE']],
  ['venlig tak tilbud tlf', ['DK', 'NO']],
  ['hvis noget hvad gerne hilsen onsdag skrev ladcykel cykler', ['DK', 'NO']],
  ['dzień proszę pozdrawiam poważaniem czy rowery oferta ofertę', ['PL']],
  ['dobrý prosím děkuji pozdravem nabídku máme', ['CZ', 'SK']],
  ['kiitos terveisin tarjous* hei puh', ['FI']],
  ['üdvözlettel tisztelettel köszönöm ajánlat*', ['HU']],
  ['hei mvh vennlig innkjøp*', ['NO']],
];
const LANGUAGE_WORDS = BY_WORD.flatMap(([words], language) =>
  words.split(' ').map((word): [string, number] => [word, language]),
);
const WHOLE_WORDS = new Map<string, number[]>();
for (const [word, language] of LANGUAGE_WORDS)
  if (!word.endsWith('*')) WHOLE_WORDS.set(word, [...(WHOLE_WORDS.get(word) ?? []), language]);
const BEGINNINGS = LANGUAGE_WORDS.flatMap(([word, language]): [string, number][] =>
  word.endsWith('*') ? [[word.slice(0, -1), language]] : [],
);

/** Scripts that are written in one country, or in few. */
const BY_SCRIPT: readonly (readonly [RegExp, readonly string[]])[] = [
  [/[\p{sc=Hiragana}\p{sc=Katakana}]/gu, ['JP']],
  [/\p{sc=Hangul}/gu, ['KR']],
  [/[\p{sc=Han}]{2}/gu, ['CN', 'TW', 'JP']],
  [/[іїєґ]\p{sc=Cyrillic}/giu, ['UA']],
  [/\p{sc=Cyrillic}{3}/gu, ['RU', 'BG', 'UA']],
  [/\p{sc=Greek}{3}/gu, ['GR', 'CY']],
  [/\p{sc=Hebrew}{3}/gu, ['IL']],
  [/\p{sc=Thai}{3}/gu, ['TH']],
  [/\p{sc=Arabic}{3}/gu, ['AE', 'SA', 'EG', 'MA']],
  [/[ışğİ]\p{Ll}|\p{L}ı(?!\p{L})/gu, ['TR']],
];

/** How often the words and letters of a text speak for a language, with the countries in which it is written. */
function languagesOf(text: string): (readonly [hits: number, countries: readonly string[]])[] {
  const hits = BY_WORD.map(() => 0);
  for (const word of text.toLowerCase().match(/\p{L}{2,}/gu) ?? []) {
    for (const language of WHOLE_WORDS.get(word) ?? []) hits[language] = (hits[language] ?? 0) + 1;
    for (const [beginning, language] of BEGINNINGS)
      if (word.startsWith(beginning)) hits[language] = (hits[language] ?? 0) + 1;
  }
  const byWord = BY_WORD.map(([, countries], language) => [hits[language] ?? 0, countries] as const);
  if (!/[^\0-\x7f]/.test(text)) return byWord;
  return [
    ...byWord,
    ...BY_SCRIPT.map(([pattern, countries]) => [text.match(pattern)?.length ?? 0, countries] as const),
  ];
}
const BY_LEGAL_FORM: readonly [RegExp, string][] = [
  [/\bGmbH\b|\be\.\s?[KV]\.|\bOHG\b/, 'DE'],
  [/\bL\.?da\b/, 'PT'],
  [/\bS\.?r\.?l\b|\bS\.p\.A/i, 'IT'],
  [/\bSARL\b|\bSAS\b|\bEURL\b/, 'FR'],
  [/\bB\.?V\b|\bV\.?O\.?F\b/, 'NL'],
  [/\bAB\b/, 'SE'],
  [/\bAS\b/, 'NO'],
  [/\bApS\b|\bA\/S\b/, 'DK'],
  [/\bOyj?\b/, 'FI'],
  [/\bPty\b/, 'AU'],
  [/\bsp\.?\s?z\s?o\.?\s?o/i, 'PL'],
  [/\bs\.\s?r\.\s?o\b/i, 'CZ'],
  [/\bKft\b|\bZrt\b/, 'HU'],
  [/\bS\.?L\.?U?\b/, 'ES'],
  [/\bLLC\b|\bInc\b/, 'US'],
  [/\bLtd\b|\bLimited\b|\bplc\b|\bLLP\b/, 'GB'],
];
const TLD: Record<string, string> = { uk: 'GB', io: '', me: '', co: '', tv: '', eu: '', example: '' };
const OFFSETS: Record<string, string[]> = {
  '+00:00': ['GB', 'IE', 'PT'],
  '+01:00': ['DE', 'FR', 'NL', 'ES', 'IT', 'GB', 'BE', 'AT', 'CH', 'DK', 'SE', 'NO', 'IE', 'PT'],
  '+02:00': ['DE', 'FR', 'NL', 'ES', 'IT', 'BE', 'AT', 'CH', 'DK', 'SE', 'NO', 'FI'],
  '+03:00': ['FI', 'GR'],
  '-03:00': ['BR'],
  '-04:00': ['US', 'CA'],
  '-05:00': ['US', 'CA'],
  '-06:00': ['US', 'CA'],
  '-07:00': ['US', 'CA'],
  '-08:00': ['US', 'CA'],
  '+08:00': ['AU'],
  '+10:00': ['AU'],
  '+11:00': ['AU'],
  '+12:00': ['NZ'],
  '+13:00': ['NZ'],
};
/** National writing that gives its country away by itself. */
const SHAPES: readonly [RegExp, string][] = [
  [/^\(?07\d{3}\)?\s?\d{3}\s?\d{3}$|^\(?0[12]\d{1,4}\)?\s\d{3,4}\s\d{3,4}$/, 'GB'],
  [/^\(?[2-9]\d{2}\)?[-. ][2-9]\d{2}[-. ]\d{4}$/, 'US'],
  [/^0[1-9](?:[ .]\d{2}){4}$/, 'FR'],
  [/^06[- ]?\d{8}$|^06[- ]\d{2}[- ]?\d{2}[- ]?\d{2}[- ]?\d{2}$|^0\d{2,3}-\d{6,7}$/, 'NL'],
  [/^0\d{2,4}\s?[/-]\s?\d{4,8}(?:-\d{1,4})?$/, 'DE'],
  [/^04\d{2}\s\d{3}\s\d{3}$|^\(0[2378]\)\s?\d{4}\s\d{4}$/, 'AU'],
  [/^08[35679]\s\d{3}\s\d{4}$/, 'IE'],
  [/^07\d-\d{3}\s?\d{2}\s?\d{2}$/, 'SE'],
  [/^[29]\d{2}\s\d{3}\s\d{3}$/, 'PT'],
  [/^0\d{2}\s\d{3}\s\d{2}\s\d{2}$/, 'CH'],
  [/^04\d{2}\s\d{2}\s\d{2}\s\d{2}$|^0\d\s\d{3}\s\d{2}\s\d{2}$/, 'BE'],
  [/^[67]\d{2}\s\d{2}\s\d{2}\s\d{2}$|^9\d\s\d{3}\s\d{2}\s\d{2}$/, 'ES'],
  [/^3\d{2}\s\d{6,7}$|^3\d{2}\s\d{3}\s\d{4}$/, 'IT'],
  [/^(?:4|9)\d{2}\s\d{2}\s\d{3}$/, 'NO'],
  [/^(?:04\d|050)\s\d{3}\s\d{4}$/, 'FI'],
  [/^\(\d{2}\)\s9?\d{4}-\d{4}$/, 'BR'],
  [/^[2-9]\d\s\d{2}\s\d{2}\s\d{2}$/, 'DK'],
  [/^[58]\d{2}\s\d{3}\s\d{3}$/, 'PL'],
  [/^0[36-9]\s\d{3}\s\d{4}$|^02[1279]\s\d{3}\s\d{3,4}$/, 'NZ'],
];

/** By then a letter has shown its language. */
const LONGEST_BODY = 4000;

/**
 * Where a sender is likely to be, for reading numbers written without a country code: from the address written in the
 * signature, other numbers, the domain, the way the number is written, the language, the clock of the message.
 * @returns ISO 3166-1 alpha-2 codes with the weight of what speaks for each, likeliest first
 */
export function voteCountries(
  signature: string,
  phones: readonly string[],
  domain: string | null,
  body: string,
  sentAt: string | null,
): [country: string, votes: number][] {
  const votes = new Map<string, number>();
  const vote = (country: string | undefined, weight: number): void => {
    if (country) votes.set(country, (votes.get(country) ?? 0) + weight);
  };
  countriesOfAddress(signature).forEach((country, rank) => vote(country, 8 - Math.min(rank, 6)));
  for (const [pattern, country] of BY_LEGAL_FORM) if (pattern.test(signature)) vote(country, 4);
  for (const phone of phones) {
    const international = /^(?:\+|00)/.test(phone.trim()) ? readPhone(phone) : null;
    vote(international?.country ?? undefined, 9);
  }
  for (const [shape, country] of SHAPES)
    if (phones.some((phone) => shape.test(phone.trim()))) vote(country, 4);
  const tld = domain?.split('.').at(-1) ?? '';
  if (tld.length === 2) vote(TLD[tld] ?? tld.toUpperCase(), 7);
  for (const [hits, countries] of languagesOf(body.slice(0, LONGEST_BODY)))
    if (hits) countries.forEach((country, rank) => vote(country, Math.min(hits, 4) - rank));
  (OFFSETS[sentAt?.slice(-6) ?? ''] ?? []).forEach((country, rank) => vote(country, 1.5 - rank * 0.1));
  return [...votes].sort((a, b) => b[1] - a[1]);
}
