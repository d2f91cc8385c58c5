import {
  COMPANY_FACTS,
  PERSON_FACTS,
  type FactField,
  type Known,
  type Subject,
} from '@emporikon/core/lookups/facts';
import type { Wanted } from '@emporikon/core/lookups/plan';
import {
  COMPANY_PARTS,
  completenessOf,
  isFullName,
  leadCompleteness,
  PERSON_PARTS,
  type Completeness,
} from '@emporikon/core/qualifying/completeness';
import { companyDomain } from '@emporikon/core/people/emails';
import type { Context } from '../../commands/context';
import { ClaimRow } from '../../db/models/captures';
import type { LookUpSubject } from '../../db/models/lookUps';
import { Company, ContactPoint, Person } from '../../db/models/people';

/** What stands on a record for one field. */
export interface Held {
  value: string;
  confidence: number;
  claim: ClaimRow | null;
}

/** Somebody with all that is known of them and their company. */
export interface LookUpRecord {
  subject: LookUpSubject;
  person: Person | null;
  company: Company | null;
  contacts: ContactPoint[];
  claims: ClaimRow[];
}

const emailsOf = (looked: LookUpRecord): string[] =>
  looked.contacts.filter((contact) => contact.kind === 'email').map((contact) => contact.normalized);

/** The domain of their firm: that of the company, else that of a business address of theirs. */
export const domainOf = (looked: LookUpRecord): string =>
  looked.company?.domain ?? emailsOf(looked).flatMap((email) => companyDomain(email) ?? [])[0] ?? '';

function valueOf(looked: LookUpRecord, about: Subject, field: FactField): string | null {
  const { person, company, contacts } = looked;
  if (about === 'person') {
    if (field === 'email' || field === 'phone')
      return contacts.find((contact) => contact.kind === field)?.normalized ?? null;
    return field === 'jobTitle' ? (person?.jobTitle ?? null) : (person?.timeZone ?? null);
  }
  if (!company) return null;
  const { name, domain, legalName, industry, employees, technologies, address, country, timeZone, phone } =
    company;
  const values: Record<(typeof COMPANY_FACTS)[number], string | null> = {
    companyName: name,
    domain,
    legalName: legalName ?? null,
    industry: industry ?? null,
    employees: employees === null || employees === undefined ? null : String(employees),
    technologies: technologies?.length ? technologies.join(', ') : null,
    address,
    country: country ?? null,
    timeZone: timeZone ?? null,
    phone,
  };
  return values[field as (typeof COMPANY_FACTS)[number]];
}

/** What stands for a field; null for a blank. A value nobody claimed was typed or imported and counts as certain. */
export function heldOf(looked: LookUpRecord, about: Subject, field: FactField): Held | null {
  const value = valueOf(looked, about, field);
  if (value === null || value === '') return null;
  const id = about === 'person' ? looked.person?.id : looked.company?.id;
  const claim =
    looked.claims.find(
      (claim) =>
        claim.fate === 'current' &&
        claim.field === field &&
        (about === 'person' ? claim.personId === id : claim.companyId === id) &&
        (claim.value === value || claim.normalized === value || !['email', 'phone'].includes(field)),
    ) ?? null;
  return { value, confidence: claim && !claim.byHand ? claim.confidence : 1, claim };
}

export const personCompleteness = (looked: LookUpRecord): Completeness =>
  completenessOf(PERSON_PARTS, (field) => {
    const { person } = looked;
    if (field === 'fullName') return isFullName(person?.fullName ?? '');
    if (field === 'companyName') return Boolean(person?.companyId);
    if (field === 'address') return Boolean(person?.address);
    return heldOf(looked, 'person', field as FactField) !== null;
  });

export const companyCompleteness = (looked: LookUpRecord): Completeness =>
  completenessOf(
    COMPANY_PARTS,
    (field) => heldOf(looked, 'company', field === 'name' ? 'companyName' : (field as FactField)) !== null,
  );

/** Completeness of both together, as that of a lead. */
export function wholeCompleteness(looked: LookUpRecord): number {
  const company = looked.company ? companyCompleteness(looked).score : null;
  return looked.person ? leadCompleteness(personCompleteness(looked).score, company) : (company ?? 0);
}

/** What is worth asking for, each with the points it would bring to the whole. */
export function wantedOf(looked: LookUpRecord): Wanted[] {
  const [personShare, companyShare] = !looked.person ? [0, 1] : looked.company ? [0.6, 0.4] : [0.6, 0];
  const points = (parts: readonly { field: string; points: number }[], field: string): number =>
    parts.find((part) => part.field === (field === 'companyName' ? 'name' : field))?.points ?? 0;
  const want = (about: Subject, field: FactField, worth: number): Wanted => ({
    about,
    field,
    points: worth,
    held: heldOf(looked, about, field)?.confidence ?? 0,
  });
  return [
    ...PERSON_FACTS.map((field) => want('person', field, points(PERSON_PARTS, field) * personShare)),
    ...COMPANY_FACTS.map((field) => want('company', field, points(COMPANY_PARTS, field) * companyShare)),
  ].filter((one) => one.points > 0);
}

/** What a source is told of them. */
export const knownOf = (looked: LookUpRecord): Known => ({
  fullName: looked.person?.fullName ?? '',
  companyName: looked.company?.name ?? '',
  domain: domainOf(looked),
  country: looked.company?.country ?? '',
});

/** Everything known of many, in a handful of questions to the database. Subjects that are gone are left out. */
export async function loadLookUpRecords(
  context: Context,
  subjects: readonly LookUpSubject[],
): Promise<LookUpRecord[]> {
  const transaction = context.tx;
  const personIds = subjects.flatMap((subject) => subject.personId ?? []);
  const people = personIds.length ? await Person.findAll({ where: { id: personIds }, transaction }) : [];
  const companyIds = [
    ...subjects.flatMap((subject) => subject.companyId ?? []),
    ...people.flatMap((person) => person.companyId ?? []),
  ];
  const companies = companyIds.length
    ? await Company.findAll({ where: { id: companyIds }, transaction })
    : [];
  const contacts = personIds.length
    ? await ContactPoint.findAll({ where: { personId: personIds }, order: ['createdAt'], transaction })
    : [];
  const load = async (where: object): Promise<ClaimRow[]> =>
    ClaimRow.findAll({
      where: { ...where, fate: ['current', 'proposed', 'rejected'] },
      order: [['createdAt', 'DESC']],
      transaction,
    });
  const claims = [
    ...(personIds.length ? await load({ personId: personIds }) : []),
    ...(companyIds.length ? await load({ companyId: companyIds }) : []),
  ];
  return subjects.flatMap((subject) => {
    const person = people.find((person) => person.id === subject.personId) ?? null;
    const companyId = person?.companyId ?? subject.companyId;
    const company = companies.find((company) => company.id === companyId) ?? null;
    if (!person && !company) return [];
    return [
      {
        subject: { personId: person?.id ?? null, companyId: company?.id ?? null },
        person,
        company,
        contacts: contacts.filter((contact) => contact.personId === person?.id),
        claims: claims.filter(
          (claim) => (person && claim.personId === person.id) || (company && claim.companyId === company.id),
        ),
      },
    ];
  });
}
