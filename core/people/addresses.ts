import { alternatives } from '../words/compile';
import { fold } from './text';

const STREET_BEFORE = new RegExp(String.raw`\b(?:${alternatives('streetBefore')})\s+(?:\p{L}|\d|[''])`, 'iu');
const STREET_AFTER = new RegExp(
  String.raw`(?:\b(?:${alternatives('streetWord')})\b|(?:${alternatives('streetEnding')})\b\.?)`,
  'iu',
);
const NUMBERED = /\d/;
/** A name and a house number, whatever the street is called; only next to a post code is it taken for a street. */
const HOUSE =
  /^(?:\p{Lu}[\p{L}'’. -]{2,40}?,?\s(?:n[º°o]\.?\s?)?\d{1,4}\s?[a-z]?(?:\s?[-–/]\s?\d{1,4}\s?[a-z]?)?|\d{1,5}[a-z]?(?:[-–/]\d{1,4})?,?\s\p{Lu}[\p{L}'’. -]{2,40})$/iu;
const UNIT =
  /^(?:suite|ste|unit|floor|flat|apt|apartment|room|level|building|bldg|block|étage|piso|planta|bâtiment|bât|c\/o)\b\.?\s*#?[\p{L}\d]|^\d{1,2}(?:st|nd|rd|th)\s(?:floor|level)\b|^(?:the\s)?(?:\p{L}+\s){1,2}(?:house|cottage|farm|barn|mill|forge|lodge|hall|building|business park|industrial estate|trading estate|retail park|chambers|tower|arcade|stables|rectory|vicarage|manor|grange)$|^the old \p{L}+$/iu;
