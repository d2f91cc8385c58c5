import type { CompanyFacts } from '@emporikon/core/matching/firms';
import { QueryTypes } from 'sequelize';
import { runInTransaction, type Tools } from '../commands/context';

/** One person as a row of the table that look-alikes are looked for in. */
interface BookRow {
  id: string;
  cells: string[];
}

interface PersonRow {
  id: string;
  given_name: string;
  family_name: string;
  job_title: string | null;
  address: string | null;
  birthday: string | null;
  company: string | null;
  contacts: { kind: string; normalized: string }[] | null;
}

const PAGE = 20_000;
/** People in the order of their ids, a page at a time; the index on the id makes each page as quick as the first. */
const PEOPLE = `SELECT p.id, p.given_name, p.family_name, p.job_title, p.address, p.birthday, c.name AS company, k.contacts
    FROM people p LEFT JOIN companies c ON c.id = p.company_id
    LEFT JOIN LATERAL (SELECT jsonb_agg(jsonb_build_object('kind', k.kind, 'normalized', k.normalized) ORDER BY k.created_at, k.id) AS contacts
                         FROM contact_points k WHERE k.person_id = p.id AND k.kind <> 'url') k ON true
   WHERE p.id > $after::uuid AND p.erased_at IS NULL ORDER BY p.id LIMIT ${PAGE}`;
const COMPANIES = `SELECT id, name, domain, phone, address FROM companies WHERE kind = 'firm' AND id > $after::uuid ORDER BY id LIMIT ${PAGE}`;
const FIRST = '00000000-0000-0000-0000-000000000000';

export function personCells(
  row: Pick<PersonRow, 'given_name' | 'family_name' | 'job_title' | 'address' | 'birthday' | 'company'>,
  emails: readonly string[],
  phones: readonly string[],
  pages: readonly string[] = [],
): string[] {
  return [
    row.given_name,
    row.family_name,
    emails[0] ?? '',
    emails[1] ?? '',
    phones[0] ?? '',
    phones[1] ?? '',
    row.company ?? '',
    row.job_title ?? '',
    row.address ?? '',
    row.birthday ?? '',
    pages[0] ?? '',
  ];
}

async function* pages<Row extends { id: string }>(tools: Tools, sql: string): AsyncGenerator<Row[]> {
  let after = FIRST;
  for (;;) {
    const rows = await runInTransaction(tools, null, ({ sequelize, tx }) =>
      sequelize.query<Row>(sql, { bind: { after }, type: QueryTypes.SELECT, transaction: tx }),
    );
    if (!rows.length) return;
    yield rows;
    after = rows.at(-1)?.id ?? after;
  }
}

/** Everybody, page after page. */
export async function* allPeople(tools: Tools): AsyncGenerator<BookRow> {
  for await (const page of pages<PersonRow>(tools, PEOPLE))
    for (const row of page) {
      const of = (kind: string): string[] =>
        (row.contacts ?? []).filter((contact) => contact.kind === kind).map((contact) => contact.normalized);
      yield { id: row.id, cells: personCells(row, of('email'), of('phone'), of('profile')) };
    }
}

/** Every firm, page after page; households are not told from each other by what firms are. */
export async function* allCompanies(tools: Tools): AsyncGenerator<{ id: string; facts: CompanyFacts }> {
  for await (const page of pages<{ id: string } & CompanyFacts>(tools, COMPANIES))
    for (const { id, name, domain, phone, address } of page)
      yield {
        id,
        facts: { name, domain, phone: phone ?? null, address: address ?? null },
      };
}
