import type { EmploymentRow } from '@emporikon/contract/relations';
import { QueryTypes } from 'sequelize';
import type { Context } from '../commands/context';

interface Row {
  id: string;
  version: number;
  person_id: string;
  person: string;
  company_id: string;
  company: string;
  job_title: string;
  from_day: string | null;
  until_day: string | null;
  is_former: boolean;
}

/** Where somebody works or worked beside their main company, or who does or did at a company. Fixed SQL, chosen by key. */
export async function employmentsOf(
  context: Context,
  owner: 'person' | 'company',
  id: string,
): Promise<EmploymentRow[]> {
  const rows = await context.sequelize.query<Row>(
    `SELECT e.id, e.version, e.person_id, p.full_name AS person, e.company_id, c.name AS company, e.job_title, e.from_day::text, e.until_day::text,
            (e.until_day IS NOT NULL AND e.until_day <= :today::date) AS is_former
       FROM employments e JOIN people p ON p.id = e.person_id JOIN companies c ON c.id = e.company_id
      WHERE ${owner === 'person' ? 'e.person_id' : 'e.company_id'} = :id
      ORDER BY is_former, e.until_day DESC NULLS FIRST, e.from_day DESC NULLS LAST LIMIT 200`,
    {
      replacements: { id, today: context.now().toISOString().slice(0, 10) },
      type: QueryTypes.SELECT,
      transaction: context.tx,
    },
  );
  return rows.map((row) => ({
    id: row.id,
    version: row.version,
    person: { id: row.person_id, name: row.person },
    company: { id: row.company_id, name: row.company },
    jobTitle: row.job_title,
    fromDay: row.from_day,
    untilDay: row.until_day,
    isFormer: row.is_former,
  }));
}