const POSTCODES: readonly [RegExp, string][] = [
  [/\b\d{4}-\d{3}\b(?!\d)/, 'PT'],
  [/\b(?:[A-Z]{1,2}\d[A-Z\d]?\s?\d[A-Z]{2})\b/, 'GB'],
  [/\b\d{4}\s?[A-Z]{2}\b(?=\s+\p{Lu})/u, 'NL'],
  [/\b[A-Z]{2}\s+\d{5}(?:-\d{4})?\b/, 'US'],
  [/\b[A-Z]\d[A-Z]\s?\d[A-Z]\d\b/, 'CA'],
  [/\b(?:NSW|VIC|QLD|WA|SA|TAS|ACT|NT)\s+\d{4}\b/, 'AU'],
  [/\b[A-Z]\d{2}\s?[A-Z0-9]{4}\b/, 'IE'],
  [/(?:-ku|-shi|-cho|Tokyo|Osaka|Kyoto|Japan)[,\s]+\d{3}-\d{4}\b/, 'JP'],
  [/\b\d{2}-\d{3}\s\p{Lu}/u, 'PL'],
  [/\bD-\d{5}\b/, 'DE'],
  [/\bF-\d{5}\b/, 'FR'],
  [/\b(?:A|AT)-\d{4}\b/, 'AT'],
  [/\bCH-\d{4}\b/, 'CH'],
  [/\bB-\d{4}\b/, 'BE'],
  [/\bL-\d{4}\b/, 'LU'],
  [/\bDK-\d{4}\b/, 'DK'],
];
const PLAIN_POSTCODE = /(?:^|,\s*|\s)(?:\d{5}|\d{3}\s\d{2}|\d{4})\s+\p{Lu}[\p{L}.'-]{2,}/u;

const COUNTRIES: Record<string, string> = {
  portugal: 'PT',
  spain: 'ES',
  espana: 'ES',
  france: 'FR',
  germany: 'DE',
  deutschland: 'DE',
  austria: 'AT',
  osterreich: 'AT',
  switzerland: 'CH',
  schweiz: 'CH',
  suisse: 'CH',
  netherlands: 'NL',
  'the netherlands': 'NL',
  nederland: 'NL',
  belgium: 'BE',
  belgie: 'BE',
  belgique: 'BE',
  ireland: 'IE',
  'united kingdom': 'GB',
  uk: 'GB',
  england: 'GB',
  scotland: 'GB',
  wales: 'GB',
  'great britain': 'GB',
  italy: 'IT',
  italia: 'IT',
  denmark: 'DK',
  danmark: 'DK',
  sweden: 'SE',
  sverige: 'SE',
  norway: 'NO',
  norge: 'NO',
  finland: 'FI',
  suomi: 'FI',
  poland: 'PL',
  polska: 'PL',
  usa: 'US',
  'united states': 'US',
  canada: 'CA',
  australia: 'AU',
  'new zealand': 'NZ',
  luxembourg: 'LU',
  czechia: 'CZ',
  hungary: 'HU',
  greece: 'GR',
  brazil: 'BR',
  brasil: 'BR',
};

const CITIES: Record<string, string> = {
  lisbon: 'PT',
  lisboa: 'PT',
  porto: 'PT',
  braga: 'PT',
  coimbra: 'PT',
  faro: 'PT',
  aveiro: 'PT',
  madrid: 'ES',
  barcelona: 'ES',
  valencia: 'ES',
  sevilla: 'ES',
  bilbao: 'ES',
  paris: 'FR',
  lyon: 'FR',
  nantes: 'FR',
  lille: 'FR',
  marseille: 'FR',
  bordeaux: 'FR',
  toulouse: 'FR',
  strasbourg: 'FR',
  rennes: 'FR',
  grenoble: 'FR',
  berlin: 'DE',
  hamburg: 'DE',
  munchen: 'DE',
  munich: 'DE',
  koln: 'DE',
  cologne: 'DE',
  frankfurt: 'DE',
  leipzig: 'DE',
  bremen: 'DE',
  stuttgart: 'DE',
  dresden: 'DE',
  freiburg: 'DE',
  hannover: 'DE',
  munster: 'DE',
  wien: 'AT',
  vienna: 'AT',
  graz: 'AT',
  linz: 'AT',
  salzburg: 'AT',
  zurich: 'CH',
  bern: 'CH',
  basel: 'CH',
  geneve: 'CH',
  lausanne: 'CH',
  amsterdam: 'NL',
  rotterdam: 'NL',
  utrecht: 'NL',
  groningen: 'NL',
  eindhoven: 'NL',
  haarlem: 'NL',
  leiden: 'NL',
  delft: 'NL',
  'den haag': 'NL',
  antwerpen: 'BE',
  gent: 'BE',
  ghent: 'BE',
  brussels: 'BE',
  brussel: 'BE',
  bruxelles: 'BE',
  leuven: 'BE',
  brugge: 'BE',
  dublin: 'IE',
  cork: 'IE',
  galway: 'IE',
  limerick: 'IE',
  london: 'GB',
  bristol: 'GB',
  manchester: 'GB',
  leeds: 'GB',
  edinburgh: 'GB',
  glasgow: 'GB',
  cardiff: 'GB',
  sheffield: 'GB',
  liverpool: 'GB',
  birmingham: 'GB',
  york: 'GB',
  brighton: 'GB',
  cambridge: 'GB',
  oxford: 'GB',
  newcastle: 'GB',
  nottingham: 'GB',
  norwich: 'GB',
  exeter: 'GB',
  milano: 'IT',
  milan: 'IT',
  torino: 'IT',
  bologna: 'IT',
  roma: 'IT',
  firenze: 'IT',
  copenhagen: 'DK',
  kobenhavn: 'DK',
  aarhus: 'DK',
  odense: 'DK',
  stockholm: 'SE',
  goteborg: 'SE',
  gothenburg: 'SE',
  malmo: 'SE',
  uppsala: 'SE',
  oslo: 'NO',
  bergen: 'NO',
  trondheim: 'NO',
  helsinki: 'FI',
  tampere: 'FI',
  turku: 'FI',
  warszawa: 'PL',
  krakow: 'PL',
  gdansk: 'PL',
  wroclaw: 'PL',
  portland: 'US',
  seattle: 'US',
  chicago: 'US',
  boston: 'US',
  austin: 'US',
  denver: 'US',
  brooklyn: 'US',
  oakland: 'US',
  'new york': 'US',
  'san francisco': 'US',
  minneapolis: 'US',
  philadelphia: 'US',
  toronto: 'CA',
  vancouver: 'CA',
  montreal: 'CA',
  ottawa: 'CA',
  sydney: 'AU',
  melbourne: 'AU',
  brisbane: 'AU',
  perth: 'AU',
  adelaide: 'AU',
  hobart: 'AU',
  auckland: 'NZ',
  wellington: 'NZ',
};

/** How strongly a line looks like a postal address or a part of one: 0, 0.5 (town or country alone), 1 (street, post code). */
export function addressLikeness(text: string): number {
  if (hasStreet(text) || hasPostcode(text)) return 1;
  if (/\bp\.?\s?o\.?\s?box\s+\d+|postfach\s+\d+|apartado\s+\d+/i.test(text)) return 1;
  if (text.split(' ').length <= 6 && (STREET_BEFORE.test(text) || UNIT.test(text))) return 0.5;
  const folded = fold(text);
  return COUNTRIES[folded] ||
    (folded.split(' ').length <= 4 &&
      placeNames(text).length > 0 &&
      placeNames(text).every((place) => COUNTRIES[place] || CITIES[place]))
    ? 0.5
    : 0;
}

/** Whether a text names a street and holds a number. */
export const hasStreet = (text: string): boolean =>
  NUMBERED.test(text) && (STREET_BEFORE.test(text) || STREET_AFTER.test(text));

/** Whether a text could be a street with its number, judged by its shape alone. */
export const hasHouseShape = (text: string): boolean => HOUSE.test(text);

/** Whether a text holds a post code of a shape we know. */
export const hasPostcode = (text: string): boolean =>
  POSTCODES.some(([pattern]) => pattern.test(text)) || PLAIN_POSTCODE.test(text);

function placeNames(text: string): string[] {
  return text
    .split(/[,·|–-]/)
    .map(fold)
    .filter(Boolean);
}

/** The countries (ISO 3166-1 alpha-2) that the written address suggests, surest first. */
export function countriesOfAddress(text: string): string[] {
  const found: string[] = [];
  const places = placeNames(text.replace(/\d+/g, ' '));
  for (const place of places) if (COUNTRIES[place]) found.push(COUNTRIES[place]);
  for (const [pattern, country] of POSTCODES) if (pattern.test(text)) found.push(country);
  const words = fold(text).split(' ');
  words.forEach((word, index) => {
    const pair = `${word} ${words[index + 1] ?? ''}`;
    const country = CITIES[pair] ?? CITIES[word];
    if (country) found.push(country);
  });
  if (/stra(?:ß|ss)e\b|str\.\s*\d/iu.test(text)) found.push('DE', 'AT', 'CH');
  if (/(?:straat|laan|plein|gracht|kade)\b/iu.test(text)) found.push('NL', 'BE');
  if (/\brua\b|\btravessa\b/iu.test(text)) found.push('PT', 'BR');
  if (/\brue\b|\bquai\b/iu.test(text)) found.push('FR', 'BE');
  if (/\bcalle\b/iu.test(text)) found.push('ES');
  if (/\bvia\b|\bviale\b|\bpiazza\b/iu.test(text)) found.push('IT');
  if (/(?:gatan|vägen)\b/iu.test(text)) found.push('SE');
  if (/(?:vej|gade)\b/iu.test(text)) found.push('DK');
  return [...new Set(found)];
}
