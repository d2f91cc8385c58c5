import type { Claim } from '@emporikon/contract/captures';
import { createHash } from 'node:crypto';
import { QueryTypes } from 'sequelize';
import type { Context } from '../commands/context';
import type { RowData } from './source';

interface Row {
  import_id: string;
  row: number;
  name: string;
  by: string;
  at: Date;
  data: RowData;
}

/** An id that is the same each time the same cell is looked at. */
function idOf(row: Row, field: string, value: string): string {
  const hex = createHash('sha256').update(`${row.import_id}/${row.row}/${field}/${value}`).digest('hex');
  return `${hex.slice(0, 8)}-${hex.slice(8, 12)}-5${hex.slice(13, 16)}-8${hex.slice(17, 20)}-${hex.slice(20, 32)}`;
}

/**
 * What the rows of imports say of a person, as claims with the file and the row for their source. The rows stand as they
 * came and are the evidence; a hundred thousand of them are not written out a second time.
 */
export async function importedClaims(context: Context, personId: string): Promise<Claim[]> {
  const rows = await context.sequelize.query<Row>(
    `SELECT i.import_id, i.row, m.name, u.name AS by, coalesce(m.finished_at, m.created_at) AS at, i.data
       FROM import_rows i JOIN imports m ON m.id = i.import_id JOIN users u ON u.id = m.created_by
      WHERE i.person_id = :personId AND i.outcome IN ('made', 'changed') ORDER BY m.created_at DESC, i.row LIMIT 20`,
    { replacements: { personId }, type: QueryTypes.SELECT, transaction: context.tx },
  );
  return rows.flatMap((row) => {
    const claim = (
      field: Claim['field'],
      value: string | undefined,
      normalized: string | null = null,
    ): Claim[] =>
      value
        ? [
            {
              id: idOf(row, field, value),
              field,
              value,
              normalized,
              type: null,
              confidence: 0.95,
              span: null,
              source: `${row.name}, row ${row.row + 1}`,
              byHand: false,
              fate: 'current',
              captureId: null,
              lookUpId: null,
              at: row.at.toISOString(),
              actor: row.by,
            },
          ]
        : [];
    const { data } = row;
    return [
      ...claim('fullName', data.name),
      ...claim('jobTitle', data.title),
      ...claim('companyName', data.company),
      ...claim('address', data.address),
      ...claim('birthday', data.birthday),
      ...claim('note', data.note),
      ...data.emails.flatMap((email) => claim('email', email.value, email.normalized)),
      ...data.phones.flatMap((phone) => claim('phone', phone.value, phone.normalized)),
      ...data.links.flatMap((link) => claim(link.kind, link.value, link.normalized)),
      ...Object.entries(data.custom ?? {}).flatMap(([key, value]) => claim(`custom:${key}`, value)),
    ];
  });
}
