import { readPhone } from '@emporikon/core/people/phones';
import { QueryTypes } from 'sequelize';
import type { Context } from '../commands/context';

/** The country somebody lives or works in, as far as their company, address or numbers tell; else that of the organisation. */
export async function homeCountry(context: Context, personId: string): Promise<string> {
  const [row] = await context.sequelize.query<{ country: string | null; phones: string[] | null }>(
    `SELECT coalesce(
         (SELECT f.country FROM places f WHERE f.record_id = $personId::uuid),
         (SELECT c.country FROM people p JOIN companies c ON c.id = p.company_id WHERE p.id = $personId::uuid)) AS country,
       (SELECT array_agg(k.normalized ORDER BY k.created_at, k.id) FROM contact_points k WHERE k.person_id = $personId::uuid AND k.kind = 'phone') AS phones`,
    { bind: { personId }, type: QueryTypes.SELECT, transaction: context.tx },
  );
  if (row?.country) return row.country;
  for (const number of row?.phones ?? []) {
    const country = readPhone(number)?.country;
    if (country) return country;
  }
  return context.house.country;
}
