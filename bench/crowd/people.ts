import { misheard, pick, plain, randomFrom, slip, type Random } from './errors';
import { CITIES, FAMILY, GIVEN, LEGAL, SHORT, STREETS, TITLES, TRADE } from './names';

export interface Row {
  id: string;
  given: string;
  family: string;
  email: string;
  phone: string;
  company: string;
  title: string;
  street: string;
  postcode: string;
  city: string;
  birthday: string;
}
export interface Crowd {
  rows: Row[];
  /** Whom each row is of. */
  who: Int32Array;
}

/** Ranks drawn so that the first are common and the last rare (Zipf's law with exponent 0.7). */
const zipf = (random: Random, size: number): number => Math.min(size - 1, Math.floor(size * random() ** 2.2));

interface Firm {
  name: string;
  domain: string;
  street: string;
  postcode: string;
  city: string;
  phone: string;
}
const digits = (random: Random, count: number): string =>
  Array.from({ length: count }, () => Math.floor(random() * 10)).join('');

function placeOf(random: Random): Pick<Firm, 'street' | 'postcode' | 'city'> {
  const city = zipf(random, CITIES.length);
  return {
    street: `${1 + Math.floor(random() * 180)} ${pick(random, STREETS)}`,
    postcode: `${String.fromCharCode(65 + city)}${city + 1} ${Math.floor(random() * 10)}${pick(random, 'ABDEFGHJLN'.split(''))}${pick(random, 'PQRSTUWXYZ'.split(''))}`,
    city: CITIES[city] ?? '',
  };
}

function firmOf(random: Random): Firm {
  const stem = FAMILY[Math.floor(random() * FAMILY.length)] ?? '';
  const name = `${stem}${random() < 0.3 ? ` & ${pick(random, ['Sons', 'Daughters', 'Co'])}` : ''} ${pick(random, TRADE)}${pick(random, LEGAL)}`;
  const label = plain(name.replace(/ (?:Ltd|GmbH|Lda|BV|SARL|AB|Inc)$/, ''))
    .toLowerCase()
    .replace(/[^a-z]/g, '');
  return { name, domain: `${label}.example`, ...placeOf(random), phone: `+99955${digits(random, 7)}` };
}

function mailOf(random: Random, given: string, family: string, domain: string): string {
  const [first, last] = [plain(given), plain(family)].map((one) => one.toLowerCase().replace(/[^a-z]/g, ''));
  const form = pick(random, [
    `${first}.${last}`,
    `${first?.[0]}${last}`,
    `${first}`,
    `${first}${last}`,
    `${last}.${first}`,
  ]);
  return `${form}@${domain}`;
}

const FREE = ['freemail.example', 'webmail.example', 'homemail.example', 'postbox.example'];

function personOf(random: Random, id: number, firm: Firm | null): Row {
  const given = GIVEN[zipf(random, GIVEN.length)] ?? '';
  const family = FAMILY[zipf(random, FAMILY.length)] ?? '';
  const home = placeOf(random);
  const own = random() < 0.75;
  return {
    id: String(id),
    given,
    family,
    email:
      firm && random() < 0.8
        ? mailOf(random, given, family, firm.domain)
        : mailOf(random, given, `${family}${random() < 0.6 ? digits(random, 2) : ''}`, pick(random, FREE)),
    phone: own || !firm ? `+99977${digits(random, 7)}` : firm.phone,
    company: firm?.name ?? '',
    title: firm ? pick(random, TITLES) : '',
    street: firm?.street ?? home.street,
    postcode: firm?.postcode ?? home.postcode,
    city: firm?.city ?? home.city,
    birthday:
      random() < 0.5
        ? `${1950 + Math.floor(random() * 52)}-${String(1 + Math.floor(random() * 12)).padStart(2, '0')}-${String(1 + Math.floor(random() * 28)).padStart(2, '0')}`
        : '',
  };
}

