import { companyNameFromDomain } from '@emporikon/core/people/companies';
import { companyDomain } from '@emporikon/core/people/emails';
import type { PersonFacts } from '@emporikon/core/matching/evidence';
import type { CompanyFacts } from '@emporikon/core/matching/firms';
import type { Verdict } from '@emporikon/core/matching/verdict';
import type { Context } from '../commands/context';
import { knownCompany } from '../companies/candidates';
import type { ClaimRow } from '../db/models/captures';
import { knownPerson } from '../people/candidates';

type ClaimLike = Pick<ClaimRow, 'field' | 'value' | 'normalized'>;

const valuesOf = (claims: readonly ClaimLike[], field: string): string[] =>
  claims.filter((claim) => claim.field === field).map((claim) => claim.normalized ?? claim.value);

/** The person a capture tells of, from the claims nobody refused. */
export const personFacts = (claims: readonly ClaimLike[]): PersonFacts => ({
  fullName: claims.find((claim) => claim.field === 'fullName')?.value ?? '',
  emails: valuesOf(claims, 'email'),
  phones: valuesOf(claims, 'phone'),
  companyName: claims.find((claim) => claim.field === 'companyName')?.value ?? '',
  profiles: valuesOf(claims, 'profile'),
});

/** The company: the name that was read, else what the address's domain suggests; null when there is neither. */
export function companyFacts(claims: readonly ClaimLike[]): CompanyFacts | null {
  const domain =
    valuesOf(claims, 'email')
      .map(companyDomain)
      .find((one) => one !== null) ?? null;
  const name = claims.find((claim) => claim.field === 'companyName')?.value ?? '';
  return name || domain ? { name: name || companyNameFromDomain(domain ?? ''), domain } : null;
}

export interface Recognised {
  person: Verdict;
  company: Verdict;
  facts: { person: PersonFacts; company: CompanyFacts | null };
}

/** Whom and which firm we know of what a capture claims. */
export async function recognise(context: Context, claims: readonly ClaimLike[]): Promise<Recognised> {
  const person = personFacts(claims);
  const company = companyFacts(claims);
  return {
    person: await knownPerson(context, person),
    company: company ? await knownCompany(context, company) : { kind: 'new', matches: [] },
    facts: { person, company },
  };
}
