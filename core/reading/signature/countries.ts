import { countriesOfAddress } from '../../people/addresses';
import { readPhone } from '../../people/phones';

const BY_LANGUAGE: readonly [RegExp, string[]][] = [
  [/\b(?:und|nicht|wir|grüße|grüßen|bitte|angebot|geschäftsführer\w*|straße)\b/giu, ['DE', 'AT', 'CH']],
  [/\b(?:nous|vous|bonjour|merci|cordialement|devis|avec)\b/giu, ['FR', 'BE', 'CH']],
  [/\b(?:obrigad[oa]|cumprimentos|olá|orçamento|telemóvel|não|você)\b/giu, ['PT', 'BR']],
  [/\b(?:gracias|saludos?|hola|presupuesto|usted|móvil)\b/giu, ['ES', 'MX']],
  [/\b(?:groet|groeten|graag|bedankt|offerte|geachte|wij|jullie)\b/giu, ['NL', 'BE']],
  [
    /\b(?:saluti|grazie|buongiorno|preventivo|gentile|cellulare|distinti|cordiali|vorrei|vorremmo|consegna|ordine|della)\b/giu,
    ['IT'],
  ],
  [/\b(?:hälsningar|tack|hej|offert)\b/giu, ['SE']],
  [/\b(?:venlig|tak|tilbud|tlf)\b/giu, ['DK', 'NO']],
  [/(?<!\p{L})(?:hvis|noget|hvad|gerne|hilsen|onsdag|skrev|ladcykel|cykler)(?!\p{L})/giu, ['DK', 'NO']],
  [/(?<!\p{L})(?:dzień|proszę|pozdrawiam|poważaniem|czy|rowery|oferta|ofertę)(?!\p{L})/giu, ['PL']],
  [/(?<!\p{L})(?:dobrý|prosím|děkuji|pozdravem|nabídku|máme)(?!\p{L})/giu, ['CZ', 'SK']],
  [/(?<!\p{L})(?:kiitos|terveisin|tarjous\p{L}*|hei|puh)(?!\p{L})/giu, ['FI']],
  [/(?<!\p{L})(?:üdvözlettel|tisztelettel|köszönöm|ajánlat\p{L}*)(?!\p{L})/giu, ['HU']],
  // Scripts that are written in one country, or in few.
  [/[\p{sc=Hiragana}\p{sc=Katakana}]/u, ['JP']],
  [/\p{sc=Hangul}/u, ['KR']],
  [/[\p{sc=Han}]{2}/u, ['CN', 'TW', 'JP']],
  [/[іїєґ]\p{sc=Cyrillic}/giu, ['UA']],
  [/\p{sc=Cyrillic}{3}/u, ['RU', 'BG', 'UA']],
  [/\p{sc=Greek}{3}/u, ['GR', 'CY']],
  [/\p{sc=Hebrew}{3}/u, ['IL']],
  [/\p{sc=Thai}{3}/u, ['TH']],
  [/\p{sc=Arabic}{3}/u, ['AE', 'SA', 'EG', 'MA']],
  [/[ışğİ]\p{Ll}|\p{L}ı(?!\p{L})/u, ['TR']],
  [/\b(?:hei|mvh|vennlig|daglig leder|innkjøp\w*)\b/giu, ['NO']],
];
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
  const start = body.slice(0, 2500);
  for (const [pattern, countries] of BY_LANGUAGE) {
    const hits = start.match(pattern)?.length ?? 0;
    if (hits) countries.forEach((country, rank) => vote(country, Math.min(hits, 4) - rank));
  }
  (OFFSETS[sentAt?.slice(-6) ?? ''] ?? []).forEach((country, rank) => vote(country, 1.5 - rank * 0.1));
  return [...votes].sort((a, b) => b[1] - a[1]);
}
