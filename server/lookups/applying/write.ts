import { usableValueOf } from '../../fields/values';
import { isZone } from '@emporikon/core/lookups/place';
import type { Subject } from '@emporikon/core/lookups/facts';
import { companyKey } from '@emporikon/core/people/companies';
import { nameKey, parseName } from '@emporikon/core/people/names';
import { readPhone } from '@emporikon/core/people/phones';
import { usableValue } from '@emporikon/core/reading/usable';
import type { Context } from '../../commands/context';
import type { Person } from '../../db/models/people';
import { Company, ContactPoint } from '../../db/models/people';
import { addContact } from '../../people/claims';

/** No firm employs more, and no column holds more than about twenty times as many. */
const MOST_EMPLOYEES = 100_000_000;

async function toPerson(context: Context, person: Person, field: string, value: string): Promise<boolean> {
  const updatedAt = context.now();
  if (field === 'email' || field === 'phone' || field === 'url' || field === 'profile') {
    if (
      field === 'email' &&
      (await ContactPoint.findOne({ where: { kind: 'email', normalized: value }, transaction: context.tx }))
    )
      return false;
    const type = field === 'phone' ? (readPhone(value)?.type ?? 'work') : null;
    return addContact(context, person.id, field, value, value, type);
  }
  if (field === 'fullName')
    await context.write.update(person, { ...parseName(value), nameKey: nameKey(value), updatedAt });
  else if (field === 'jobTitle' || field === 'address' || field === 'birthday' || field === 'timeZone') {
    const usable = usableValue(field, value);
    if (usable === null) return false;
    await context.write.update(person, { [field]: usable, updatedAt });
  } else if (field.startsWith('custom:')) {
    const key = field.slice('custom:'.length);
    const usable = await usableValueOf(context, person.id, key, value);
    if (usable === null) return false;
    await context.write.update(person, { custom: { ...person.custom, [key]: usable }, updatedAt });
  } else return false;
  return true;
}

async function toCompany(context: Context, company: Company, field: string, value: string): Promise<boolean> {
  const updatedAt = context.now();
  const taken =
    field === 'domain' && (await Company.findOne({ where: { domain: value }, transaction: context.tx }));
  if (taken) return false;
  if (field === 'employees') {
    const employees = Number(value);
    if (!Number.isInteger(employees) || employees < 0 || employees > MOST_EMPLOYEES) return false;
    await context.write.update(company, { employees, updatedAt });
  } else if (field === 'technologies')
    await context.write.update(company, {
      technologies: value
        .split(',')
        .map((one) => one.trim())
        .filter(Boolean),
      updatedAt,
    });
  else if (field === 'companyName')
    await context.write.update(company, { name: value, nameKey: companyKey(value), updatedAt });
  else if (field === 'timeZone' && !isZone(value)) return false;
  else if (
    field === 'domain' ||
    field === 'legalName' ||
    field === 'industry' ||
    field === 'address' ||
    field === 'country' ||
    field === 'timeZone' ||
    field === 'phone' ||
    field === 'url'
  )
    await context.write.update(company, { [field]: value, updatedAt });
  else return false;
  return true;
}

/**
 * Writes a value onto a record.
 * @returns false when it cannot stand there: an address or a domain that is another's, no such time zone, no number
 */
export const writeFact = (
  context: Context,
  about: Subject,
  record: { person: Person | null; company: Company | null },
  field: string,
  value: string,
): Promise<boolean> => {
  if (about === 'person')
    return record.person ? toPerson(context, record.person, field, value) : Promise.resolve(false);
  return record.company ? toCompany(context, record.company, field, value) : Promise.resolve(false);
};
