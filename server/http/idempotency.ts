import { createHash } from 'node:crypto';
import { setImmediate as nextTurn } from 'node:timers/promises';
import type { FastifyReply, FastifyRequest } from 'fastify';
import { QueryTypes, type Transaction } from 'sequelize';
import type { Context, Tools } from '../commands/context';
import { invalid } from './problems';

interface Kept {
  fingerprint: string;
  status: number | null;
  body: unknown;
}

const HASHED_AT_ONCE_BYTES = 4 * 1024 * 1024;

/** What a request is known by. A large body is hashed piece by piece, with others served in between. */
async function fingerprint({ method, url, body }: FastifyRequest): Promise<string> {
  const hash = createHash('sha256').update(`${method} ${url}\n`);
  if (!Buffer.isBuffer(body)) return hash.update(JSON.stringify(body ?? null)).digest('hex');
  for (let at = 0; at < body.length; at += HASHED_AT_ONCE_BYTES) {
    hash.update(body.subarray(at, at + HASHED_AT_ONCE_BYTES));
    await nextTurn();
  }
  return hash.digest('hex');
}

/** The key of a request that is answered once; null for one that brings none. */
function keyOf(request: FastifyRequest): string | null {
  const key = request.headers['idempotency-key'];
  if (request.method !== 'POST' || typeof key !== 'string' || !request.actor) return null;
  if (key.length < 1 || key.length > 200) throw invalid('The Idempotency-Key must have 1 to 200 characters.');
  return key;
}

async function load(
  { sequelize }: Pick<Tools, 'sequelize'>,
  request: FastifyRequest,
  key: string,
  transaction: Transaction | null,
): Promise<Kept | null> {
  const [kept] = await sequelize.query<Kept>(
    'SELECT fingerprint, status, body FROM idempotency_keys WHERE user_id = :user AND key = :key',
    { replacements: { user: request.actor?.id, key }, transaction, type: QueryTypes.SELECT },
  );
  return kept ?? null;
}

/** @throws 422 for a key that belongs to another request */
async function replay(request: FastifyRequest, reply: FastifyReply, kept: Kept | null): Promise<unknown> {
  if (!kept || kept.fingerprint !== (await fingerprint(request)))
    throw invalid('This Idempotency-Key was used for another request.');
  reply.code(kept.status ?? 200).header('idempotent-replay', 'true');
  return kept.body;
}

/** What this request was answered before, so that a retry does not wait for the world once more; null when it is new. */
export async function keptAnswer(
  tools: Tools,
  request: FastifyRequest,
  reply: FastifyReply,
): Promise<{ body: unknown } | null> {
  const key = keyOf(request);
  const kept = key === null ? null : await load(tools, request, key, null);
  return kept ? { body: await replay(request, reply, kept) } : null;
}

/** Never kept: what a person is shown once, such as an access token. A retry is answered without it. */
const SHOWN_ONCE = new Set(['token', 'password', 'secret', 'codes']);

const withoutSecrets = (body: unknown): unknown =>
  typeof body === 'object' && body !== null && !Array.isArray(body)
    ? Object.fromEntries(Object.entries(body).map(([key, one]) => [key, SHOWN_ONCE.has(key) ? '' : one]))
    : body;

/**
 * Runs a POST once for each `Idempotency-Key` of a person. The key is taken in the command's own transaction, so that
 * a command that failed or was cut off leaves no trace of it, and a second call waits for the first and gets its answer.
 */
export async function withIdempotencyKey(
  context: Context,
  request: FastifyRequest,
  reply: FastifyReply,
  run: () => Promise<unknown>,
): Promise<unknown> {
  const key = keyOf(request);
  if (key === null) return run();
  const replacements = {
    user: request.actor?.id,
    key,
    fingerprint: await fingerprint(request),
    now: context.now(),
  };
  const [taken] = await context.sequelize.query<{ key: string }>(
    `INSERT INTO idempotency_keys (user_id, key, fingerprint, created_at) VALUES (:user, :key, :fingerprint, :now)
     ON CONFLICT DO NOTHING RETURNING key`,
    { replacements, transaction: context.tx, type: QueryTypes.SELECT },
  );
  if (!taken) return replay(request, reply, await load(context, request, key, context.tx));
  const body = await run();
  await context.sequelize.query(
    'UPDATE idempotency_keys SET status = :status, body = :body WHERE user_id = :user AND key = :key',
    {
      replacements: { ...replacements, status: reply.statusCode, body: JSON.stringify(withoutSecrets(body)) },
      transaction: context.tx,
    },
  );
  return body;
}
