import { isRoleName, parseName } from '../people/names';
import { fold, spelt } from '../people/text';

/** A way of making the part before the @ out of a name. */
interface Pattern {
  name: string;
  make: (given: string, family: string) => string;
  /** How common it is among firms' addresses, before anything of this domain is known. By judgement. */
  common: number;
}

const PATTERNS: readonly Pattern[] = [
  { name: 'given.family', make: (given, family) => `${given}.${family}`, common: 0.34 },
  { name: 'given', make: (given) => given, common: 0.22 },
  { name: 'gfamily', make: (given, family) => `${given.charAt(0)}${family}`, common: 0.16 },
  { name: 'g.family', make: (given, family) => `${given.charAt(0)}.${family}`, common: 0.06 },
  { name: 'givenfamily', make: (given, family) => `${given}${family}`, common: 0.06 },
  { name: 'family', make: (_given, family) => family, common: 0.04 },
  { name: 'given_family', make: (given, family) => `${given}_${family}`, common: 0.03 },
  { name: 'given-family', make: (given, family) => `${given}-${family}`, common: 0.02 },
  { name: 'family.given', make: (given, family) => `${family}.${given}`, common: 0.02 },
  { name: 'familyg', make: (given, family) => `${family}${given.charAt(0)}`, common: 0.02 },
];

export interface Colleague {
  fullName: string;
  email: string;
}
export interface LikelyEmail {
  email: string;
  /** 0 to 1. */
  probability: number;
  pattern: string;
  /** How many of the known addresses of the domain follow it, and how many there are. */
  follow: number;
  known: number;
  because: string;
}

interface Parts {
  given: string;
  family: string;
}

/** The name as it may stand in an address: first given name, last family name, letters and digits alone. */
function partsOf(fullName: string): Parts | null {
  const { givenName, familyName } = parseName(fullName);
  const given = fold(spelt(givenName.split(/[\s-]/)[0] ?? '')).replace(/[^a-z0-9]/g, '');
  const family = fold(spelt(familyName.split(/\s/).at(-1) ?? '')).replace(/[^a-z0-9]/g, '');
  return given && family ? { given, family } : null;
}

/** How many observations the general shares are worth. */
const WEIGHT = 1.5;
/** Addresses that follow no pattern at all: nicknames, initials, numbers. */
const OTHERWISE = 0.03;
const LEAST = 0.02;

/**
 * Likely addresses of somebody at a domain, from the pattern that the known addresses there show. A pattern's share is
 * its count shrunk to how common it is in general (a Dirichlet prior): (follow + weight·common) / (known + weight).
 * Addresses of a desk (info@) and those of people without a full name say nothing. An address that is taken already
 * belongs to a namesake and is left out.
 * @returns the likeliest first, at most four; none without a full name
 */
export function likelyEmails(
  fullName: string,
  domain: string,
  colleagues: readonly Colleague[],
): LikelyEmail[] {
  const person = partsOf(fullName);
  if (!person || !domain) return [];
  const there = colleagues
    .map(({ fullName: name, email }) => ({
      parts: partsOf(name),
      local: email.split('@')[0]?.toLowerCase() ?? '',
      at: email.split('@')[1]?.toLowerCase(),
    }))
    .filter((one) => one.at === domain && one.local && !isRoleName(one.local));
  const telling = there.filter((one): one is typeof one & { parts: Parts } => one.parts !== null);
  const taken = new Set(there.map((one) => one.local));
  const known = telling.length;
  const found = new Map<string, LikelyEmail>();
  for (const pattern of PATTERNS) {
    const local = pattern.make(person.given, person.family);
    const follow = telling.filter(
      ({ parts, local: theirs }) => pattern.make(parts.given, parts.family) === theirs,
    ).length;
    const probability = ((follow + WEIGHT * pattern.common) / (known + WEIGHT)) * (1 - OTHERWISE);
    if (probability < LEAST || taken.has(local) || found.has(local)) continue;
    found.set(local, {
      email: `${local}@${domain}`,
      probability,
      pattern: pattern.name,
      follow,
      known,
      because: known
        ? `${follow} of ${known} known ${known === 1 ? 'address' : 'addresses'} at ${domain} ${follow === 1 ? 'is' : 'are'} ${pattern.name}`
        : `no address at ${domain} is known; ${pattern.name} is common`,
    });
  }
  return [...found.values()].sort((a, b) => b.probability - a.probability).slice(0, 4);
}
