import { companyKey } from '../people/companies';
import { companyDomain, localPart, normalizeEmail } from '../people/emails';
import { isRoleName, nameKey } from '../people/names';
import { isMobile } from '../people/phones';
import { compareFirmNames } from './firmNames';
import { agrees, LEVEL } from './linkage/nameLevels';
import { agreeInBoth, agreementInWords, NamesAtHand } from './names';
import { jaroWinkler } from './similarity';
import { DEFAULT_WEIGHTS, type Weights } from './weights';

/** What is compared of a person, whether read from a capture or kept as a record. */
export interface PersonFacts {
  fullName: string;
  emails: readonly string[];
  /** E.164. */
  phones: readonly string[];
  companyName: string;
  /** Addresses of their own pages in directories, with scheme and without a trailing slash. */
  profiles?: readonly string[];
  /** Those of the numbers that several people have. */
  switchboards?: readonly string[];
  /** ISO 8601, without a year where none is known: `--05-17`. */
  birthday?: string | null;
}

export interface Reason {
  /** In words: "same address". */
  text: string;
  /** In words: how much it says. */
  weight: string;
  /** log2 of the likelihood ratio m/u (Fellegi & Sunter 1969); negative speaks against. */
  bits: number;
}

/** How much a weight says, in words. */
export function weightInWords(bits: number): string {
  const size =
    Math.abs(bits) >= 12
      ? 'decides'
      : Math.abs(bits) >= 7
        ? 'strong'
        : Math.abs(bits) >= 3
          ? 'some'
          : 'slight';
  return bits >= 0 ? size : `${size}, against`;
}

export const reason = (text: string, bits: number): Reason => ({ text, bits, weight: weightInWords(bits) });

/** What is weighed with: the bits of each outcome in this book, and how common in it is what the two have in common. */
export interface Scales {
  bits: Weights['bits'];
  /** How many people the book holds. */
  records: number;
  /** The names that will be compared, where there are many. */
  names?: NamesAtHand;
  /** How many of them have the name that was read; null where nobody counted. */
  namesakes?: number | null;
}

export const USUAL_SCALES: Scales = { bits: DEFAULT_WEIGHTS.bits, records: DEFAULT_WEIGHTS.records };

/** A name that many have says less than a rare one: at most what its share of the book leaves. */
function asRareAs(bits: number, { records, namesakes }: Scales, times = 1): number {
  return namesakes ? Math.min(bits, Math.max(0, Math.log2(records / (times * namesakes)))) : bits;
}

/** How many of a name share what agrees only in part with it: as many times as the name itself has. */
const COMMONER = { spelling: 2, near: 4, initial: 20 };

function compareNames(a: string, b: string, scales: Scales): Reason[] {
  const { bits } = scales;
  const [left, right] = [nameKey(a), nameKey(b)];
  if (!left || !right) return [];
  if (left === right && a === b)
    return [reason('name agrees', asRareAs(left.includes(' ') ? bits.name : bits.oneName, scales))];
  const compared = (scales.names ?? new NamesAtHand([a, b])).compare(a, b);
  if (compared.isOtherGeneration)
    return [reason('another of the same name: one is senior, one junior', bits.otherName)];
  if (left === right)
    return [reason('name agrees', asRareAs(left.includes(' ') ? bits.name : bits.oneName, scales))];
  const { given, family } = compared;
  if (agreeInBoth(compared)) {
    const text = agreementInWords(a, b, compared);
    const worst = [given, family];
    if (worst.includes(LEVEL.initial))
      return [reason(text, asRareAs(bits.initial, scales, COMMONER.initial))];
    if (worst.includes(LEVEL.near) || worst.includes(LEVEL.part))
      return [reason(text, asRareAs(bits.nearName, scales, COMMONER.near))];
    return [reason(text, asRareAs(bits.name - 1, scales, COMMONER.spelling))];
  }
  if (given !== LEVEL.differs && jaroWinkler(left, right) >= 0.92)
    return [reason('name nearly agrees', asRareAs(bits.nearName, scales, COMMONER.near))];
  if (given === LEVEL.differs && agrees(family))
    return [reason('same family name, another given name', bits.otherGiven)];
  if (agrees(given) || agrees(family)) return [reason('part of the name agrees', bits.partOfName)];
  return [reason('another name', bits.otherName)];
}

