import { companyKey, companyNameFromDomain } from '@emporikon/core/people/companies';
import { companyDomain } from '@emporikon/core/people/emails';
import { nameKey } from '@emporikon/core/people/names';
import type { CompanyFacts, PersonFacts } from '@emporikon/core/matching/evidence';
import { decideCompany, decidePerson, type Candidate, type Verdict } from '@emporikon/core/matching/verdict';
import { QueryTypes } from 'sequelize';
import type { Context } from '../commands/context';
import type { ClaimRow } from '../db/models/captures';

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

interface PersonRow {
  id: string;
  full_name: string;
  company: string | null;
  emails: string[];
  phones: string[];
  profiles: string[];
}

/** People who share an address, a number, a page or nearly the name with somebody. */
export async function personCandidates(
  context: Context,
  facts: PersonFacts,
): Promise<Candidate<PersonFacts>[]> {
  const rows = await context.sequelize.query<PersonRow>(
    `WITH found AS (
       SELECT person_id AS id FROM contact_points WHERE kind = 'email' AND normalized = ANY(ARRAY[:emails]::text[])
       UNION SELECT person_id FROM contact_points WHERE kind = 'phone' AND normalized = ANY(ARRAY[:phones]::text[])
       UNION SELECT person_id FROM contact_points WHERE kind = 'profile' AND normalized = ANY(ARRAY[:profiles]::text[])
       UNION (SELECT id FROM people WHERE :name <> '' AND name_key % :name ORDER BY similarity(name_key, :name) DESC LIMIT 15)
     )
     SELECT p.id, p.full_name, c.name AS company,
            ARRAY(SELECT normalized FROM contact_points k WHERE k.person_id = p.id AND kind = 'email') AS emails,
            ARRAY(SELECT normalized FROM contact_points k WHERE k.person_id = p.id AND kind = 'phone') AS phones,
            ARRAY(SELECT normalized FROM contact_points k WHERE k.person_id = p.id AND kind = 'profile') AS profiles
       FROM found JOIN people p USING (id) LEFT JOIN companies c ON c.id = p.company_id LIMIT 60`,
    {
      replacements: {
        emails: facts.emails.length ? facts.emails : [''],
        phones: facts.phones.length ? facts.phones : [''],
        profiles: facts.profiles?.length ? [...facts.profiles] : [''],
        name: nameKey(facts.fullName),
      },
      type: QueryTypes.SELECT,
      transaction: context.tx,
    },
  );
  return rows.map((row) => ({
    id: row.id,
    label: row.company ? `${row.full_name}, ${row.company}` : row.full_name,
    facts: {
      fullName: row.full_name,
      emails: row.emails,
      phones: row.phones,
      profiles: row.profiles,
      companyName: row.company ?? '',
    },
  }));
}

/** Companies that share the domain or nearly the name. */
export async function companyCandidates(
  context: Context,
  facts: CompanyFacts,
): Promise<Candidate<CompanyFacts>[]> {
  const rows = await context.sequelize.query<{ id: string; name: string; domain: string | null }>(
    `SELECT id, name, domain FROM companies WHERE domain = :domain
     UNION (SELECT id, name, domain FROM companies WHERE :key <> '' AND name_key % :key ORDER BY similarity(name_key, :key) DESC LIMIT 15)`,
    {
      replacements: { domain: facts.domain ?? '', key: companyKey(facts.name) },
      type: QueryTypes.SELECT,
      transaction: context.tx,
    },
  );
  return rows.map((row) => ({ id: row.id, label: row.name, facts: { name: row.name, domain: row.domain } }));
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
    person: decidePerson(person, await personCandidates(context, person)),
    company: company
      ? decideCompany(company, await companyCandidates(context, company))
      : { kind: 'new', matches: [] },
    facts: { person, company },
  };
}
