import { companyKey } from '../../people/companies';
import { isEmail, normalizeEmail } from '../../people/emails';
import { nameKey, parseName } from '../../people/names';
import { readPhone } from '../../people/phones';
import { fold } from '../../people/text';
import type { Claim } from '../types';
import { usableValue } from '../usable';
import type { Fact, Origin } from './facts';

/** How much each voice of a page counts when they contradict each other: what readers see before what only machines do. */
const VOICE: Record<Origin, number> = {
  'h-card': 3,
  'schema.org data': 2.6,
  'page headings': 2.5,
  'labelled lines': 2.45,
  'page links': 2.4,
  'page text': 1.8,
  OpenGraph: 1.5,
};
const SURE: Record<Origin, number> = {
  'h-card': 0.96,
  'schema.org data': 0.95,
  'page headings': 0.88,
  'labelled lines': 0.92,
  'page links': 0.92,
  'page text': 0.86,
  OpenGraph: 0.85,
};

/** A number without its country code, where one of the countries the page may be from has such numbers, or none has. */
const [NATIONAL, UNSURE] = [0.9, 0.6];

/** A page in the forms a fact is looked for in. */
export interface Page {
  text: string;
  html: string;
}

const keyOf = (fact: Fact): string =>
  fact.field === 'fullName'
    ? nameKey(fact.value)
    : fact.field === 'companyName'
      ? companyKey(fact.value)
      : fold(fact.value);

/** The stretch a fact was read from: in the text that is shown if it stands there, else in the source. */
function spanOf(fact: Fact, { text, html }: Page): Fact['at'] {
  if (fact.at) return fact.at;
  const shown = text.indexOf(fact.value);
  if (shown >= 0) return { part: 'text', start: shown, end: shown + fact.value.length };
  const source = html.indexOf(fact.value);
  return source < 0 ? undefined : { part: 'source', start: source, end: source + fact.value.length };
}

/** A fact in the form it is kept in, and where it was said; none where it cannot be what it says it is. */
function usable(fact: Fact, page: Page): Fact[] {
  const value = usableValue(fact.field, fact.value);
  if (value === null || value === fact.value) return value === null ? [] : [fact];
  const at = spanOf(fact, page);
  return [{ ...fact, value, ...(at ? { at } : {}) }];
}

/** One value of a field of which there is one: the voices that agree are added up, and the strongest value is taken. */
export function settle(field: Claim['field'], facts: readonly Fact[], page: Page): Claim[] {
  const votes = new Map<string, { weight: number; facts: Fact[] }>();
  for (const fact of facts.filter((fact) => fact.field === field).flatMap((fact) => usable(fact, page))) {
    const key = keyOf(fact);
    const vote = votes.get(key) ?? { weight: 0, facts: [] };
    if (!vote.facts.some((one) => one.origin === fact.origin)) vote.weight += VOICE[fact.origin];
    vote.facts.push(fact);
    votes.set(key, vote);
  }
  const ranked = [...votes.values()].sort((a, b) => b.weight - a.weight);
  const [best, second] = ranked;
  const fact = best?.facts.reduce((top, one) => (VOICE[one.origin] > VOICE[top.origin] ? one : top));
  if (!best || !fact) return [];
  const origins = [...new Set(best.facts.map((fact) => fact.origin))];
  const contested = second !== undefined && second.weight > best.weight / 2;
  const confidence = contested
    ? Math.min(0.8, SURE[fact.origin])
    : origins.length > 1
      ? 0.98
      : SURE[fact.origin];
  const span = spanOf(fact, page);
  return [
    {
      field,
      value: field === 'fullName' ? parseName(fact.value).fullName || fact.value : fact.value,
      confidence,
      ...(span ? { span } : {}),
      source: `${origins.join(' and ')}${contested ? '; the page contradicts itself' : ''}`,
    },
  ];
}

/** Addresses, numbers and links, each once. */
export function many(facts: readonly Fact[], page: Page, countries: readonly string[]): Claim[] {
  const claims: Claim[] = [];
  for (const fact of facts) {
    const { field, value, origin } = fact;
    const span = spanOf(fact, page);
    const base = { field, value, confidence: SURE[origin], ...(span ? { span } : {}), source: origin };
    let claim: Claim | null = null;
    const isGlued =
      field === 'email' &&
      claims.some((claim) => claim.field === 'email' && value.toLowerCase().endsWith(claim.normalized ?? ''));
    if (field === 'email' && isEmail(value) && !isGlued)
      claim = { ...base, normalized: normalizeEmail(value) };
    else if (field === 'phone') {
      const read = readPhone(value, countries);
      if (read)
        claim = {
          ...base,
          normalized: read.normalized,
          type: fact.type ?? read.type ?? 'work',
          confidence: /^\s*(?:\+|00)/.test(value)
            ? base.confidence
            : Math.min(base.confidence, read.valid ? NATIONAL : UNSURE),
        };
    } else if ((field === 'url' || field === 'profile') && /^https?:\/\/[^\s/]+\.\S+$/i.test(value))
      claim = { ...base, normalized: value.replace(/\/+$/, '') };
    if (claim && !claims.some((one) => one.field === field && one.normalized === claim.normalized))
      claims.push(claim);
  }
  return claims;
}
