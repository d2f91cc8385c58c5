import { placeOf } from '@emporikon/core/lookups/place';
import { companyNameFromDomain } from '@emporikon/core/people/companies';
import { registrableDomain } from '@emporikon/core/people/emails';
import type { Context } from '../../commands/context';
import { findOrMakeCompany } from '../../companies/commands';
import { ClaimRow } from '../../db/models/captures';
import { Company } from '../../db/models/people';
import { domainOf, type LookUpRecord } from '../planning/known';

/** Where the name of a company comes from that only its domain told. */
export const NAMED_BY_DOMAIN = 'the domain of the address';

async function claim(
  context: Context,
  owner: { personId: string } | { companyId: string },
  field: ClaimRow['field'],
  value: string,
  confidence: number,
  source: string,
): Promise<void> {
  await context.write.insert(ClaimRow, {
    id: context.newId(),
    captureId: null,
    ...owner,
    field,
    value,
    normalized: null,
    type: null,
    confidence,
    span: null,
    source,
    fate: 'current',
    createdAt: context.now(),
  });
}

/** The company of a business address: the one of that domain, made where there is none. */
async function companyByDomain(context: Context, looked: LookUpRecord): Promise<void> {
  const { person } = looked;
  const domain = domainOf(looked);
  const isOurs = context.house.ours.some((our) => registrableDomain(our) === domain || our === domain);
  if (!person || looked.company || !domain || isOurs) return;
  const known = await Company.findOne({ where: { domain }, transaction: context.tx });
  const company = known ?? (await findOrMakeCompany(context, companyNameFromDomain(domain), domain));
  if (!known)
    await claim(context, { companyId: company.id }, 'companyName', company.name, 0.6, NAMED_BY_DOMAIN);
  await context.write.update(person, { companyId: company.id, updatedAt: context.now() });
  await claim(context, { personId: person.id }, 'companyName', company.name, 0.85, NAMED_BY_DOMAIN);
  looked.company = company;
  looked.subject.companyId = company.id;
}

/** Country and time zone, where they are blank, from numbers and addresses. */
async function place(context: Context, looked: LookUpRecord): Promise<void> {
  const { person, company } = looked;
  const numbers = looked.contacts
    .filter((contact) => contact.kind === 'phone')
    .map((contact) => contact.normalized);
  const firm = placeOf({
    numbers: [...(company?.phone ? [company.phone] : []), ...numbers],
    addresses: company?.address ? [company.address] : [],
  });
  const own = placeOf({
    numbers,
    addresses: [person?.address, company?.address].filter((one): one is string => Boolean(one)),
  });
  const updatedAt = context.now();
  if (company && firm && !company.country) {
    await context.write.update(company, { country: firm.country, updatedAt });
    await claim(context, { companyId: company.id }, 'country', firm.country, firm.confidence, firm.because);
  }
  const firmZone = firm && firm.country === company?.country ? firm.timeZone : null;
  if (company && firm && firmZone && !company.timeZone) {
    await context.write.update(company, { timeZone: firmZone, updatedAt });
    await claim(context, { companyId: company.id }, 'timeZone', firmZone, firm.confidence, firm.because);
  }
  if (person && own?.timeZone && !person.timeZone) {
    await context.write.update(person, { timeZone: own.timeZone, updatedAt });
    await claim(context, { personId: person.id }, 'timeZone', own.timeZone, own.confidence, own.because);
  }
}

/** What follows from what is known, without asking anybody: the company from the domain, country and time zone. */
export async function derive(context: Context, looked: LookUpRecord): Promise<void> {
  await companyByDomain(context, looked);
  await place(context, looked);
}
