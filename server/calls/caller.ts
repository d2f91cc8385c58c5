import type { CallDetail, CallRow } from '@emporikon/contract/calls';
import { showPhone } from '@emporikon/core/people/phones';
import { QueryTypes } from 'sequelize';
import type { Context } from '../commands/context';
import { Call } from '../db/models/calls';
import { notFound } from '../http/problems';
import { inOrderOf, sortedIds, type SortKey } from '../http/sorting';
import { nameHolds } from '../search/filter';
import { deliveriesOf } from '../outbox/queries';
import { knownPeople } from '../people/known';

const MOST = 5;

/** The people a number belongs to: usually one, several where they share it. By index, whatever the size of the book. */
export async function personsByNumber(context: Context, number: string): Promise<string[]> {
  const rows = await context.sequelize.query<{ id: string }>(
    `SELECT person_id AS id FROM contact_points WHERE kind = 'phone' AND normalized COLLATE "C" = :number ORDER BY created_at LIMIT ${MOST}`,
    { replacements: { number }, type: QueryTypes.SELECT, transaction: context.tx },
  );
  return rows.map((row) => row.id);
}

interface Row {
  id: string;
  direction: 'in' | 'out';
  from_number: string;
  to_number: string;
  state: CallRow['state'];
  started_at: Date;
  ended_at: Date | null;
  person_id: string | null;
  person: string | null;
  rep: string | null;
  saved_at: Date | null;
}

const SELECT = `SELECT c.id, c.direction, c.from_number, c.to_number, c.state, c.started_at, c.ended_at, c.person_id, p.full_name AS person, u.name AS rep, c.saved_at
  FROM calls c LEFT JOIN people p ON p.id = c.person_id LEFT JOIN users u ON u.id = c.user_id`;

const theirs = (row: Row): string => (row.direction === 'in' ? row.from_number : row.to_number);

const asRow = (row: Row): CallRow => ({
  id: row.id,
  direction: row.direction,
  number: theirs(row),
  written: theirs(row) ? showPhone(theirs(row)) : 'a withheld number',
  state: row.state,
  startedAt: row.started_at.toISOString(),
  endedAt: row.ended_at?.toISOString() ?? null,
  person: row.person_id && row.person ? { id: row.person_id, name: row.person } : null,
  rep: row.rep,
  saved: row.saved_at !== null,
});

const SORTS = {
  startedAt: { sql: 'c.started_at', type: 'timestamptz', isRequired: true },
  person: { sql: 'p.full_name', type: 'text' },
  state: { sql: 'c.state', type: 'text', isRequired: true },
} as const satisfies Record<string, SortKey>;

const ONLY = {
  missed: "c.state = 'missed'",
  unlogged: "c.saved_at IS NULL AND c.state IN ('answered', 'ended', 'missed')",
} as const;

interface CallQuery {
  ringing: boolean;
  q?: string;
  way?: 'in' | 'out';
  state?: keyof typeof ONLY;
  sort: keyof typeof SORTS;
  direction?: 'asc' | 'desc';
  cursor?: string;
  limit: number;
}

/** Calls of one rep's line, newest first where nothing is said; with `ringing` those going on now. */
export async function callsOf(
  context: Context,
  userId: string,
  { ringing, q = '', way, state, sort, direction, cursor, limit }: CallQuery,
): Promise<{ items: CallRow[]; next: string | null }> {
  const digits = q.replace(/\D/g, '').replace(/^0+/, '');
  const held = nameHolds('p', 'c.person_id', q);
  const numberHolds =
    digits.length > 2
      ? ` OR CASE c.direction WHEN 'in' THEN c.from_number ELSE c.to_number END LIKE :digits`
      : '';
  const where = [
    'c.user_id = :userId',
    ringing && "c.state = 'ringing' AND c.started_at > :since",
    way && 'c.direction = :way',
    state && ONLY[state],
    q.trim() && `((${held.sql})${numberHolds})`,
  ];
  const { ids, next } = await sortedIds(
    context,
    {
      from: 'calls c LEFT JOIN people p ON p.id = c.person_id',
      id: 'c.id',
      where: where.filter(Boolean).join(' AND '),
      replacements: {
        ...held.replacements,
        userId,
        way,
        digits: `%${digits}%`,
        since: new Date(context.now().getTime() - 60_000),
      },
    },
    {
      sort,
      key: SORTS[sort],
      direction: direction ?? (sort === 'startedAt' ? 'desc' : 'asc'),
      cursor,
      limit,
    },
  );
  const rows = ids.length
    ? await context.sequelize.query<Row>(`${SELECT} WHERE c.id IN (:ids)`, {
        replacements: { ids },
        type: QueryTypes.SELECT,
        transaction: context.tx,
      })
    : [];
  return { items: inOrderOf(ids, rows).map(asRow), next };
}

export async function callRow(context: Context, id: string): Promise<CallRow> {
  const [row] = await context.sequelize.query<Row>(`${SELECT} WHERE c.id = :id`, {
    replacements: { id },
    type: QueryTypes.SELECT,
    transaction: context.tx,
  });
  if (!row) throw notFound('There is no such call.');
  return asRow(row);
}

/** One call with everybody it may be. */
export async function callDetail(context: Context, id: string): Promise<CallDetail> {
  const row = await callRow(context, id);
  const call = await Call.findByPk(id, { transaction: context.tx });
  const ids = row.person ? [row.person.id] : await personsByNumber(context, row.number);
  return {
    ...row,
    callers: await knownPeople(context, ids),
    transcript: call?.transcript ?? null,
    note: call?.note ?? '',
    captureId: call?.captureId ?? null,
    delivery: (await deliveriesOf(context, [id])).get(id) ?? null,
  };
}
