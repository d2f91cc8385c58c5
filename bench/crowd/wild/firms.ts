import { pick, plain, type Random } from '../errors';
import { CITIES } from '../names';
import type { Culture } from './names';

export interface Firm {
  /** Its full name, with the legal form. */
  name: string;
  /** Other names it goes by: without the legal form, by its brand, as initials, translated, shortened. */
  others: readonly string[];
  domain: string;
  city: string;
  switchboard: string;
  mailbox: string;
}

/** A trade in several languages, with how it is shortened. */
export const TRADES: readonly (readonly string[])[] = [
  ['Bakery', 'Bäckerei', 'Boulangerie', 'Panadería', 'Padaria', 'Bakkerij', 'Piekarnia'],
  ['Brewery', 'Brauerei', 'Brasserie', 'Cervecería', 'Cervejaria', 'Brouwerij', 'Browar'],
  ['Consulting', 'Beratung', 'Conseil', 'Consultoría', 'Consultoria', 'Advies', 'Doradztwo'],
  ['Transport', 'Spedition', 'Transports', 'Transportes', 'Transportes', 'Transport', 'Transport'],
  ['Printing', 'Druckerei', 'Imprimerie', 'Imprenta', 'Gráfica', 'Drukkerij', 'Drukarnia'],
  ['Engineering', 'Maschinenbau', 'Ingénierie', 'Ingeniería', 'Engenharia', 'Techniek', 'Inżynieria'],
  ['Insurance', 'Versicherung', 'Assurances', 'Seguros', 'Seguros', 'Verzekeringen', 'Ubezpieczenia'],
  ['Pharmacy', 'Apotheke', 'Pharmacie', 'Farmacia', 'Farmácia', 'Apotheek', 'Apteka'],
  ['Electric', 'Elektro', 'Électricité', 'Eléctrica', 'Elétrica', 'Elektro', 'Elektro'],
  ['Construction', 'Bau', 'Construction', 'Construcciones', 'Construções', 'Bouw', 'Budownictwo'],
];
const SHORTENED: readonly (readonly [string, string])[] = [
  ['Consulting', 'Cons.'],
  ['Engineering', 'Eng.'],
  ['Transport', 'Transp.'],
  ['Construction', 'Constr.'],
  ['Insurance', 'Ins.'],
  ['Maschinenbau', 'MB'],
  ['International', 'Intl'],
  ['Brothers', 'Bros'],
  ['Versicherung', 'Vers.'],
];
const LEGAL: readonly (readonly string[])[] = [
  ['Ltd', 'Limited', 'LLP', 'Inc.', 'Corp.'],
  ['GmbH', 'AG', 'GmbH & Co. KG', 'KG'],
  ['SARL', 'S.A.', 'SAS'],
  ['S.L.', 'S.A.'],
  ['Lda', 'Lda.', 'S.A.'],
  ['B.V.', 'BV', 'N.V.'],
  ['Sp. z o.o.', 'S.A.'],
];
const STEMS =
  'Alder Arden Basalt Beacon Birch Cedar Cobalt Comet Coral Crest Delta Dorado Ember Falcon Fjord Gamma Harbor Helix Indigo Juniper Kestrel Lagoon Larch Lumen Magnet Maple Meridian Nimbus Nordic Onyx Orion Osprey Pioneer Prisma Quartz Raven Ridge Sable Saffron Solar Sparrow Summit Tamarack Terra Topaz Tundra Umber Vega Velvet Vertex Willow Zephyr Zenith'.split(
    ' ',
  );

const digits = (random: Random, count: number): string =>
  Array.from({ length: count }, () => Math.floor(random() * 10)).join('');

export function firmOf(random: Random, culture: Culture): Firm {
  const language = Math.floor(random() * LEGAL.length);
  const trade = pick(random, TRADES);
  const kind = random();
  const person = pick(random, culture.family).latin[0] ?? pick(random, culture.family).own;
  const stem =
    kind < 0.45
      ? `${pick(random, STEMS)}${random() < 0.5 ? ` ${pick(random, STEMS)}` : ''}`
      : kind < 0.75
        ? `${person}${random() < 0.3 ? ` & ${pick(random, STEMS)}` : ''}`
        : `${pick(random, STEMS)}${pick(random, ['tec', 'lab', 'works', 'plan', 'line', 'hub'])}`;
  const word = trade[language] ?? trade[0] ?? '';
  const bare = `${stem} ${word}`;
  const name = `${bare} ${pick(random, LEGAL[language] ?? ['Ltd'])}`;
  const translated = `${stem} ${pick(random, trade)}`;
  const shortened = SHORTENED.reduce(
    (left, [long, short]) => left.replace(new RegExp(`${long}$`), short),
    bare,
  );
  const initials = bare
    .split(/\s+/)
    .filter((one) => /^\p{L}/u.test(one))
    .map((one) => plain(one)[0]?.toUpperCase() ?? '')
    .join('');
  const label =
    plain(stem)
      .toLowerCase()
      .replace(/[^a-z]/g, '') || `firm${digits(random, 4)}`;
  const domain = `${label}${
    random() < 0.4
      ? `-${plain(word)
          .toLowerCase()
          .replace(/[^a-z]/g, '')}`
      : ''
  }.example`;
  return {
    name,
    others: [bare, bare, stem, translated, shortened, ...(initials.length > 2 ? [initials] : [])],
    domain,
    city: pick(random, CITIES),
    switchboard: `+99955${digits(random, 7)}`,
    mailbox: `${pick(random, ['info', 'office', 'sales', 'kontakt', 'contact', 'mail'])}@${domain}`,
  };
}
