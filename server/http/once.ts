import { createHash } from 'node:crypto';
import type { FastifyReply, FastifyRequest } from 'fastify';
import { QueryTypes } from 'sequelize';
import type { Context } from '../commands/context';
import { invalid } from './problems';

interface Kept {
  fingerprint: string;
  status: number | null;
  body: unknown;
}

function fingerprint(request: FastifyRequest): string {
  const hash = createHash('sha256').update(`${request.method} ${request.url}\n`);
  return hash
    .update(Buffer.isBuffer(request.body) ? request.body : JSON.stringify(request.body ?? null))
    .digest('hex');
}

/**
 * Runs a POST once for each `Idempotency-Key` of a person. The key is taken in the command's own transaction, so that
 * a command that failed or was cut off leaves no trace of it, and a second call waits for the first and gets its answer.
 */
export async function once(
  context: Context,
  request: FastifyRequest,
  reply: FastifyReply,
  run: () => Promise<unknown>,
): Promise<unknown> {
  const key = request.headers['idempotency-key'];
  if (request.method !== 'POST' || typeof key !== 'string' || !context.actor) return run();
  if (key.length < 1 || key.length > 200) throw invalid('The Idempotency-Key must have 1 to 200 characters.');
  const replacements = { user: context.actor.id, key, fingerprint: fingerprint(request), now: context.now() };
  const [taken] = await context.sequelize.query<{ key: string }>(
    `INSERT INTO idempotency_keys (user_id, key, fingerprint, created_at) VALUES (:user, :key, :fingerprint, :now)
     ON CONFLICT DO NOTHING RETURNING key`,
    { replacements, transaction: context.tx, type: QueryTypes.SELECT },
  );
  if (!taken) {
    const [kept] = await context.sequelize.query<Kept>(
      'SELECT fingerprint, status, body FROM idempotency_keys WHERE user_id = :user AND key = :key',
      { replacements, transaction: context.tx, type: QueryTypes.SELECT },
    );
    if (!kept || kept.fingerprint !== replacements.fingerprint)
      throw invalid('This Idempotency-Key was used for another request.');
    reply.code(kept.status ?? 200).header('idempotent-replay', 'true');
    return kept.body;
  }
  const body = await run();
  await context.sequelize.query(
    'UPDATE idempotency_keys SET status = :status, body = :body WHERE user_id = :user AND key = :key',
    {
      replacements: { ...replacements, status: reply.statusCode, body: JSON.stringify(body) },
      transaction: context.tx,
    },
  );
  return body;
}