/** The same person, written down another time by somebody else. `care` from 0 (careless) to 1. */
function again(random: Random, row: Row, firms: readonly Firm[], care: number): Row {
  const copy = { ...row };
  const happens = (share: number): boolean => random() < share * (1.6 - care);
  const wrong = (text: string): string => (random() < 0.6 ? slip(random, text) : misheard(random, text));
  const short = SHORT.find((group) => group.includes(copy.given));
  if (short && happens(0.25)) copy.given = pick(random, short);
  else if (happens(0.04)) copy.given = `${copy.given[0] ?? ''}.`;
  else if (happens(0.07)) copy.given = wrong(copy.given);
  if (happens(0.08)) copy.family = wrong(copy.family);
  else if (happens(0.015)) copy.family = `${copy.family}-${pick(random, FAMILY)}`;
  if (happens(0.2)) [copy.given, copy.family] = [plain(copy.given), plain(copy.family)];
  if (happens(0.03)) [copy.given, copy.family] = [copy.family, copy.given];
  if (happens(0.08)) {
    const firm = pick(random, firms);
    Object.assign(copy, {
      company: firm.name,
      email: mailOf(random, row.given, row.family, firm.domain),
      title: pick(random, TITLES),
      street: firm.street,
      postcode: firm.postcode,
      city: firm.city,
    });
  }
  if (happens(0.06)) copy.email = wrong(copy.email);
  else if (happens(0.12)) copy.email = mailOf(random, row.given, row.family, pick(random, FREE));
  if (happens(0.05)) copy.phone = slip(random, copy.phone);
  else if (happens(0.15)) copy.phone = `+99977${digits(random, 7)}`;
  if (happens(0.3)) copy.phone = copy.phone.replace(/^\+999/, '0');
  if (happens(0.12)) copy.company = copy.company.replace(/ (?:Ltd|GmbH|Lda|BV|SARL|AB|Inc)$/, '');
  if (happens(0.06)) copy.company = copy.company.split(' ')[0] ?? '';
  else if (happens(0.064)) copy.company = wrong(copy.company);
  if (happens(0.25)) copy.title = pick(random, TITLES);
  if (happens(0.1)) copy.street = wrong(copy.street);
  if (happens(0.15))
    copy.street = copy.street.replace('Street', 'St').replace('Road', 'Rd').replace('Avenue', 'Ave');
  if (happens(0.05)) copy.postcode = slip(random, copy.postcode);
  if (happens(0.05)) copy.city = wrong(copy.city);
  if (happens(0.03) && copy.birthday) copy.birthday = copy.birthday.replace(/-(\d\d)-(\d\d)$/, '-$2-$1');
  else if (happens(0.04)) copy.birthday = slip(random, copy.birthday);
  for (const field of [
    'email',
    'phone',
    'company',
    'title',
    'street',
    'postcode',
    'city',
    'birthday',
  ] as const)
    if (happens(0.16)) copy[field] = '';
  if (happens(0.02)) copy.given = '';
  return copy;
}

/**
 * A labelled crowd: people with firms, families and namesakes among them, some of them written down several times.
 * @param size how many rows, about
 * @param care how well they were written down, 0 to 1
 */
export function crowdOf(size: number, seed: number, care = 0.6): Crowd {
  const random = randomFrom(seed);
  const firms = Array.from({ length: Math.max(20, Math.floor(size / 14)) }, () => firmOf(random));
  const rows: Row[] = [];
  const who: number[] = [];
  let person = 0;
  const add = (row: Row): void => {
    const copies = random() < 0.55 ? 0 : random() < 0.7 ? 1 : random() < 0.7 ? 2 : 3;
    for (let copy = 0; copy <= copies; copy++) {
      rows.push(copy ? again(random, row, firms, care) : row);
      who.push(person);
    }
    person++;
  };
  while (rows.length < size) {
    const firm = random() < 0.8 ? (firms[zipf(random, firms.length)] ?? null) : null;
    const row = personOf(random, 0, firm);
    add(row);
    // A family: the same name, home and often the same telephone, another given name and birthday.
    if (random() < 0.06)
      add({
        ...personOf(random, 0, firm),
        family: row.family,
        street: row.street,
        postcode: row.postcode,
        city: row.city,
        ...(random() < 0.4 ? { phone: row.phone } : {}),
      });
    // A namesake.
    if (random() < 0.03)
      add({ ...personOf(random, 0, pick(random, firms)), given: row.given, family: row.family });
    // A shared mailbox.
    if (firm && random() < 0.05) add({ ...personOf(random, 0, firm), email: `info@${firm.domain}` });
  }
  const order = rows.map((_, index) => index);
  for (let at = order.length - 1; at > 0; at--) {
    const other = Math.floor(random() * (at + 1));
    [order[at], order[other]] = [order[other] as number, order[at] as number];
  }
  return {
    rows: order.map((index, at) => ({ ...(rows[index] as Row), id: `r${at + 1}` })),
    who: Int32Array.from(order, (index) => who[index] as number),
  };
}
