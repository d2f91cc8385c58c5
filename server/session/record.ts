import type { SignInEvent } from '@emporikon/contract/session';
import type { FastifyRequest } from 'fastify';
import { QueryTypes, type Transaction } from 'sequelize';
import type { Tools } from '../commands/context';

/** From where somebody comes: the address, and what their browser says it is. */
export interface Origin {
  address: string;
  device: string;
}
const LONGEST = 300;
export const originOf = (request: Pick<FastifyRequest, 'ip' | 'headers'>): Origin => ({
  address: request.ip,
  device: (request.headers['user-agent'] ?? '').slice(0, LONGEST),
});

const KEPT_DAYS = 180;

/** Keeps that somebody signed in, or tried to. @param userId null where nobody has the address */
export async function recordSignIn(
  { sequelize, newId, now }: Pick<Tools, 'sequelize' | 'newId' | 'now'>,
  what: SignInEvent,
  { userId, email, address, device }: Origin & { userId: string | null; email: string },
  transaction?: Transaction,
): Promise<void> {
  await sequelize.query(
    `WITH old AS (DELETE FROM sign_in_events WHERE at < $until)
     INSERT INTO sign_in_events (id, user_id, email, what, address, device, at) VALUES ($id, $userId, $email, $what, $address, $device, $now)`,
    {
      bind: {
        ...{ id: newId(), userId, email, what, address, device, now: now() },
        until: new Date(now().getTime() - KEPT_DAYS * 86_400_000),
      },
      type: QueryTypes.INSERT,
      ...(transaction ? { transaction } : {}),
    },
  );
}
