import type { CallDetail, CallRow } from '@emporikon/contract/calls';
import { showPhone } from '@emporikon/core/people/phones';
import { QueryTypes } from 'sequelize';
import type { Context } from '../commands/context';
import { Call } from '../db/models/calls';
import { notFound } from '../http/problems';
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

/** Calls of one rep's line, newest first; with `ringing` those going on now. */
export async function callsOf(
  context: Context,
  userId: string,
  { ringing, limit }: { ringing: boolean; limit: number },
): Promise<CallRow[]> {
  const rows = await context.sequelize.query<Row>(
    `${SELECT} WHERE c.user_id = :userId ${ringing ? "AND c.state = 'ringing' AND c.started_at > :since" : ''} ORDER BY c.started_at DESC LIMIT :limit`,
    {
      replacements: { userId, limit, since: new Date(context.now().getTime() - 60_000) },
      type: QueryTypes.SELECT,
      transaction: context.tx,
    },
  );
  return rows.map(asRow);
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
