import { doubleMetaphone } from 'double-metaphone';
import { companyKey } from '../people/companies';
import { firmParts, isInitials } from '../people/naming/firms';
import { fold, squash } from '../people/text';
import type { CompanyFacts } from './firms';

/** Of a larger block each is compared with its nearest neighbours in the order of their names alone. */
const LARGEST = 20;
const NEIGHBOURS = 6;

/** What two companies have in common when they are worth comparing; each key finds what a slip elsewhere hides. */
function keysOf({ name, domain, phone, address }: CompanyFacts): string[] {
  const key = companyKey(name);
  const { core, initials } = firmParts(name);
  const joined = squash(key);
  const words = key.split(' ');
  const [sound = ''] = doubleMetaphone(joined);
  const label = squash((domain ?? '').split('.')[0] ?? '');
  return [
    joined && `name ${joined}`,
    label && `name ${label}`,
    phone && `phone ${phone}`,
    address && `address ${fold(address)}`,
    sound.length > 2 && `sound ${sound}`,
    words[0] && `begins ${words[0]} ${words[1]?.slice(0, 1) ?? ''}`,
    joined.length > 5 && `starts ${joined.slice(0, 6)}`,
    core && `core ${core}`,
    core && `core ${core.split(' ').sort().join(' ')}`,
    domain && `domain ${domain}`,
    isInitials(name) && `initials ${fold(name).replace(/ /g, '')}`,
    initials && `initials ${initials}`,
  ].filter((one): one is string => Boolean(one));
}

/**
 * The pairs of companies worth comparing.
 * @returns each pair once, as `lower × companies + higher`
 */
export function companyPairs(companies: readonly CompanyFacts[]): Set<number> {
  const blocks = new Map<string, number[]>();
  for (const [row, company] of companies.entries())
    for (const key of new Set(keysOf(company))) {
      const block = blocks.get(key);
      if (block) block.push(row);
      else blocks.set(key, [row]);
    }
  const names = companies.map((company) => squash(companyKey(company.name)));
  const pairs = new Set<number>();
  for (const block of blocks.values()) {
    const reach = block.length > LARGEST ? NEIGHBOURS : block.length;
    if (reach === NEIGHBOURS) block.sort((a, b) => (names[a] ?? '').localeCompare(names[b] ?? '') || a - b);
    for (let i = 0; i < block.length; i++)
      for (let j = i + 1; j < Math.min(block.length, i + 1 + reach); j++) {
        const [a, b] = [block[i] as number, block[j] as number];
        pairs.add(a < b ? a * companies.length + b : b * companies.length + a);
      }
  }
  return pairs;
}
