import { writeCsv } from '@emporikon/core/formats/csv';
import { writeCard } from '@emporikon/core/formats/vcard';
import { addressText } from '@emporikon/core/reading/card/read';
import { QueryTypes } from 'sequelize';
import type { Context } from '../commands/context';
import { Company, ContactPoint, Person } from '../db/models/people';
import { loadPerson } from './commands';

function cardOf(person: Person, contacts: readonly ContactPoint[], companyName: string | null): string {
  const of = (kind: ContactPoint['kind']): ContactPoint[] =>
    contacts.filter((contact) => contact.kind === kind);
  return writeCard({
    fullName: person.fullName,
    givenName: person.givenName,
    familyName: person.familyName,
    jobTitle: person.jobTitle,
    companyName,
    address: person.address,
    birthday: person.birthday ?? null,
    timeZone: person.timeZone,
    prefix: person.namePrefix ?? '',
    department: person.department ?? '',
    // The parts hold as long as nobody wrote another address over them.
    addressParts:
      person.addressParts && addressText(person.addressParts) === person.address ? person.addressParts : null,
    addressType: person.addressType ?? null,
    emails: of('email').map(({ value, type }) => ({ value, type })),
    tags: person.tags ?? [],
    phones: of('phone').map(({ normalized, type }) => ({ value: normalized, type })),
    urls: of('url').map(({ normalized }) => normalized),
    profiles: of('profile').map(({ normalized }) => normalized),
    note: person.background ?? null,
  });
}

/** Some people as vCards 4.0, with all that we hold of them, by their id. */
export async function personCards(context: Context, ids: readonly string[]): Promise<Map<string, string>> {
  const transaction = context.tx;
  const people = await Person.findAll({ where: { id: [...ids] }, transaction });
  const companyIds = people.map(({ companyId }) => companyId).filter((id) => id !== null);
  const [contacts, companies] = await Promise.all([
    ContactPoint.findAll({ where: { personId: [...ids] }, order: ['createdAt'], transaction }),
    Company.findAll({ where: { id: companyIds }, transaction }),
  ]);
  const names = new Map(companies.map(({ id, name }) => [id, name]));
  return new Map(
    people.map((person) => [
      person.id,
      cardOf(
        person,
        contacts.filter(({ personId }) => personId === person.id),
        names.get(person.companyId ?? '') ?? null,
      ),
    ]),
  );
}

/** One person as a vCard 4.0. @throws 404 */
export async function personCard(context: Context, id: string): Promise<{ name: string; card: string }> {
  const { fullName } = await loadPerson(context, id);
  return { name: fullName, card: (await personCards(context, [id])).get(id) ?? '' };
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
    `SELECT p.full_name, p.job_title, c.name AS company, s.name AS standing, p.tags,
            coalesce((SELECT string_agg(value, '; ' ORDER BY created_at) FROM contact_points k WHERE k.person_id = p.id AND kind = 'email'), '') AS emails,
            coalesce((SELECT string_agg(normalized, '; ' ORDER BY created_at) FROM contact_points k WHERE k.person_id = p.id AND kind = 'phone'), '') AS phones
       FROM people p LEFT JOIN companies c ON c.id = p.company_id JOIN terms s ON s.key = coalesce(p.standing_term, p.standing) WHERE p.erased_at IS NULL ORDER BY p.full_name LIMIT 200000`,
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
