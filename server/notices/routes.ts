import type { Notice } from '@emporikon/contract/notices';
import { QueryTypes } from 'sequelize';
import { requireActor, type Context } from '../commands/context';
import type { Handlers } from '../http/mount';
import { notFound } from '../http/problems';
import { decodeCursor, pageOf } from '../http/paging';

interface Row {
  id: string;
  kind: Notice['kind'];
  title: string;
  detail: string;
  actor: string | null;
  task_id: string | null;
  about: Notice['about'];
  at: Date;
  at_key: string;
  read_at: Date | null;
}

/** Where a notice is looked at: the narrowest of its records. */
const ABOUT = `CASE WHEN d.id IS NOT NULL THEN json_build_object('kind', 'deal', 'id', d.id, 'name', d.title)
  WHEN l.id IS NOT NULL THEN json_build_object('kind', 'lead', 'id', l.id, 'name', l.title)
  WHEN p.id IS NOT NULL THEN json_build_object('kind', 'person', 'id', p.id, 'name', p.full_name)
  WHEN c.id IS NOT NULL THEN json_build_object('kind', 'company', 'id', c.id, 'name', c.name) END`;

async function listNotices(
  context: Context,
  { cursor, limit }: { cursor?: string | undefined; limit: number },
): Promise<{ items: Notice[]; next: string | null }> {
  const [at = '', last = ''] = decodeCursor(cursor, 2);
  const rows = await context.sequelize.query<Row>(
    `SELECT n.id, n.kind, n.task_id, n.title, n.detail, u.name AS actor, n.at, n.at::text AS at_key, n.read_at, ${ABOUT} AS about
       FROM notices n LEFT JOIN users u ON u.id = n.actor_id LEFT JOIN deals d ON d.id = n.deal_id LEFT JOIN leads l ON l.id = n.lead_id
       LEFT JOIN people p ON p.id = n.person_id LEFT JOIN companies c ON c.id = n.company_id
      WHERE n.user_id = :me ${last ? 'AND (n.at, n.id) < (:at::timestamptz, :last::uuid)' : ''}
      ORDER BY n.at DESC, n.id DESC LIMIT :most`,
    {
      replacements: { me: requireActor(context).id, at, last, most: limit + 1 },
      type: QueryTypes.SELECT,
      transaction: context.tx,
    },
  );
  return pageOf(
    rows,
    limit,
    (row) => ({
      id: row.id,
      kind: row.kind,
      title: row.title,
      detail: row.detail,
      actor: row.actor,
      about: row.about,
      taskId: row.task_id,
      at: row.at.toISOString(),
      isRead: row.read_at !== null,
    }),
    (row) => [row.at_key, row.id],
  );
}

/** Marks notices of whoever asks. @returns how many */
async function mark(context: Context, isRead: boolean, id: string | null): Promise<number> {
  const rows = await context.sequelize.query(
    `UPDATE notices SET read_at = ${isRead ? 'coalesce(read_at, :now)' : 'NULL'}
      WHERE user_id = :me AND ${id ? 'id = :id' : 'read_at IS NULL'} RETURNING id`,
    {
      replacements: { me: requireActor(context).id, id, now: context.now() },
      type: QueryTypes.SELECT,
      transaction: context.tx,
    },
  );
  return rows.length;
}

export const noticeHandlers: Handlers = {
  'GET /api/notices': ({ query, context }) => listNotices(context, query),
  'PATCH /api/notices/:id': async ({ params, body, context }) => {
    if (!(await mark(context, body.isRead, params.id))) throw notFound('There is no such notice.');
    return { isRead: body.isRead };
  },
  'POST /api/notices/read': async ({ context }) => ({ marked: await mark(context, true, null) }),
};
