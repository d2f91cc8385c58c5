import type { Reply } from '@emporikon/contract';
import type { Delivery, OutboxItem } from '@emporikon/contract/outbox';
import { QueryTypes } from 'sequelize';
import type { Context } from '../commands/context';
import type { OutboxState } from '../db/models/outbox';
import { decodeCursor, pageOf } from '../http/paging';

interface Row {
  id: string;
  kind: string;
  about_table: string;
  about_id: string;
  state: OutboxState;
  tries: number;
  trouble: string | null;
  created_at: Date;
  next_try_at: Date | null;
  deadline: Date;
}

const asDelivery = (row: Row): Delivery => ({
  id: row.id,
  state: row.state,
  tries: row.tries,
  trouble: row.trouble,
  nextTryAt: row.next_try_at?.toISOString() ?? null,
  deadline: row.deadline.toISOString(),
});

const asItem = (row: Row): OutboxItem => ({
  ...asDelivery(row),
  kind: row.kind,
  aboutTable: row.about_table,
  aboutId: row.about_id,
  createdAt: row.created_at.toISOString(),
});

/** What became of the last thing that each of these rows sent out. */
export async function deliveriesOf(
  context: Context,
  aboutIds: readonly string[],
): Promise<Map<string, Delivery>> {
  if (!aboutIds.length) return new Map();
  const rows = await context.sequelize.query<Row>(
    'SELECT DISTINCT ON (about_id) * FROM outbox WHERE about_id IN (:aboutIds) ORDER BY about_id, created_at DESC',
    { replacements: { aboutIds }, type: QueryTypes.SELECT, transaction: context.tx },
  );
  return new Map(rows.map((row) => [row.about_id, asDelivery(row)]));
}

/** Everything that has not gone out, newest first. */
export async function listOutbox(
  context: Context,
  query: { cursor?: string | undefined; limit: number },
): Promise<Reply<'GET /api/outbox'>> {
  const [at = '', id = ''] = decodeCursor(query.cursor, 2);
  const rows = await context.sequelize.query<Row>(
    `SELECT * FROM outbox
      WHERE state <> 'sent' AND (:at = '' OR (created_at, id) < (nullif(:at, '')::timestamptz, nullif(:id, '')::uuid))
      ORDER BY created_at DESC, id DESC LIMIT :limit`,
    { replacements: { at, id, limit: query.limit + 1 }, type: QueryTypes.SELECT, transaction: context.tx },
  );
  return pageOf(rows, query.limit, asItem, (row) => [row.created_at.toISOString(), row.id]);
}
