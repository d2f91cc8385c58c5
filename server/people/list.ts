import type { PersonRow } from '@emporikon/contract/people';
import { joinTurns } from '@emporikon/core/ledger/turn';
import { QueryTypes } from 'sequelize';
import type { Context } from '../commands/context';
import { isNewFor } from '../ledger/looks';
import { turnsOfPeople, type Contact } from '../ledger/turns';
import { decodeCursor, encodeCursor } from '../http/paging';
import { notFound } from '../http/problems';
import { inOrderOf, sortedIds, type SortKey } from '../http/sorting';
import { nameHolds } from '../search/filter';
import { nextMoves } from '../tasks/queries';
import { namesHolding, type Named } from './byName';

interface Row {
  id: string;
  full_name: string;
  job_title: string | null;
  company_id: string | null;
  company: string | null;
  standing: PersonRow['standing'];
  standing_term: string | null;
  email: string | null;
  phone: string | null;
  owner: string | null;
  inactive: boolean;
  updated_at: Date;
}

const SELECT = `SELECT p.id, p.full_name, p.job_title, p.company_id, c.name AS company, p.standing, p.standing_term, p.inactive_since IS NOT NULL AS inactive, u.name AS owner, p.updated_at,
    (SELECT value FROM contact_points k WHERE k.person_id = p.id AND kind = 'email' ORDER BY created_at LIMIT 1) AS email,
    (SELECT normalized FROM contact_points k WHERE k.person_id = p.id AND kind = 'phone' AND type IS DISTINCT FROM 'fax' ORDER BY (type = 'mobile') DESC, created_at LIMIT 1) AS phone
  FROM people p LEFT JOIN companies c ON c.id = p.company_id LEFT JOIN users u ON u.id = p.owner_id`;
const ACTIVE = {
  without: 'p.inactive_since IS NULL',
  only: 'p.inactive_since IS NOT NULL AND p.erased_at IS NULL',
  with: 'p.erased_at IS NULL',
} as const;

/** Rows with whose turn it is, when they were spoken with last, and what comes next. */
async function withTurns(context: Context, rows: readonly Row[]): Promise<PersonRow[]> {
  const ids = rows.map((row) => row.id);
  const turns = await turnsOfPeople(context, ids);
  const moves = await nextMoves(context, 'person_id', ids);
  return rows.map((row) => {
    const contact = turns.get(row.id) ?? NOTHING_SAID;
    return {
      ...asRow(row, contact),
      daysQuiet: contact.spokenAt ? daysSince(contact.spokenAt, context) : null,
      nextMove: moves.get(row.id) ?? null,
    };
  });
}

const DAY_MS = 86_400_000;
const daysSince = (iso: string, { now }: Context): number =>
  Math.max(0, Math.floor((now().getTime() - Date.parse(iso)) / DAY_MS));
const NOTHING_SAID = { ...joinTurns([]), spokenAt: null, touchedAt: null };
const asRow = (row: Row, contact: Contact): Omit<PersonRow, 'daysQuiet' | 'nextMove'> => ({
  id: row.id,
  fullName: row.full_name,
  jobTitle: row.job_title,
  company: row.company_id && row.company ? { id: row.company_id, name: row.company } : null,
  standing: row.standing,
  standingTerm: row.standing_term,
  email: row.email,
  phone: row.phone,
  owner: row.owner,
  inactive: row.inactive,
  updatedAt: row.updated_at.toISOString(),
  turn: { turn: contact.turn, since: contact.since, because: contact.because },
  spokenAt: contact.spokenAt,
  touchedAt: contact.touchedAt,
});

/** A person's company is read along its name, so that no order of all people is ever made. */
const SORTS = {
  name: { sql: 'p.full_name', type: 'text', isRequired: true, tie: { sql: 'p.id::text', type: 'text' } },
  jobTitle: { sql: 'p.job_title', type: 'text' },
  company: { sql: 'c.name', type: 'text' },
  standing: { sql: 'coalesce(p.standing_term, p.standing)', type: 'text', isRequired: true },
} as const satisfies Record<string, SortKey>;

interface Query {
  q?: string;
  tag?: string;
  list?: string;
  news?: 'mine';
  inactive: keyof typeof ACTIVE;
  sort: keyof typeof SORTS;
  direction?: 'asc' | 'desc';
  cursor?: string;
  limit: number;
}
interface Page {
  items: PersonRow[];
  next: string | null;
}

const ask = (context: Context, where: string, replacements: Record<string, unknown>): Promise<Row[]> =>
  context.sequelize.query<Row>(`${SELECT} WHERE ${where}`, {
    replacements,
    type: QueryTypes.SELECT,
    transaction: context.tx,
  });

/** Batches of those whose name holds the words are looked at until a page is full; few are left out. */
async function pageByName(
  context: Context,
  { q = '', inactive, cursor, limit }: Query,
): Promise<Page | null> {
  const [name = '', id = ''] = decodeCursor(cursor, 2);
  let after: Named | null = id ? { name, id } : null;
  const rows: Row[] = [];
  while (rows.length <= limit) {
    const batch = await namesHolding(context, q, after, limit + 1);
    if (!batch) return null;
    const ids = batch.map((one) => one.id);
    if (ids.length)
      rows.push(
        ...(await ask(context, `p.id IN (:ids) AND ${ACTIVE[inactive]} ORDER BY p.full_name, p.id::text`, {
          ids,
        })),
      );
    after = batch.at(-1) ?? null;
    if (batch.length <= limit) break;
  }
  const page = rows.slice(0, limit);
  const end = page.at(-1);
  return {
    items: await withTurns(context, page),
    next: rows.length > limit && end ? encodeCursor([end.full_name, end.id]) : null,
  };
}

/**
 * People by one of their columns, by name as it is spoken at first, without the inactive unless they are asked for;
 * optionally those whose name holds every word of `q`.
 */
export async function listPeople(context: Context, query: Query): Promise<Page> {
  const { sort, direction = 'asc', cursor, limit } = query;
  const isByName = sort === 'name' && direction === 'asc';
  const byName =
    isByName && query.q && !query.tag && !query.list && !query.news ? await pageByName(context, query) : null;
  if (byName) return byName;
  const held = nameHolds('p', 'p.id', query.q ?? '');
  const { ids, next } = await sortedIds(
    context,
    {
      from: `people p${sort === 'company' ? ' LEFT JOIN companies c ON c.id = p.company_id' : ''}`,
      id: 'p.id',
      where: `${held.sql} AND ${ACTIVE[query.inactive]}
        ${query.tag ? 'AND p.tags @> ARRAY[:tag]::text[]' : ''}
        ${query.list ? 'AND EXISTS (SELECT 1 FROM list_members m WHERE m.person_id = p.id AND m.list_id = :list)' : ''}
        ${query.news ? `AND ${isNewFor('people', 'p.id')}` : ''}`,
      replacements: {
        ...held.replacements,
        tag: query.tag ?? null,
        list: query.list ?? null,
        reader: context.actor?.id ?? null,
      },
    },
    { sort, key: SORTS[sort], direction, cursor, limit },
  );
  const rows = ids.length ? await ask(context, 'p.id IN (:ids)', { ids }) : [];
  return { items: await withTurns(context, inOrderOf(ids, rows)), next };
}

export async function personRow(context: Context, id: string): Promise<PersonRow> {
  const [row] = await ask(context, 'p.id = :id', { id });
  const [person] = row ? await withTurns(context, [row]) : [];
  if (!person) throw notFound('There is no such person.');
  return person;
}
