import type { LeadStatus } from '@emporikon/core/lifecycle/statuses';
import { QueryTypes } from 'sequelize';
import type { Context } from '../commands/context';
import { decodeCursor, encodeCursor } from '../http/paging';

export interface LeadFilter {
  status?: LeadStatus;
  owner?: string;
}
type Paged = LeadFilter & { cursor?: string; limit: number };
interface PageOfIds {
  ids: string[];
  next: string | null;
}

const conditions = ({ status, owner }: LeadFilter): string =>
  [status ? 'l.status = :status' : '', owner ? 'l.owner_id = :owner' : ''].filter(Boolean).join(' AND ') ||
  'true';

const ask = <Row extends object>(
  context: Context,
  sql: string,
  replacements: Record<string, unknown>,
): Promise<Row[]> =>
  context.sequelize.query<Row>(sql, { replacements, type: QueryTypes.SELECT, transaction: context.tx });

/** Ids of leads by how far from closed they are, newest first within a status. */
export async function leadsByStatus(context: Context, query: Paged): Promise<PageOfIds> {
  const [openness = '', at = '', last = ''] = decodeCursor(query.cursor, 3);
  const rows = await ask<{ id: string; openness: number; at: string }>(
    context,
    `SELECT l.id, lead_openness(l.status) AS openness, l.created_at::text AS at FROM leads l
      WHERE ${conditions(query)}
        ${last ? 'AND (lead_openness(l.status), l.created_at, l.id) < (:openness::smallint, :at::timestamptz, :last::uuid)' : ''}
      ORDER BY lead_openness(l.status) DESC, l.created_at DESC, l.id DESC LIMIT :most`,
    { ...query, openness, at, last, most: query.limit + 1 },
  );
  const page = rows.slice(0, query.limit);
  const end = page.at(-1);
  return {
    ids: page.map(({ id }) => id),
    next: rows.length > page.length && end ? encodeCursor([String(end.openness), end.at, end.id]) : null,
  };
}

const OPEN = "l.status IN ('new', 'working', 'qualified')";

/** The parts of the list by chance, one after the other: what each holds, and what it is in order of. */
const PARTS = [
  {
    from: 'lead_scores s JOIN leads l ON l.id = s.lead_id',
    where: OPEN,
    key: 's.chance::text',
    type: 'real',
    column: 's.chance',
    id: 's.lead_id',
  },
  {
    from: 'leads l',
    where: `${OPEN} AND NOT EXISTS (SELECT 1 FROM lead_scores s WHERE s.lead_id = l.id)`,
    key: 'l.created_at::text',
    type: 'timestamptz',
    column: 'l.created_at',
    id: 'l.id',
  },
  {
    from: 'leads l',
    where: `NOT ${OPEN}`,
    key: 'l.created_at::text',
    type: 'timestamptz',
    column: 'l.created_at',
    id: 'l.id',
  },
] as const;

/** Ids of leads, the likeliest open ones first, then open ones without a score, then closed ones, newest first. */
export async function leadsByChance(context: Context, query: Paged): Promise<PageOfIds> {
  const [from = '0', key = '', last = ''] = decodeCursor(query.cursor, 3);
  const found: { id: string; key: string; part: number }[] = [];
  for (let part = Number(from); part < PARTS.length && found.length <= query.limit; part++) {
    const one = PARTS[part];
    if (!one) break;
    const isGoingOn = part === Number(from) && last !== '';
    const rows = await ask<{ id: string; key: string }>(
      context,
      `SELECT l.id, ${one.key} AS key FROM ${one.from} WHERE ${one.where} AND ${conditions(query)}
          ${isGoingOn ? `AND (${one.column}, ${one.id}) < (:key::${one.type}, :last::uuid)` : ''}
        ORDER BY ${one.column} DESC, ${one.id} DESC LIMIT :most`,
      { ...query, key, last, most: query.limit + 1 - found.length },
    );
    found.push(...rows.map((row) => ({ ...row, part })));
  }
  const page = found.slice(0, query.limit);
  const end = page.at(-1);
  return {
    ids: page.map(({ id }) => id),
    next: found.length > page.length && end ? encodeCursor([String(end.part), end.key, end.id]) : null,
  };
}
