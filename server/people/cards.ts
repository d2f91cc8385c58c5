import { writeCsv } from '@emporikon/core/formats/csv';
import { writeCard } from '@emporikon/core/formats/vcard';
import { addressText } from '@emporikon/core/reading/card/read';
import { QueryTypes } from 'sequelize';
import type { Context } from '../commands/context';
import { Company, ContactPoint } from '../db/models/people';
import { loadPerson } from './commands';

/** One person as a vCard 4.0, with all that we hold of them. @throws 404 */
export async function personCard(context: Context, id: string): Promise<{ name: string; card: string }> {
  const person = await loadPerson(context, id);
  const contacts = await ContactPoint.findAll({
    where: { personId: id },
    order: ['createdAt'],
    transaction: context.tx,
  });
  const company = person.companyId
    ? await Company.findByPk(person.companyId, { transaction: context.tx })
    : null;
  const of = (kind: ContactPoint['kind']): string[] =>
    contacts.filter((contact) => contact.kind === kind).map((contact) => contact.normalized);
  const card = writeCard({
    fullName: person.fullName,
    givenName: person.givenName,
    familyName: person.familyName,
    jobTitle: person.jobTitle,
    companyName: company?.name ?? null,
    address: person.address,
    birthday: person.birthday ?? null,
    timeZone: person.timeZone,
    prefix: person.namePrefix ?? '',
    department: person.department ?? '',
    // The parts hold as long as nobody wrote another address over them.
    addressParts:
      person.addressParts && addressText(person.addressParts) === person.address ? person.addressParts : null,
    addressType: person.addressType ?? null,
    emails: contacts
      .filter((contact) => contact.kind === 'email')
      .map((contact) => ({ value: contact.value, type: contact.type })),
    tags: person.tags ?? [],
    phones: contacts
      .filter((contact) => contact.kind === 'phone')
      .map((contact) => ({ value: contact.normalized, type: contact.type })),
    urls: of('url'),
    profiles: of('profile'),
    note: person.background ?? null,
  });
  return { name: person.fullName, card };
}

interface Row {
  full_name: string;
  job_title: string | null;
  company: string | null;
  emails: string;
  phones: string;
  standing: string;
  tags: string[];
}

/** Everybody as a CSV table that opens in any office program, formulas made harmless. */
export async function peopleTable(context: Context): Promise<string> {
  const rows = await context.sequelize.query<Row>(
    `SELECT p.full_name, p.job_title, c.name AS company, p.standing, p.tags,
            coalesce((SELECT string_agg(value, '; ' ORDER BY created_at) FROM contact_points k WHERE k.person_id = p.id AND kind = 'email'), '') AS emails,
            coalesce((SELECT string_agg(normalized, '; ' ORDER BY created_at) FROM contact_points k WHERE k.person_id = p.id AND kind = 'phone'), '') AS phones
       FROM people p LEFT JOIN companies c ON c.id = p.company_id ORDER BY p.full_name LIMIT 200000`,
    { type: QueryTypes.SELECT, transaction: context.tx },
  );
  return writeCsv([
    ['Name', 'Job title', 'Company', 'Email', 'Phone', 'Standing', 'Tags'],
    ...rows.map((row) => [
      row.full_name,
      row.job_title ?? '',
      row.company ?? '',
      row.emails,
      row.phones,
      row.standing,
      row.tags.join('; '),
    ]),
  ]);
}