function compareEmails(a: PersonFacts, b: PersonFacts, { bits }: Scales): Reason[] {
  const theirs = new Set(b.emails.map(normalizeEmail));
  const shared = a.emails.map(normalizeEmail).filter((email) => theirs.has(email));
  const personal = shared.find((email) => !isRoleName(localPart(email)));
  if (personal) return [reason('same address', bits.address)];
  if (shared.length) return [reason('same shared mailbox', bits.sharedMailbox)];
  const domains = new Set(b.emails.map(companyDomain));
  if (a.emails.map(companyDomain).some((domain) => domain !== null && domains.has(domain)))
    return [reason('address at the same firm', bits.firmAddress)];
  return a.emails.length && b.emails.length ? [reason('another address', bits.otherAddress)] : [];
}

/** A number that so many have is a switchboard, and says only where they work. */
function comparePhones(a: PersonFacts, b: PersonFacts, { bits }: Scales): Reason[] {
  const theirs = new Set(b.phones);
  const shared = a.phones.filter((phone) => theirs.has(phone));
  if (shared.some((phone) => !a.switchboards?.includes(phone))) return [reason('same number', bits.number)];
  if (shared.length) return [reason('same switchboard', bits.firmAddress)];
  if (a.phones.some(isMobile) && b.phones.some(isMobile))
    return [reason('each has another mobile', bits.otherMobile + Math.min(0, bits.otherNumber))];
  return a.phones.length && b.phones.length && bits.otherNumber
    ? [reason('another number', bits.otherNumber)]
    : [];
}

const barePage = (url: string): string =>
  url
    .toLowerCase()
    .replace(/^https?:\/\/(?:www\.)?/, '')
    .replace(/[?#].*$|\/+$/g, '');

function compareProfiles(a: PersonFacts, b: PersonFacts, { bits }: Scales): Reason[] {
  const theirs = new Set((b.profiles ?? []).map(barePage));
  return (a.profiles ?? []).some((page) => theirs.has(barePage(page)))
    ? [reason('same profile page', bits.page)]
    : [];
}

function compareCompanies(a: string, b: string, { bits }: Scales): Reason[] {
  if (!companyKey(a) || !companyKey(b)) return [];
  const { text, bits: said } = compareFirmNames(a, b);
  if (text === 'same name') return [reason('same company', bits.company)];
  if (said >= SAME_FIRM) return [reason('same company, written otherwise', bits.company)];
  return said > 0
    ? [reason('company nearly the same', bits.nearCompany)]
    : [reason('another company', bits.otherCompany)];
}

const YEAR = /^\d{4}/;
/** Two birthdays; where one has no year, the day and month are compared. */
function compareBirthdays(a: PersonFacts, b: PersonFacts, { bits }: Scales): Reason[] {
  if (!a.birthday || !b.birthday) return [];
  const [mine, theirs] = [a.birthday, b.birthday];
  const isSame = YEAR.test(mine) && YEAR.test(theirs) ? mine === theirs : mine.slice(-5) === theirs.slice(-5);
  return [isSame ? reason('same birthday', bits.birthday) : reason('another birthday', bits.otherBirthday)];
}

/** From so many bits on two names are of one firm, and people who give them work at one. */
const SAME_FIRM = 9;

/** All that speaks for and against two sets of facts being one person, strongest first. */
export function comparePeople(a: PersonFacts, b: PersonFacts, scales: Scales = USUAL_SCALES): Reason[] {
  return [
    ...compareEmails(a, b, scales),
    ...comparePhones(a, b, scales),
    ...compareProfiles(a, b, scales),
    ...compareNames(a.fullName, b.fullName, scales),
    ...compareBirthdays(a, b, scales),
    ...compareCompanies(a.companyName, b.companyName, scales),
  ].sort((x, y) => Math.abs(y.bits) - Math.abs(x.bits));
}
