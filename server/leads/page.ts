import type { LeadRating } from '@emporikon/core/lifecycle/statuses';
import { QueryTypes } from 'sequelize';
import type { Context } from '../commands/context';
import { decodeCursor, encodeCursor } from '../http/paging';
import { sortedIds, type SortKey } from '../http/sorting';
import { nameHolds } from '../search/filter';

export interface LeadFilter {
  /** The key of a term. */
  status?: string;
  owner?: string;
  source?: string;
  rating?: LeadRating;
  /** Words of the title, of the person's name or of the company's. */
  q?: string;
}
type Paged = LeadFilter & { cursor?: string; limit: number };
interface PageOfIds {
  ids: string[];
  next: string | null;
}

function conditions({ status, owner, source, rating, q = '' }: LeadFilter): {
  sql: string;
  replacements: Record<string, string | string[]>;
} {
  const held = [
    nameHolds('l', 'l.id', q),
    nameHolds('p', 'l.person_id', q),
    nameHolds('c', 'l.company_id', q),
  ];
  const parts = [
    status && 'coalesce(l.status_term, l.status) = :status',
    owner && 'l.owner_id = :owner',
    source && 'l.source = :source',
    rating && 'lead_heat(l.rating) = lead_heat(:rating)',
    q.trim() && `(${held.map(({ sql }) => `(${sql})`).join(' OR ')})`,
  ].filter(Boolean);
  return { sql: parts.join(' AND ') || 'true', replacements: held[0]?.replacements ?? {} };
}

const ask = <Row extends object>(
  context: Context,
  sql: string,
  replacements: Record<string, unknown>,
): Promise<Row[]> =>
  context.sequelize.query<Row>(sql, { replacements, type: QueryTypes.SELECT, transaction: context.tx });

/** Ids of leads by how far from closed they are, newest first within a status. */
export async function leadsByStatus(context: Context, query: Paged): Promise<PageOfIds> {
  const [openness = '', at = '', last = ''] = decodeCursor(query.cursor, 3);
  const { sql, replacements } = conditions(query);
  const rows = await ask<{ id: string; openness: number; at: string }>(
    context,
    `SELECT l.id, lead_openness(l.status) AS openness, l.created_at::text AS at FROM leads l
      WHERE ${sql}
        ${last ? 'AND (lead_openness(l.status), l.created_at, l.id) < (:openness::smallint, :at::timestamptz, :last::uuid)' : ''}
      ORDER BY lead_openness(l.status) DESC, l.created_at DESC, l.id DESC LIMIT :most`,
    { ...replacements, ...query, openness, at, last, most: query.limit + 1 },
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
  const { sql, replacements } = conditions(query);
  const found: { id: string; key: string; part: number }[] = [];
  for (let part = Number(from); part < PARTS.length && found.length <= query.limit; part++) {
    const one = PARTS[part];
    if (!one) break;
    const isGoingOn = part === Number(from) && last !== '';
    const rows = await ask<{ id: string; key: string }>(
      context,
      `SELECT l.id, ${one.key} AS key FROM ${one.from} WHERE ${one.where} AND ${sql}
          ${isGoingOn ? `AND (${one.column}, ${one.id}) < (:key::${one.type}, :last::uuid)` : ''}
        ORDER BY ${one.column} DESC, ${one.id} DESC LIMIT :most`,
      { ...replacements, ...query, key, last, most: query.limit + 1 - found.length },
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

const SCORED = { sql: 's.lead_id', type: 'uuid' } as const;
const SORTS = {
  status: { sql: 'lead_openness(l.status)', type: 'smallint', isRequired: true },
  chance: { sql: 's.chance', type: 'real', tie: SCORED },
  fit: { sql: 's.fit', type: 'integer', tie: SCORED },
  warmth: { sql: 's.warmth', type: 'integer', tie: SCORED },
  rating: { sql: 'lead_heat(l.rating)', type: 'smallint' },
  title: { sql: 'l.title', type: 'text', isRequired: true },
  created: { sql: 'l.created_at', type: 'timestamptz', isRequired: true },
} as const satisfies Record<string, SortKey>;

export type LeadSort = keyof typeof SORTS;

/** Ids of leads by one of their columns. */
export async function leadsBy(
  context: Context,
  query: Paged & { sort: LeadSort; direction: 'asc' | 'desc' },
): Promise<PageOfIds> {
  const { sql, replacements } = conditions(query);
  const isScored = SORTS[query.sort].sql.startsWith('s.');
  return sortedIds(
    context,
    {
      from: `leads l${isScored ? ' LEFT JOIN lead_scores s ON s.lead_id = l.id' : ''}`,
      id: 'l.id',
      where: sql,
      replacements: { ...query, ...replacements },
    },
    { ...query, key: SORTS[query.sort] },
  );
}
