import { companyFitsDomain, companyKey } from '../people/companies';
import { companyDomain, localPart, normalizeEmail } from '../people/emails';
import { isRoleName, nameKey } from '../people/names';
import { fold } from '../people/text';
import { jaroWinkler } from './similarity';

/** What is compared of a person, whether read from a capture or kept as a record. */
export interface PersonFacts {
  fullName: string;
  emails: readonly string[];
  /** E.164. */
  phones: readonly string[];
  companyName: string;
  /** Addresses of their own pages in directories, with scheme and without a trailing slash. */
  profiles?: readonly string[];
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

const reason = (text: string, bits: number): Reason => ({ text, bits, weight: weightInWords(bits) });

function compareNames(a: string, b: string): Reason[] {
  const [left, right] = [nameKey(a), nameKey(b)];
  if (!left || !right) return [];
  if (left === right) return [reason('name agrees', left.includes(' ') ? 9 : 3)];
  const [one, two] = [fold(a).split(' '), fold(b).split(' ')];
  const family = (one.at(-1) ?? '') === (two.at(-1) ?? '');
  const initial = (one[0] ?? '')[0] === (two[0] ?? '')[0];
  if (family && initial && ((one[0] ?? '').length === 1 || (two[0] ?? '').length === 1))
    return [reason('family name and initial agree', 5.5)];
  const closeness = jaroWinkler(left, right);
  if (closeness >= 0.92) return [reason('name nearly agrees', 6)];
  if (one.some((word) => word.length > 2 && two.includes(word)))
    return [reason('part of the name agrees', -1)];
  return [reason('another name', -8)];
}

function compareEmails(a: PersonFacts, b: PersonFacts): Reason[] {
  const theirs = new Set(b.emails.map(normalizeEmail));
  const shared = a.emails.map(normalizeEmail).filter((email) => theirs.has(email));
  const personal = shared.find((email) => !isRoleName(localPart(email)));
  if (personal) return [reason('same address', 17)];
  if (shared.length) return [reason('same shared mailbox', 4)];
  const domains = new Set(b.emails.map(companyDomain));
  if (a.emails.map(companyDomain).some((domain) => domain !== null && domains.has(domain)))
    return [reason('address at the same firm', 2.5)];
  return a.emails.length && b.emails.length ? [reason('another address', -1)] : [];
}

function comparePhones(a: PersonFacts, b: PersonFacts): Reason[] {
  const theirs = new Set(b.phones);
  if (a.phones.some((phone) => theirs.has(phone))) return [reason('same number', 11)];
  return [];
}

const barePage = (url: string): string =>
  url
    .toLowerCase()
    .replace(/^https?:\/\/(?:www\.)?/, '')
    .replace(/[?#].*$|\/+$/g, '');

function compareProfiles(a: PersonFacts, b: PersonFacts): Reason[] {
  const theirs = new Set((b.profiles ?? []).map(barePage));
  return (a.profiles ?? []).some((page) => theirs.has(barePage(page)))
    ? [reason('same profile page', 16)]
    : [];
}

function compareCompanies(a: string, b: string): Reason[] {
  const [left, right] = [companyKey(a), companyKey(b)];
  if (!left || !right) return [];
  if (left === right) return [reason('same company', 4)];
  return jaroWinkler(left, right) >= 0.92
    ? [reason('company nearly the same', 2)]
    : [reason('another company', -2)];
}

/** All that speaks for and against two sets of facts being one person, strongest first. */
export function comparePeople(a: PersonFacts, b: PersonFacts): Reason[] {
  return [
    ...compareEmails(a, b),
    ...comparePhones(a, b),
    ...compareProfiles(a, b),
    ...compareNames(a.fullName, b.fullName),
    ...compareCompanies(a.companyName, b.companyName),
  ].sort((x, y) => Math.abs(y.bits) - Math.abs(x.bits));
}

export interface CompanyFacts {
  name: string;
  domain: string | null;
}

/** The same for companies: registrable domain, then normalised name. */
export function compareCompanyFacts(a: CompanyFacts, b: CompanyFacts): Reason[] {
  const reasons: Reason[] = [];
  if (a.domain && b.domain)
    reasons.push(a.domain === b.domain ? reason('same domain', 17) : reason('another domain', -3));
  const [left, right] = [companyKey(a.name), companyKey(b.name)];
  if (left && right) {
    if (left === right) reasons.push(reason('same name', 12));
    else if (jaroWinkler(left, right) >= 0.93) reasons.push(reason('nearly the same name', 7));
    else reasons.push(reason('another name', -4));
  } else if (a.domain && b.name && companyFitsDomain(b.name, a.domain))
    reasons.push(reason('name fits the domain', 6));
  return reasons.sort((x, y) => Math.abs(y.bits) - Math.abs(x.bits));
}
