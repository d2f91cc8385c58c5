import { requireActor } from '../commands/context';
import { AccessToken } from '../db/models/users';
import type { Handlers } from '../http/mount';
import { notFound } from '../http/problems';
import { hashToken, newToken } from './secrets';

export const tokenHandlers: Handlers = {
  'GET /api/tokens': async ({ context }) => {
    const tokens = await AccessToken.findAll({
      where: { userId: requireActor(context).id, revokedAt: null },
      order: ['createdAt'],
      transaction: context.tx,
    });
    return {
      items: tokens.map(({ id, name, createdAt, lastUsedAt }) => ({
        id,
        name,
        createdAt: createdAt.toISOString(),
        lastUsedAt: lastUsedAt?.toISOString() ?? null,
      })),
    };
  },
  'POST /api/tokens': async ({ body, context }) => {
    const token = newToken();
    const now = context.now();
    const made = await AccessToken.create(
      {
        id: context.newId(),
        userId: requireActor(context).id,
        name: body.name,
        tokenHash: hashToken(token),
        createdAt: now,
        lastUsedAt: null,
        revokedAt: null,
      },
      { transaction: context.tx },
    );
    return { id: made.id, name: made.name, createdAt: now.toISOString(), lastUsedAt: null, token };
  },
  'DELETE /api/tokens/:id': async ({ params, context }) => {
    const token = await AccessToken.findOne({
      where: { id: params.id, userId: requireActor(context).id },
      transaction: context.tx,
    });
    if (!token) throw notFound('You have no such token.');
    await token.update({ revokedAt: context.now() }, { transaction: context.tx });
    return { revoked: true };
  },
};
