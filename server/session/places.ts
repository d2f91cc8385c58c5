import type { SignIn } from '@emporikon/contract/session';
import { QueryTypes } from 'sequelize';
import { requireActor, type Context } from '../commands/context';
import type { Handlers } from '../http/mount';
import { decodeCursor, pageOf } from '../http/paging';
import { notFound } from '../http/problems';
import { endSessions } from './end';
import { hashToken, SESSION_COOKIE } from './secrets';

interface Row {
  id: string;
  device: string;
  address: string;
  created_at: Date;
  last_seen_at: Date;
  token_hash: string;
}

const mySessions = (context: Context): Promise<Row[]> =>
  context.sequelize.query<Row>(
    'SELECT id, device, address, created_at, last_seen_at, token_hash FROM sessions WHERE user_id = $id AND expires_at > $now ORDER BY last_seen_at DESC, id LIMIT 100',
    {
      bind: { id: requireActor(context).id, now: context.now() },
      type: QueryTypes.SELECT,
      transaction: context.tx,
    },
  );

/** Sign-ins, newest first: of one account, or of all. */
async function signIns(
  context: Context,
  userId: string | null,
  { cursor, limit }: { cursor?: string | undefined; limit: number },
): Promise<{ items: SignIn[]; next: string | null }> {
  const [at = '', last = ''] = decodeCursor(cursor, 2);
  const where = [
    userId ? 'e.user_id = :userId' : '',
    last ? '(e.at, e.id) < (:at::timestamptz, :last::uuid)' : '',
  ].filter(Boolean);
  const rows = await context.sequelize.query<SignIn & { key: string }>(
    `SELECT e.id, e.email, u.name, e.what, e.address, e.device, to_char(e.at AT TIME ZONE 'UTC', 'YYYY-MM-DD"T"HH24:MI:SS.MS"Z"') AS at, e.at::text AS key
       FROM sign_in_events e LEFT JOIN users u ON u.id = e.user_id ${where.length ? `WHERE ${where.join(' AND ')}` : ''}
      ORDER BY e.at DESC, e.id DESC LIMIT :most`,
    {
      replacements: { userId, at, last, most: limit + 1 },
      type: QueryTypes.SELECT,
      transaction: context.tx,
    },
  );
  return pageOf(
    rows,
    limit,
    ({ key: _key, ...row }) => row,
    (row) => [row.key, row.id],
  );
}

/** Where somebody is signed in, and who signed in or tried to. */
export const placeHandlers: Handlers = {
  'GET /api/sessions': async ({ context, request }) => {
    const here = hashToken(request.cookies[SESSION_COOKIE] ?? '');
    const rows = await mySessions(context);
    return {
      items: rows.map(({ id, device, address, created_at, last_seen_at, token_hash }) => ({
        ...{ id, device, address },
        createdAt: created_at.toISOString(),
        lastSeenAt: last_seen_at.toISOString(),
        isHere: token_hash === here,
      })),
    };
  },
  'DELETE /api/sessions/:id': async ({ params, context }) => {
    const found = (await mySessions(context)).find(({ id }) => id === params.id);
    if (!found) throw notFound('There is no such session; it may have ended by itself.');
    await endSessions(context, { tokenHash: found.token_hash });
    return { signedOut: true as const };
  },
  'GET /api/sign-ins': async ({ query, context }) => signIns(context, requireActor(context).id, query),
  'GET /api/admin/sign-ins': async ({ query, context }) => signIns(context, null, query),
};
